"""What a mix off its step was really made of: mixes of the set tried against its colour.

The same tubes in another balance, something else besides, or another tube in place of one: each is
tried over a net of amounts, and what comes nearest is the likeliest story. A story is told only
where the simpler ones leave far more unexplained.
"""

from dataclasses import dataclass
from enum import Enum
from functools import lru_cache
from itertools import product

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.tube import Role, Tube
from noema.core.sheet.layout import Triple

Floats = NDArray[np.float64]


class Cause(Enum):
    """How a mix may have come off its step."""

    BALANCE = "balance"  # too much of one of its own tubes
    ADDED = "added"  # something else got in
    REPLACED = "replaced"  # another tube was taken for one of its own


@dataclass(frozen=True, kw_only=True)
class Story:
    """The likeliest way to a painted colour by one cause."""

    cause: Cause
    away: float  # CIEDE2000 left unexplained
    tube: Tube  # of which there is too much, which got in, or which was taken
    instead_of: Tube | None = None  # with REPLACED


_NEAR = np.linspace(-1.0, 1.0, 21)  # doublings: a hand's own unsteadiness lies within
_FAR = (1.4, 2.0, 2.7, 3.5)
_OWN = {
    1: (0.0,),
    2: tuple(np.linspace(-5.0, 5.0, 161)),
    3: (*(-far for far in _FAR), *_NEAR.tolist(), *_FAR),
}
_NEAREST = 60  # mixes of a net by plain distance, among which CIEDE2000 chooses
_FEW = tuple(np.linspace(-2.0, 2.0, 5))  # doublings tried where a mix has four tubes or more
_COARSE = {1: (0.0,), 2: tuple(np.linspace(-1.5, 1.5, 7)), 3: (-1.0, 0.0, 1.0)}
_PULLS = np.geomspace(0.01, 3.0, 20)  # of what got in, beside the mix's own pull
_SWITCH = {1: (0.0,), 2: tuple(np.linspace(-5.0, 5.0, 41)), 3: tuple(np.linspace(-3.0, 3.0, 9))}


def stories(
    painted_lab: Triple, parts: tuple[Part, ...], tubes: tuple[Tube, ...], surface: Surface
) -> dict[Cause, Story]:
    """Give the best story of each cause for a colour mixed from parts, with a set's tubes."""
    told = {}
    for cause in Cause:
        net = _net(cause, parts, tubes, surface)
        if net is None:
            continue
        apart = np.sum((net.labs - painted_lab) ** 2, axis=1)
        near = np.argpartition(apart, min(_NEAREST, len(apart) - 1))[:_NEAREST]
        away = ciede2000(net.labs[near], painted_lab)
        best = int(np.argmin(away))
        tube, instead_of = net.of[int(net.which[near[best]])]
        told[cause] = Story(cause=cause, away=float(away[best]), tube=tube, instead_of=instead_of)
    return told


@dataclass(frozen=True, kw_only=True, eq=False)
class _Net:
    """Many mixes by one cause."""

    labs: Floats  # (m, 3)
    which: NDArray[np.int64]  # (m,) index into `of`
    of: tuple[tuple[Tube, Tube | None], ...]  # the tube it is about, and the one it stands for


@lru_cache(maxsize=1024)
def _net(
    cause: Cause, parts: tuple[Part, ...], tubes: tuple[Tube, ...], surface: Surface
) -> _Net | None:
    """Lay out a net of mixes; remembered, since a class paints the same cells."""
    used = tuple(part.tube for part in parts)
    if cause is Cause.BALANCE:
        return _own_balances(parts, surface) if len(parts) > 1 else None
    others = tuple(tube for tube in tubes if tube not in used)
    coloured = tuple(tube for tube in others if tube.role is Role.COLOUR)
    if cause is Cause.ADDED:
        return _with_more(parts, others, surface) if others else None
    switches = len(parts) > 1 and any(tube.role is Role.COLOUR for tube in used)
    return _with_another(parts, coloured, surface) if coloured and switches else None


def _own_balances(parts: tuple[Part, ...], surface: Surface) -> _Net:
    """Shift a mix's own amounts; a mix's balance is named by the tube it gained most."""
    shifts = _shifts(_OWN, len(parts))
    asked = np.array([part.amount for part in parts])
    tubes = tuple(part.tube for part in parts)
    coloured = np.array([tube.role is Role.COLOUR for tube in tubes])
    gains = np.where(coloured, shifts - shifts.mean(axis=1, keepdims=True), -np.inf)
    which = np.argmax(gains if coloured.any() else shifts, axis=1)
    labs = mix_labs(tubes, asked * 2.0**shifts, surface)
    return _Net(labs=labs, which=which, of=tuple((tube, None) for tube in tubes))


def _with_more(parts: tuple[Part, ...], others: tuple[Tube, ...], surface: Surface) -> _Net:
    """Let each other tube into a mix, by ever larger pulls."""
    base = _base(parts, _COARSE)
    own_pull = float(strengths(tuple(p.tube for p in parts)) @ [part.amount for part in parts])
    amounts = np.zeros((len(others), len(base), len(_PULLS), len(parts) + len(others)))
    amounts[..., : len(parts)] = base[:, None, :]
    for n, pull in enumerate(strengths(others)):
        amounts[n, :, :, len(parts) + n] = _PULLS * own_pull / pull
    flat = amounts.reshape(-1, amounts.shape[-1])
    tubes = (*(part.tube for part in parts), *others)
    which = np.repeat(np.arange(len(others)), len(base) * len(_PULLS))
    of = tuple((tube, None) for tube in others)
    return _Net(labs=mix_labs(tubes, flat, surface), which=which, of=of)


def _with_another(parts: tuple[Part, ...], others: tuple[Tube, ...], surface: Surface) -> _Net:
    """Take another coloured tube for each of a mix's own, in any balance."""
    rows, which = [], []
    of: list[tuple[Tube, Tube | None]] = []
    own = tuple(part.tube for part in parts)
    pulls = dict(zip((*own, *others), strengths((*own, *others)), strict=True))
    switched = _base(parts, _SWITCH)
    for place, part in enumerate(parts):
        for n, other in enumerate(others if part.tube.role is Role.COLOUR else ()):
            row = np.zeros((len(switched), len(parts) + len(others)))
            row[:, : len(parts)] = switched
            scale = pulls[part.tube] / pulls[other]
            row[:, len(parts) + n] = row[:, place] * scale
            row[:, place] = 0.0
            rows.append(row)
            which.append(np.full(len(switched), len(of)))
            of.append((other, part.tube))
    return _Net(
        labs=mix_labs((*own, *others), np.concatenate(rows), surface),
        which=np.concatenate(which),
        of=tuple(of),
    )


def _base(parts: tuple[Part, ...], reach: dict[int, tuple[float, ...]]) -> Floats:
    return np.array([part.amount for part in parts]) * 2.0 ** _shifts(reach, len(parts))


def _shifts(reach: dict[int, tuple[float, ...]], count: int) -> Floats:
    """Give doublings (m, count) of every amount but the first, which stays."""
    rows = product((0.0,), *[reach.get(count, _FEW)] * (count - 1))
    return np.array(list(rows))
