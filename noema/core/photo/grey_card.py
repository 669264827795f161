"""A card of one grey lying on blank paper: the one even, neutral thing that is no paper."""

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.page import Page, in_squares
from noema.core.photo.sample import LUMINANCE
from noema.core.photo.straighten import PX_PER_MM
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]

_SQUARE_MM = 3.0
_LEAST_MM2 = 800.0  # of a card worth the name
_DARKEST, _LIGHTEST = 0.02, 0.85  # light over paper's
_TINT = 0.35  # of its light, by which a channel of grey may differ under a camera's own colours
_ROUGH = 0.08  # spread within a square, as a share


def find_grey(page: Page) -> Floats | None:
    """Give a grey card's colour over paper, linear (3,); None where none lies."""
    side = round(_SQUARE_MM * PX_PER_MM)
    mean, spread = in_squares(page.relative, side)
    light = mean @ LUMINANCE
    rows, columns = light.shape
    taken = page.taken[: rows * side, : columns * side].reshape(rows, side, columns, side)
    grey = (
        (light > _DARKEST)
        & (light < _LIGHTEST)
        & (np.abs(mean - light[..., None]).max(axis=2) < _TINT * light)
        & (spread.mean(axis=2) < _ROUGH * light)
        & ~taken.any(axis=(1, 3))
    )
    count, names, sizes, _ = cv2.connectedComponentsWithStats(grey.astype(np.uint8), connectivity=4)
    areas = sizes[:, cv2.CC_STAT_AREA] * _SQUARE_MM**2
    areas[0] = 0.0  # what isn't grey
    if count < 2 or areas.max() < _LEAST_MM2:
        return None
    return median_of(mean[names == int(np.argmax(areas))])
