"""Amounts a person can measure out: small whole parts, nothing finer than 1 to 40."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.difference import ciede2000
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.tube import Tube

Floats = NDArray[np.float64]

FINEST = 40
"""The largest part to the smallest: finer than that can't be measured with a knife."""

_NEARLY = 0.6  # CIEDE2000 given up for simpler parts


def can_be_measured(amounts: ArrayLike, finest: int = FINEST) -> NDArray[np.bool_]:
    """Say which mixes (..., n) need nothing finer than one part in `finest`."""
    given = np.asarray(amounts, dtype=float)
    least = np.where(given > 0.0, given, np.inf).min(axis=-1)
    return np.asarray(given.max(axis=-1) <= finest * least)


def whole_parts(amounts: ArrayLike, finest: int = FINEST) -> Floats:
    """Give every way (s, n) to round amounts (n,) to whole parts, coarsest first.

    A tube that would need less than one part in `finest` is left out of a way.
    """
    given = np.asarray(amounts, dtype=float)
    parts = np.rint(given / given.max() * np.arange(1, finest + 1)[:, None])
    divisor = np.gcd.reduce(parts.astype(int), axis=1)
    simplest = np.unique(parts / divisor[:, None], axis=0)
    return np.asarray(simplest[np.argsort(simplest.sum(axis=1), kind="stable")])


def round_parts(
    tubes: Sequence[Tube], amounts: ArrayLike, finest: int = FINEST
) -> tuple[Part, ...]:
    """Give the simplest whole parts that look nearly the same, largest part first."""
    given = np.asarray(amounts, dtype=float)
    ways = whole_parts(given, finest)
    ways = ways[((ways > 0) == (given >= given.max() / finest)).all(axis=1)]
    away = ciede2000(mix_labs(tubes, ways), mix_labs(tubes, given))
    good = np.flatnonzero(away <= away.min() + _NEARLY)[0]
    return parts_of(tubes, ways[good])


def parts_of(tubes: Sequence[Tube], amounts: ArrayLike) -> tuple[Part, ...]:
    """Pair tubes with their amounts, those that aren't used left out, largest first."""
    pairs = zip(tubes, np.asarray(amounts, dtype=float).tolist(), strict=True)
    parts = [Part(tube=tube, amount=amount) for tube, amount in pairs if amount > 0.0]
    return tuple(sorted(parts, key=lambda part: -part.amount))
