"""What makes a photograph or a cell doubtful, as flags."""

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.light import LightField
from noema.core.photo.reading import CellFlag, SheetFlag
from noema.core.photo.sample import PaintSample
from noema.core.photo.straighten import PX_PER_MM
from noema.core.sheet.layout import Marker

Floats = NDArray[np.float64]

BLUR_MM = 0.9  # rise of a mark's edge, 10 to 90 %, from which cells run into each other
DARK_PAPER = 0.05  # linear: paper darker than this drowns in noise
BURNT_SHARE = 0.15  # of the page at the camera's top
UNEVEN_LIGHT = 2.2  # brightest paper over darkest
LOW_PX_PER_MM = 2.5

_DARK_BYTE = 60  # brightest twentieth of a picture nobody can read
_SOFT_SIDE_PX = 800  # of the longer side at which edges are looked for
_SOFT_CONTRAST, _SOFT_EDGE = 40.0, 15.0  # bytes: a sheet in focus has edges of 25 and more
_BURNT, _BLACK = 254, 1  # bytes at which a camera sees no more
_CLIPPED_SHARE = 0.3
_GLARE_SHARE = 0.03
_GLARE_OVER = 1.8  # times the cell's own middle luminance
_SHADE_LOG = -0.06
_UNEVEN_LOG = 0.16
_PARTLY = 0.75  # painted share under which a cell counts as partly painted


def sheet_flags(
    light: LightField,
    bytes_rgb: NDArray[np.uint8],
    blur_mm: float,
    px_per_mm: float,
    *,
    cropped: bool,
    reference_seen: bool,
    grey_only: bool,
) -> tuple[SheetFlag, ...]:
    """Say what a straightened photograph suffers from."""
    field = light.over(12, 9).mean(axis=2)
    burnt = float((bytes_rgb[::8, ::8].max(axis=2) >= _BURNT).mean())
    seen = {
        SheetFlag.BLURRED: blur_mm > BLUR_MM,
        SheetFlag.DARK: float(np.median(field)) < DARK_PAPER,
        SheetFlag.OVEREXPOSED: burnt > BURNT_SHARE,
        SheetFlag.CROPPED: cropped,
        SheetFlag.UNEVEN_LIGHT: float(field.max() / field.min()) > UNEVEN_LIGHT,
        SheetFlag.NO_REFERENCE: not reference_seen,
        SheetFlag.GREY_PRINT: grey_only,
        SheetFlag.LOW_RESOLUTION: px_per_mm < LOW_PX_PER_MM,
    }
    return tuple(flag for flag, holds in seen.items() if holds)


def why_no_sheet(picture: NDArray[np.uint8], some_marks: bool) -> tuple[SheetFlag, ...]:
    """Say what may have hidden a sheet that wasn't found in an RGB picture (h, w, 3)."""
    if float(np.percentile(picture[::8, ::8], 95)) < _DARK_BYTE:
        return (SheetFlag.NO_SHEET, SheetFlag.DARK)
    if _is_soft(picture):
        return (SheetFlag.NO_SHEET, SheetFlag.BLURRED)
    return (SheetFlag.NO_SHEET, SheetFlag.CROPPED) if some_marks else (SheetFlag.NO_SHEET,)


def _is_soft(picture: NDArray[np.uint8]) -> bool:
    """Whether there is light and dark in a picture but no edge between them."""
    scale = _SOFT_SIDE_PX / max(picture.shape[:2])
    small = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    calm = cv2.GaussianBlur(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), (0, 0), 1.0)
    low, high = np.percentile(calm, [2, 98])
    edges = np.percentile(np.abs(cv2.Laplacian(calm, cv2.CV_64F)), 99.5)
    return bool(high - low > _SOFT_CONTRAST and edges < _SOFT_EDGE)


def edge_blur_mm(bytes_rgb: NDArray[np.uint8], markers: Sequence[Marker]) -> float:
    """Measure how softly the marks' left and right edges rise, in mm of paper."""
    widths = []
    for marker in markers:
        (left, top), (right, bottom) = marker.corners_mm[0], marker.corners_mm[2]
        module = (right - left) / 6.0
        rows = slice(int((top + 0.2) * PX_PER_MM), int((bottom - 0.2) * PX_PER_MM))
        for edge, sign in ((left, 1), (right, -1)):
            span = np.arange(-module * 0.9, module * 0.9, 1.0 / PX_PER_MM)
            columns = np.rint((edge + sign * span) * PX_PER_MM - 0.5).astype(int)
            if columns.min() < 0 or columns.max() >= bytes_rgb.shape[1]:
                continue
            profile = bytes_rgb[rows][:, columns].mean(axis=(0, 2))
            height = float(profile.max() - profile.min())
            steepest = float(np.abs(np.diff(profile)).max()) * PX_PER_MM
            if height > 20:
                widths.append(0.8 * height / steepest)
    return float(np.median(widths)) if widths else 0.0


def cell_flags(
    sample: PaintSample,
    raw: NDArray[np.uint8],
    luminance: Floats,
    shade: float,
    *,
    inside: bool,
) -> tuple[CellFlag, ...]:
    """Say what a cell's pixels suffer from: bytes (n, 3) and luminance (n,) relative to paper."""
    middle = float(np.median(luminance)) if len(luminance) else 1.0
    top = np.maximum(np.maximum(raw[:, 0], raw[:, 1]), raw[:, 2])
    shiny = (luminance > _GLARE_OVER * middle) & (top >= _BURNT)
    seen = {
        CellFlag.UNPAINTED: sample.bare,
        CellFlag.PARTLY_PAINTED: not sample.bare and sample.coverage < _PARTLY,
        CellFlag.GLARE: float(shiny.mean()) > _GLARE_SHARE,
        CellFlag.SHADOW: shade < _SHADE_LOG,
        CellFlag.CLIPPED: _clipped(raw),
        CellFlag.UNEVEN: sample.unevenness > _UNEVEN_LOG,
        CellFlag.OUTSIDE: not inside,
    }
    return tuple(flag for flag, holds in seen.items() if holds)


def _clipped(raw: NDArray[np.uint8]) -> bool:
    """Whether a channel met the end of what the file can hold: an intense colour's often does."""
    if not len(raw):
        return False
    ends = (raw >= _BURNT).mean(axis=0), (raw <= _BLACK).mean(axis=0)
    return float(np.max(ends)) > _CLIPPED_SHARE
