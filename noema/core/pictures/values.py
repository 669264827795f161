"""How dark and light a picture is: the share of each value, where it is darkest and lightest."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import distance_transform_edt, uniform_filter

from noema.core.colour.value import lightness_to_value
from noema.core.pictures.colours import Floats, PictureColours

STEPS = (2, 3, 5, 9)
"""Into how many values a picture is divided."""

_MOST = 10.0
_ALIKE = 0.05  # of a value, within which nobody tells two places apart
_PLACE_SHARE = 0.02  # of the longer side: a place is no smaller than a brush's mark


@dataclass(frozen=True, kw_only=True)
class ValueShare:
    """How much of a picture lies between two values."""

    lowest: float
    highest: float
    share: float


@dataclass(frozen=True, kw_only=True)
class ValuePlan:
    """A picture in a few values."""

    shares: tuple[ValueShare, ...]  # from dark to light
    darkest: tuple[float, float]  # shares of width and height
    lightest: tuple[float, float]


def values_of(colours: PictureColours) -> Floats:
    """Give every pixel's value (h, w), 0 to 10, by its lightness."""
    return np.clip(lightness_to_value(colours.lab[..., 0]), 0.0, _MOST)


def value_plan(colours: PictureColours, steps: int) -> ValuePlan:
    """Divide a picture into equal ranges of value, and find its darkest and lightest place."""
    values = values_of(colours)
    edges = np.linspace(0.0, _MOST, steps + 1)
    counts, _ = np.histogram(values, bins=edges)
    side = max(round(_PLACE_SHARE * max(values.shape)), 1)
    smooth = uniform_filter(values, side, mode="nearest")
    return ValuePlan(
        shares=tuple(
            ValueShare(lowest=float(low), highest=float(high), share=float(count / values.size))
            for low, high, count in zip(edges, edges[1:], counts, strict=False)
        ),
        darkest=_middle_of(smooth <= smooth.min() + _ALIKE),
        lightest=_middle_of(smooth >= smooth.max() - _ALIKE),
    )


def _middle_of(area: NDArray[np.bool_]) -> tuple[float, float]:
    """Give the place of an area that lies deepest in it, as shares of width and height."""
    height, width = area.shape
    depth = distance_transform_edt(np.pad(area, 1))[1:-1, 1:-1]
    row, column = divmod(int(np.argmax(depth)), width)
    return (column + 0.5) / width, (row + 0.5) / height
