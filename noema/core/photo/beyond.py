"""Colours beyond the file: what a picture cut off, guessed from what it kept.

Intense cyans and yellows have a negative red or blue in sRGB, and some of them in Display P3 too,
which the file can't hold. How far beyond paints usually lie is known from many stand-in cameras
(`data/beyond.csv`, made by tools/make_colour_prior.py).
"""

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.colour_fit import weight_of

Floats = NDArray[np.float64]

CHANNELS = (0, 2)
"""Red and blue; green is never the one that is cut off by paint."""

_TABLES = np.loadtxt(Path(__file__).parent / "data" / "beyond.csv", delimiter=",")
_SRGB, _WIDE = _TABLES.reshape(2, len(CHANNELS), 6, 3)
_ANY_GREEN = np.diag([0.05, 0.05, 0.05]) ** 2


@dataclass(frozen=True, kw_only=True, eq=False)
class Beyond:
    """How far a colour lies beyond what was seen."""

    move: Floats  # (3,) linear BT.2020 relative to paper
    covariance: Floats  # (3, 3)


def kept_terms(seen: Floats, channel: int) -> Floats:
    """Give the terms (n, 3) of the two channels that weren't cut off."""
    first, second = (np.maximum(seen[:, n], 0.0) for n in range(3) if n != channel)
    return np.stack([first, second, np.sqrt(first * second)], axis=-1)


def beyond_file(seen: Floats, found: Floats, channel: int, *, in_srgb: bool) -> Beyond:
    """Guess how far a colour lies beyond its file: seen there (3,), found in BT.2020 (3,).

    Files of any wider space are taken for Display P3.
    """
    weight = weight_of(found[None])[0]
    if channel not in CHANNELS:
        return Beyond(move=np.zeros(3), covariance=_ANY_GREEN / np.outer(weight, weight))
    table = (_SRGB if in_srgb else _WIDE)[CHANNELS.index(channel)]
    move = kept_terms(seen[None], channel)[0] @ table[:3]
    return Beyond(move=move, covariance=table[3:] / np.outer(weight, weight))
