"""What makes a photograph or a cell doubtful, as flags."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.light import LightField
from noema.core.photo.reading import CellFlag, SheetFlag
from noema.core.photo.sample import LUMINANCE, PaintSample
from noema.core.photo.shine import Shine
from noema.core.photo.straighten import PX_PER_MM
from noema.core.sheet.layout import Marker
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]

BLUR_MM = 0.9  # rise of a mark's edge, 10 to 90 %, from which cells run into each other
DARK_PAPER = 0.05  # linear: paper darker than this drowns in noise
BURNT_SHARE = 0.15  # of the page at the camera's top
UNEVEN_LIGHT = 2.2  # brightest paper over darkest
LOW_PX_PER_MM = 2.5

_DARK_BYTE = 60  # brightest twentieth of a picture nobody can read
_SOFT_SIDE_PX = 800  # of the longer side at which edges are looked for
_SOFT_CONTRAST, _SOFT_EDGE = 40.0, 15.0  # bytes: a sheet in focus has edges of 25 and more
_BURNT, _NEARLY_BLACK = 254, 6  # bytes at which a camera sees no more
_CLIPPED_SHARE = 0.3
_WET_SHARE, _SPOILED_SHARE = 0.5, 0.65  # of painted cells that shine, or shine or are uneven
_UNSURE = 6.0  # CIEDE2000: a guess beyond the file that is worse than this is no colour
_GLARE_SHARE = 0.03
_SHINE_OVER, _SHINE_LEAST, _SHINE_SURE = 0.07, 0.004, 1.5
"""Shine counts from a share of the paint's own light, a least amount, and so many sigmas."""
_GLARE_OVER = 1.8  # times the cell's own middle luminance
_EDGE_LOG = 0.15  # between paper on two sides of a cell: a shadow ends there
_UNEVEN_LOG = 0.12
_ODDLY_UNEVEN_LOG, _TIMES_UNEVEN = 0.05, 4.0
"""Less than that is uneven, too, where it is so many times what this hand lays: shine on grey."""
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


@dataclass(frozen=True, kw_only=True)
class Suspicions:
    """What the page round a cell says of it."""

    shine: Shine
    light_step: float  # between paper on two sides, in logarithms, after the light was evened
    inside: bool  # wholly in the picture
    usual_unevenness: float  # of the more even cells of this sheet


def cell_flags(
    sample: PaintSample, raw: NDArray[np.uint8], pixels: Floats, about: Suspicions, sigma: float
) -> tuple[CellFlag, ...]:
    """Say what a cell's pixels suffer from: bytes (n, 3) and colours (n, 3) relative to paper."""
    luminance = pixels @ LUMINANCE
    usual = float(median_of(luminance)) if len(luminance) else 1.0
    darkest = float(median_of(pixels.min(axis=1))) if len(pixels) else 1.0
    top = raw.max(axis=1) if len(raw) else np.zeros(1)
    sparks = (luminance > _GLARE_OVER * usual) & (top >= _BURNT)
    enough = max(_SHINE_OVER * darkest + _SHINE_LEAST, _SHINE_SURE * about.shine.sigma)
    shine = about.shine
    oddly = max(_ODDLY_UNEVEN_LOG, _TIMES_UNEVEN * about.usual_unevenness)
    shines = shine.broken or shine.beside or shine.amount > enough
    seen = {
        CellFlag.UNPAINTED: sample.bare,
        CellFlag.PARTLY_PAINTED: not sample.bare and sample.coverage < _PARTLY,
        CellFlag.GLARE: not sample.gaps
        and (shines or (len(sparks) > 0 and float(sparks.mean()) > _GLARE_SHARE)),
        CellFlag.SHADOW: about.light_step > _EDGE_LOG,
        CellFlag.CLIPPED: _clipped(raw) or (clipped_channel(raw) is not None and sigma > _UNSURE),
        CellFlag.UNEVEN: sample.unevenness > min(_UNEVEN_LOG, oddly),
        CellFlag.OUTSIDE: not about.inside,
    }
    return tuple(flag for flag, holds in seen.items() if holds)


def with_glare_all_over(flags: Sequence[tuple[CellFlag, ...]]) -> list[tuple[CellFlag, ...]]:
    """Mistrust every painted cell where so many shine that the rest hardly escaped."""
    painted = [one for one in flags if CellFlag.UNPAINTED not in one]
    shiny = sum(CellFlag.GLARE in one for one in painted)
    spoiled = sum(CellFlag.GLARE in one or CellFlag.UNEVEN in one for one in painted)
    many = shiny > _WET_SHARE * len(painted)
    if not many and not (shiny > 1 and spoiled > _SPOILED_SHARE * len(painted)):
        return list(flags)
    shone = (CellFlag.GLARE,)
    return [one if {CellFlag.UNPAINTED, *shone} & set(one) else (*one, *shone) for one in flags]


def clipped_channel(raw: NDArray[np.uint8]) -> int | None:
    """Give the channel of bytes (n, 3) in which an intense colour met the file's end, if one did.

    What lies beyond can be guessed from the other two; where two or more are at the end, it can't.
    """
    if not len(raw):
        return None
    low = median_of(raw) <= _NEARLY_BLACK
    return int(np.argmax(low)) if low.sum() == 1 else None


def _clipped(raw: NDArray[np.uint8]) -> bool:
    if not len(raw):
        return False
    burnt = float((raw >= _BURNT).mean(axis=0).max()) > _CLIPPED_SHARE
    return burnt or int((median_of(raw) <= _NEARLY_BLACK).sum()) > 1
