"""A picture's colours, small enough to think about."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.wide import wide_to_lab
from noema.core.photo.picture import Picture

Floats = NDArray[np.float64]

_LONGEST_PX = 400  # of a side, at which a picture is thought about: a brush is no finer
_STRIP = 32  # rows of the small picture made at a time
_BIN = 5.0  # of Lab, in which colours count as one


@dataclass(frozen=True, kw_only=True, eq=False)
class PictureColours:
    """A picture made small; light was averaged, not numbers of the file."""

    wide: Floats  # (h, w, 3) linear BT.2020
    lab: Floats  # (h, w, 3)


@dataclass(frozen=True, kw_only=True, eq=False)
class ColourShares:
    """The colours of a picture and how much of it each takes."""

    lab: Floats  # (n, 3)
    share: Floats  # (n,), summing to 1
    which: NDArray[np.intp]  # (h, w) the colour of every pixel, by its row here


def colours_of_picture(picture: Picture) -> PictureColours:
    """Give a picture's colours, its longer side at most 400 px."""
    by = -(-max(picture.rgb.shape[:2]) // _LONGEST_PX)
    # A strip at a time: a large picture in floating point would fill a small machine.
    rows = range(0, picture.rgb.shape[0], by * _STRIP)
    strips = [
        _averaged(np.asarray(picture.linear(picture.rgb[row : row + by * _STRIP]), float), by)
        for row in rows
    ]
    return colours_of_wide(np.concatenate(strips) @ picture.to_wide.T)


def colours_of_wide(wide: Floats) -> PictureColours:
    """Give the colours of linear BT.2020 (h, w, 3)."""
    return PictureColours(wide=wide, lab=wide_to_lab(wide))


def _averaged(linear: Floats, by: int) -> Floats:
    """Average squares of so many pixels; at the far edges of what is left of one."""
    for axis in (0, 1):
        starts = np.arange(0, linear.shape[axis], by)
        counts = np.diff(np.append(starts, linear.shape[axis]))
        shape = [1, 1, 1]
        shape[axis] = len(counts)
        linear = np.add.reduceat(linear, starts, axis=axis) / counts.reshape(shape)
    return linear


def shares_of_colours(colours: PictureColours) -> ColourShares:
    """Gather like colours, with their shares of the area, the largest first."""
    flat = colours.lab.reshape(-1, 3)
    bins = np.floor(flat / _BIN).astype(int)
    _, which, counts = np.unique(bins, axis=0, return_inverse=True, return_counts=True)
    which = which.ravel()
    lab = np.stack([np.bincount(which, weights=flat[:, n]) / counts for n in range(3)], axis=-1)
    order = np.argsort(-counts, kind="stable")
    rank = np.empty_like(order)
    rank[order] = np.arange(len(order))
    return ColourShares(
        lab=lab[order],
        share=(counts / counts.sum())[order],
        which=rank[which].reshape(colours.lab.shape[:2]),
    )
