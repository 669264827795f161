"""What a photograph suffers from as a whole, as flags."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.light import LightField
from noema.core.photo.parameters.light import LIGHT, LightParameters
from noema.core.photo.reading import SheetFlag
from noema.core.photo.straighten import PX_PER_MM
from noema.core.sheet.layout import Marker


def sheet_flags(
    light: LightField,
    bytes_rgb: NDArray[np.uint8],
    blur_mm: float,
    px_per_mm: float,
    *,
    cropped: bool,
    reference_seen: bool,
    grey_print: bool,
    parameters: LightParameters = LIGHT,
) -> tuple[SheetFlag, ...]:
    """Say what a straightened photograph suffers from."""
    field = light.over(12, 9).mean(axis=2)
    burnt = float((bytes_rgb[::8, ::8].max(axis=2) >= parameters.burnt_byte).mean())
    seen = {
        SheetFlag.BLURRED: blur_mm > parameters.blur_mm,
        SheetFlag.DARK: float(np.median(field)) < parameters.dark_paper,
        SheetFlag.OVEREXPOSED: burnt > parameters.burnt_share,
        SheetFlag.CROPPED: cropped,
        SheetFlag.UNEVEN_LIGHT: float(field.max() / field.min()) > parameters.uneven,
        SheetFlag.NO_REFERENCE: not reference_seen,
        SheetFlag.GREY_PRINT: grey_print,
        SheetFlag.LOW_RESOLUTION: px_per_mm < parameters.low_px_per_mm,
    }
    return tuple(flag for flag, holds in seen.items() if holds)


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
