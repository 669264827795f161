"""A card of one grey lying on blank paper: the one even, neutral thing that is no paper."""

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.page import Page, in_squares
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.photo.sample import LUMINANCE
from noema.core.photo.straighten import PX_PER_MM
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]


def find_grey(page: Page, parameters: ColourParameters = COLOUR) -> Floats | None:
    """Give a grey card's colour over paper, linear (3,); None where none lies."""
    side = round(parameters.grey_square_mm * PX_PER_MM)
    mean, spread = in_squares(page.relative, side)
    light = mean @ LUMINANCE
    rows, columns = light.shape
    taken = page.taken[: rows * side, : columns * side].reshape(rows, side, columns, side)
    grey = (
        (light > parameters.grey_darkest)
        & (light < parameters.grey_lightest)
        & (np.abs(mean - light[..., None]).max(axis=2) < parameters.grey_tint * light)
        & (spread.mean(axis=2) < parameters.grey_rough * light)
        & ~taken.any(axis=(1, 3))
    )
    count, names, sizes, _ = cv2.connectedComponentsWithStats(grey.astype(np.uint8), connectivity=4)
    areas = sizes[:, cv2.CC_STAT_AREA] * parameters.grey_square_mm**2
    areas[0] = 0.0  # what isn't grey
    if count < 2 or areas.max() < parameters.grey_least_mm2:
        return None
    return median_of(mean[names == int(np.argmax(areas))])
