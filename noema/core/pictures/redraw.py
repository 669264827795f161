"""A picture as a few tubes and white would give it: every place takes the nearest mix."""

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.srgb import lab_to_linear, linear_to_lab, linear_to_srgb, srgb_to_linear
from noema.core.pictures.colours import Floats
from noema.core.pictures.net import nearest_mixes, whole_net
from noema.core.pigments.film import Surface
from noema.core.pigments.tube import Tube

Bytes = NDArray[np.uint8]

_BITS = 6  # of a channel by which colours are told apart: a step is under 2 CIEDE2000 nearly always
_SLACK = 0.5  # of distances by Lab, among which CIEDE2000 then chooses
_DROPPED = 8 - _BITS


def redrawn(rgb: Bytes, tubes: tuple[Tube, ...], white: Tube, surface: Surface) -> Bytes:
    """Give an sRGB picture (h, w, 3) in the nearest mixes of some tubes and white, in sRGB.

    No colour is blended from two mixes afterwards, so that every pixel is one that can be mixed.
    """
    keys = _keys(rgb)
    used = np.zeros(1 << 3 * _BITS, dtype=bool)
    used[keys] = True
    which = np.flatnonzero(used)
    table = np.zeros((len(used), 3), dtype=np.uint8)
    table[which] = as_bytes(
        nearest_mixes(whole_net(tubes, white, surface), _labs(which), _SLACK).lab
    )
    return table[keys]


def as_bytes(lab: Floats) -> Bytes:
    """Give colours (..., 3) in Lab as sRGB bytes, clipped to what a screen shows."""
    srgb = np.clip(linear_to_srgb(lab_to_linear(lab)), 0.0, 1.0)
    return np.asarray(np.rint(255.0 * srgb), dtype=np.uint8)


def _keys(rgb: Bytes) -> NDArray[np.int32]:
    red, green, blue = (rgb[..., n].astype(np.int32) >> _DROPPED for n in range(3))
    return (red << 2 * _BITS) | (green << _BITS) | blue


def _labs(keys: NDArray[np.intp]) -> Floats:
    """Give the colours in the middles of what keys stand for."""
    least = (1 << _BITS) - 1
    parts = np.stack([keys >> 2 * _BITS, keys >> _BITS & least, keys & least], axis=-1)
    return linear_to_lab(srgb_to_linear((parts + 0.5) / (least + 1)))
