"""The square marks: what they look like, and where they stand in a picture."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.parameters.identify import IDENTIFY, IdentifyParameters

DICTIONARY = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_250)
MODULES = 6  # of a mark's side, border included


@dataclass(frozen=True, kw_only=True, eq=False)
class FoundMarks:
    """The marks seen in a picture."""

    ids: tuple[int, ...]
    corners_px: NDArray[np.float64]  # (n, 4, 2), clockwise from each mark's own top left


NO_MARKS = FoundMarks(ids=(), corners_px=np.empty((0, 4, 2)))


def mark_modules(mark_id: int) -> NDArray[np.bool_]:
    """Give a mark's squares, shape (6, 6), True where black."""
    picture = cv2.aruco.generateImageMarker(DICTIONARY, mark_id, MODULES, borderBits=1)
    return np.asarray(picture) < 128


def find_marks(picture: NDArray[np.uint8], parameters: IdentifyParameters = IDENTIFY) -> FoundMarks:
    """Find marks in an RGB picture (h, w, 3): small first, corners refined at full size."""
    grey = np.asarray(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
    best = NO_MARKS
    for side, sharpen in parameters.looks:
        found = _find_at(grey, min(1.0, side / max(grey.shape)), sharpen, parameters)
        best = max(best, found, key=lambda one: len(one.ids))
        if parameters.enough_marks <= len(best.ids) == len(set(best.ids)):
            break  # marks seen twice are of several sheets, whose others may be small
    return best


def _find_at(
    grey: NDArray[np.uint8], scale: float, sharpen: bool, parameters: IdentifyParameters
) -> FoundMarks:
    small = cv2.resize(grey, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    if sharpen:
        soft = cv2.GaussianBlur(small, (0, 0), parameters.unsharp_px)
        small = cv2.addWeighted(small, 1.0 + parameters.unsharp, soft, -parameters.unsharp, 0.0)
    settings = cv2.aruco.DetectorParameters()
    settings.minMarkerPerimeterRate = parameters.least_perimeter
    settings.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_SUBPIX
    corners, ids, _ = cv2.aruco.ArucoDetector(DICTIONARY, settings).detectMarkers(small)
    if ids is None:
        return NO_MARKS
    # Pixel centres lie at half-integers when a picture changes size.
    points = (np.concatenate(corners).reshape(-1, 4, 2) + 0.5) / scale - 0.5
    if scale < 1.0:
        points = _refined(grey, points, scale)
    return FoundMarks(ids=tuple(int(n) for n in ids.ravel()), corners_px=points.astype(np.float64))


def _refined(
    grey: NDArray[np.uint8], points: NDArray[np.float32], scale: float
) -> NDArray[np.float32]:
    window = max(2, round(2.0 / scale))
    stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_COUNT, 20, 0.02)
    flat = np.ascontiguousarray(points.reshape(-1, 1, 2), dtype=np.float32)
    refined = cv2.cornerSubPix(grey, flat, (window, window), (-1, -1), stop)
    return np.asarray(refined, dtype=np.float32).reshape(-1, 4, 2)
