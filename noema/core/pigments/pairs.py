"""Pairs of tubes for one hue, a mix taken as a tube, and what would mend a dull hue."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np

from noema.core.colour.hvc import HVC, hvc_of
from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.qualities import qualities
from noema.core.pigments.reach import best_mix
from noema.core.pigments.says import say_parts
from noema.core.pigments.tube import Role, Tube

_ON_HUE = 2.0  # hue steps from the name at which a pair's mix still counts as that hue
_NEAR_HUE = 6.0  # hue steps from a hue at which a tube may be that hue by itself
_BETTER = 1.0  # chroma a tube must add to be worth buying: a beginner sees two
PREMIXED = "premixed"
"""The name of a mix that is taken as a tube."""


@dataclass(frozen=True, kw_only=True)
class Pair:
    """Two tubes and the most intense mix of a hue they give."""

    tubes: tuple[Tube, Tube]
    parts: tuple[Part, ...]  # with white where that shows it better
    hvc: HVC


@dataclass(frozen=True, kw_only=True)
class Mend:
    """A tube that would carry a hue further, by itself or beside one that is there."""

    tube: Tube
    beside: Tube | None  # None: by itself
    chroma: float  # that is then reached


def premixed(parts: Sequence[Part], label: str = "") -> Tube:
    """Take a mix as a tube of some label: K and S are those of its volumes together."""
    if not parts:
        raise BadPaint(gettext("A mix needs at least one tube: choose it."))
    if len(parts) == 1:
        return parts[0].tube
    shares = np.array([part.amount for part in parts])
    shares /= shares.sum()
    return Tube(
        name=PREMIXED,
        label=label or say_parts(tuple(parts)),
        pigments=tuple(dict.fromkeys(code for part in parts for code in part.tube.pigments)),
        absorption=shares @ np.stack([part.tube.absorption for part in parts]),
        scattering=shares @ np.stack([part.tube.scattering for part in parts]),
        basis=gettext("mixed from tubes"),
    )


def pairs_for(tubes: Sequence[Tube], hue100: float) -> tuple[Pair, ...]:
    """Give every pair of coloured tubes that mixes to a hue, the most intense first."""
    colours = [tube for tube in tubes if tube.role is Role.COLOUR]
    white = tuple(tube for tube in tubes if tube.role is Role.WHITE)[:1]
    found = []
    for one, other in combinations(colours, 2):
        parts = best_mix((one, other, *white), hue100, _ON_HUE)
        if {one, other} <= {part.tube for part in parts}:
            pair = Pair(tubes=(one, other), parts=parts, hvc=hvc_of(lab_of_parts(parts)))
            found.append(pair)
    return tuple(sorted(found, key=lambda pair: -pair.hvc.chroma))


@lru_cache(maxsize=256)
def mend_for(
    used: tuple[Tube, ...], others: tuple[Tube, ...], hue100: float, chroma: float
) -> Mend | None:
    """Find the tube that would carry a hue furthest beyond a chroma, with one that is used for it.

    White is the first of those used. Only tubes on either side of the hue can meet at it.
    """
    white = tuple(tube for tube in used if tube.role is Role.WHITE)[:1]
    colours = [tube for tube in others if tube.role is Role.COLOUR]
    tries: list[tuple[Tube, Tube | None]] = [
        (tube, None) for tube in colours if abs(_side(tube, hue100)) <= _NEAR_HUE
    ]
    tries += [
        (tube, there)
        for there in used
        for tube in colours
        if there.role is Role.COLOUR and _side(there, hue100) * _side(tube, hue100) < 0.0
    ]
    mends = []
    for tube, there in tries:
        wanted = {tube} if there is None else {tube, there}
        parts = best_mix((*wanted, *white), hue100, _ON_HUE)
        if wanted <= {part.tube for part in parts}:
            reached = hvc_of(lab_of_parts(parts)).chroma
            mends.append(Mend(tube=tube, beside=there, chroma=reached))
    best = max(mends, key=lambda mend: mend.chroma, default=None)
    return best if best is not None and best.chroma > chroma + _BETTER else None


def _side(tube: Tube, hue100: float) -> float:
    """Say on which side of a hue a tube lies, in hue steps; 0 for one without a hue."""
    own = qualities(tube).shown.hue100
    return 0.0 if own is None else (own - hue100 + 50.0) % 100.0 - 50.0
