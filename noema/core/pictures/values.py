"""How dark and light a picture is: the share of each value, where it is darkest and lightest."""

from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import (
    distance_transform_edt,
    gaussian_filter,
    median_filter,
    uniform_filter,
    zoom,
)

from noema.core.colour.hvc import hvcs_of
from noema.core.colour.names import HueTable
from noema.core.colour.srgb import linear_to_srgb
from noema.core.colour.value import lightness_to_value
from noema.core.photo.picture import linear_of_srgb
from noema.core.photo.sample import LUMINANCE
from noema.core.pictures.colours import ColourShares, Floats, PictureColours

STEPS = (2, 3, 5, 9)
"""Into how many values a picture is divided."""

_MOST = 10.0
_ALIKE = 0.05  # of a value, within which nobody tells two places apart
_PLACE_SHARE = 0.02  # of the longer side: a place is no smaller than a brush's mark

_DRAWN_LARGER = 2  # times, in which edges are drawn
_EDGE_SHARE = 0.0025  # of the longer side, over which an edge is led as a brush would
_COLOURED = 2.0  # chroma from which a hue is seen
_SAME_VALUE = 0.25  # of a value within which two colours are one in grey
_APART_HUES = 3  # of twelve, from which two hues are plainly two
_LEAST_AREA = 0.01  # of the picture, that a colour takes to be pointed at


@dataclass(frozen=True, kw_only=True)
class ValueShare:
    """How much of a picture lies between two values."""

    lowest: float
    highest: float
    share: float
    mean: float | None  # value of what lies there; None where nothing does


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
    totals, _ = np.histogram(values, bins=edges, weights=values)
    side = max(round(_PLACE_SHARE * max(values.shape)), 1)
    smooth = uniform_filter(values, side, mode="nearest")
    return ValuePlan(
        shares=tuple(
            ValueShare(
                lowest=float(low),
                highest=float(high),
                share=float(count / values.size),
                mean=float(total / count) if count else None,
            )
            for low, high, count, total in zip(edges, edges[1:], counts, totals, strict=False)
        ),
        darkest=_middle_of(smooth <= smooth.min() + _ALIKE),
        lightest=_middle_of(smooth >= smooth.max() - _ALIKE),
    )


def posterised(colours: PictureColours, steps: int) -> NDArray[np.intp]:
    """Give a picture's values by range, 0 the darkest (h, w), with edges led as by a brush."""
    values = zoom(values_of(colours), _DRAWN_LARGER, order=1, mode="nearest", grid_mode=True)
    reach = _EDGE_SHARE * max(values.shape)
    smooth = gaussian_filter(values, reach, mode="nearest")
    which = np.clip((smooth * steps / _MOST).astype(np.intp), 0, steps - 1)
    return np.asarray(median_filter(which, size=2 * max(round(reach), 1) + 1, mode="nearest"))


def middle_values(steps: int) -> tuple[float, ...]:
    """Give the value in the middle of each range, from dark to light.

    >>> middle_values(2)
    (2.5, 7.5)
    """
    return tuple(_MOST * (n + 0.5) / steps for n in range(steps))


def in_grey(rgb: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """Give an sRGB picture (h, w, 3) by its luminance alone, (h, w)."""
    luminance = np.clip(linear_of_srgb(rgb) @ LUMINANCE, 0.0, 1.0)
    return np.asarray(np.rint(255.0 * linear_to_srgb(luminance)), dtype=np.uint8)


@dataclass(frozen=True, kw_only=True)
class SameValue:
    """Two places of different hue that are one grey."""

    places: tuple[tuple[float, float], tuple[float, float]]  # shares of width and height
    hues: tuple[str, str]  # of twelve
    value: float


def same_values(shares: ColourShares, table: HueTable, most: int = 3) -> tuple[SameValue, ...]:
    """Find pairs of places alike in value and unlike in hue, the largest first."""
    hvcs = hvcs_of(shares.lab)
    names = [hue.name for hue in table.hues(12)]
    groups: dict[tuple[int, float], list[int]] = {}
    for n, hvc in enumerate(hvcs):
        if hvc.hue100 is not None and hvc.chroma >= _COLOURED:
            hue = names.index(table.nearest(hvc.hue100, 12).name)
            groups.setdefault((hue, round(hvc.value / _SAME_VALUE)), []).append(n)
    area = {key: float(shares.share[rows].sum()) for key, rows in groups.items()}
    large = [key for key in groups if area[key] >= _LEAST_AREA]
    pairs = [
        (one, other)
        for one, other in combinations(large, 2)
        if one[1] == other[1] and _APART_HUES <= abs(one[0] - other[0]) <= 12 - _APART_HUES
    ]
    pairs.sort(key=lambda pair: -min(area[pair[0]], area[pair[1]]))
    found: list[SameValue] = []
    for one, other in pairs:
        hues = names[one[0]], names[other[0]]
        if len(found) < most and hues not in [same.hues for same in found]:
            places = (_place_of(shares, groups[one]), _place_of(shares, groups[other]))
            found.append(SameValue(places=places, hues=hues, value=_SAME_VALUE * one[1]))
    return tuple(found)


def _place_of(shares: ColourShares, rows: list[int]) -> tuple[float, float]:
    return _middle_of(np.isin(shares.which, rows))


def _middle_of(area: NDArray[np.bool_]) -> tuple[float, float]:
    """Give the place of an area that lies deepest in it, as shares of width and height."""
    height, width = area.shape
    depth = distance_transform_edt(np.pad(area, 1))[1:-1, 1:-1]
    row, column = divmod(int(np.argmax(depth)), width)
    return (column + 0.5) / width, (row + 0.5) / height
