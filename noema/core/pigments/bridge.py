"""From one tube to another in steps the eye counts as equal, and where the two cancel."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.film import DRY_ACRYLIC, Surface
from noema.core.pigments.mix import film_labs, mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.tube import Tube

Floats = NDArray[np.float64]

FEWEST_STEPS, MOST_STEPS = 3, 15
_BALANCES = np.linspace(-9.0, 9.0, 145)  # doublings of one tube's pull over the other's
_ROWS = 7  # mixes along each side of a triangle


@dataclass(frozen=True, kw_only=True)
class Thinned:
    """What every step is let down with."""

    white: Tube | None = None
    white_volumes: float = 0.0  # to one volume of colour
    coats: float | None = None  # a film this thick over paper, for washes; None is opaque


@dataclass(frozen=True, kw_only=True)
class Step:
    """One mix on the way."""

    amounts: tuple[float, ...]  # volumes of the tubes, summing to 1; white comes on top
    lab: tuple[float, float, float]
    hvc: HVC


@dataclass(frozen=True, kw_only=True)
class Bridge:
    """The way between two tubes."""

    tubes: tuple[Tube, Tube]
    steps: tuple[Step, ...]  # from the first to the second, equal distances apart
    path: tuple[HVC, ...]  # the whole way, closely
    neutral: Step  # where the chroma is least

    def seen(self, thinned: Thinned, surface: Surface) -> Floats:
        """Give the Lab (n, 3) of the same mixes under another surface, such as wet."""
        return _seen(self.tubes, np.array([step.amounts for step in self.steps]), thinned, surface)


NOT_THINNED = Thinned()


def bridge(
    one: Tube,
    other: Tube,
    steps: int,
    thinned: Thinned = NOT_THINNED,
    surface: Surface = DRY_ACRYLIC,
) -> Bridge:
    """Build the bridge between two tubes in 3 to 15 steps of equal CIEDE2000."""
    if not FEWEST_STEPS <= steps <= MOST_STEPS:
        raise BadPaint(
            gettext(
                "A bridge has %(fewest_steps)s to %(most_steps)s steps, not %(steps)s.",
                fewest_steps=FEWEST_STEPS,
                most_steps=MOST_STEPS,
                steps=steps,
            )
        )
    if one == other:
        raise BadPaint(gettext("A bridge needs two different tubes: choose another for one end."))
    tubes = (one, other)
    amounts = _amounts(tubes)
    labs = _seen(tubes, amounts, thinned, surface)
    apart = ciede2000(labs[1:], labs[:-1])
    way = np.concatenate([[0.0], np.cumsum(apart)])
    marks = np.linspace(0.0, way[-1], steps)
    share = np.interp(marks, way, np.arange(len(way)))
    # Between two close mixes the second's share runs along evenly enough.
    even = np.interp(share, np.arange(len(way)), amounts[:, 1])
    chosen = np.stack([1.0 - even, even], axis=-1)
    path = hvcs_of(labs)
    least = min(range(len(path)), key=lambda place: path[place].chroma)
    return Bridge(
        tubes=tubes,
        steps=_steps(tubes, chosen, thinned, surface),
        path=tuple(path),
        neutral=_steps(tubes, amounts[[least]], thinned, surface)[0],
    )


def triangle(
    tubes: tuple[Tube, Tube, Tube],
    thinned: Thinned = NOT_THINNED,
    surface: Surface = DRY_ACRYLIC,
) -> tuple[Step, ...]:
    """Mix three tubes over a triangle, row by row from the first tube's corner down.

    Row r holds r + 1 mixes; steps are even in pull, so the middle is where all three pull alike.
    """
    if len(set(tubes)) < 3:
        raise BadPaint(
            gettext("A triangle needs three different tubes: choose another for one corner.")
        )
    side = _ROWS - 1
    pulls = np.array(
        [(side - row, row - place, place) for row in range(_ROWS) for place in range(row + 1)],
        dtype=float,
    )
    amounts = pulls / strengths(tubes)
    return _steps(tubes, amounts / amounts.sum(axis=1, keepdims=True), thinned, surface)


def triangle_rows(steps: tuple[Step, ...]) -> tuple[tuple[Step, ...], ...]:
    """Cut a triangle's steps into its rows."""
    starts = [row * (row + 1) // 2 for row in range(_ROWS)]
    return tuple(steps[start : start + row + 1] for row, start in enumerate(starts))


def _amounts(tubes: tuple[Tube, Tube]) -> Floats:
    """Give shares (m, 2) summing to 1, from the first tube alone to the second alone."""
    pulls = np.stack([2.0 ** (-_BALANCES / 2.0), 2.0 ** (_BALANCES / 2.0)], axis=-1)
    volumes = pulls / strengths(tubes)
    share = volumes / volumes.sum(axis=1, keepdims=True)
    return np.concatenate([[[1.0, 0.0]], share, [[0.0, 1.0]]])


def _seen(tubes: tuple[Tube, ...], amounts: Floats, thinned: Thinned, surface: Surface) -> Floats:
    if thinned.white is not None and thinned.white_volumes > 0.0:
        whites = np.full((len(amounts), 1), thinned.white_volumes)
        tubes, amounts = (*tubes, thinned.white), np.hstack([amounts, whites])
    if thinned.coats is None:
        return mix_labs(tubes, amounts, surface)
    return film_labs(tubes, amounts, np.full(len(amounts), thinned.coats), surface)


def _steps(
    tubes: tuple[Tube, ...], amounts: Floats, thinned: Thinned, surface: Surface
) -> tuple[Step, ...]:
    labs = _seen(tubes, amounts, thinned, surface)
    return tuple(
        Step(amounts=tuple(row), lab=(lab[0], lab[1], lab[2]), hvc=hvc)
        for row, lab, hvc in zip(amounts.tolist(), labs.tolist(), hvcs_of(labs), strict=True)
    )
