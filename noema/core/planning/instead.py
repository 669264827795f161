"""What another tube of the cupboard would do in place of one that lacks.

Every mix with the lacking tube is tried with the other one in its place, at the amount that comes
nearest, as a painter would find it by eye; what is lost in reach is what hues a set mixes clean.
"""

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import HueTable
from noema.core.exercises.asked import Asked, AskedCell
from noema.core.language import gettext, said_together
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.reach import ceilings
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube

Floats = NDArray[np.float64]

_PULLS = 2.0 ** np.linspace(-3.0, 3.0, 25)  # of the other tube, to that of the lacking one
_ALIKE = 5.0  # CIEDE2000 up to which a mix passes for the same
_HELPS = 0.25  # share of such mixes from which a tube is any help
_MOST_CELLS = 60
_CLEAN = "clean"


@dataclass(frozen=True, kw_only=True)
class Neighbour:
    """A tube that could stand in."""

    tube: str
    label: str
    alike: int  # mixes that come out nearly the same
    of: int  # mixes with the lacking tube
    away: float  # CIEDE2000, of the middle one
    lost: tuple[str, ...]  # hues that were clean and aren't any more

    @property
    def words(self) -> str:
        """Say what it would do."""
        said = gettext(
            "%(label)s: %(alike)s of %(of)s mixes come out nearly the same.",
            label=self.label,
            alike=self.alike,
            of=self.of,
        )
        if not self.lost:
            return said
        lost = gettext("Not clean any more: %(hues)s.", hues=said_together(self.lost))
        return f"{said} {lost}"


def neighbours(
    lacking: str,
    paints: PaintSet,
    asked: Iterable[Asked],
    there: Sequence[Tube],
    table: HueTable,
    most: int = 3,
) -> tuple[Neighbour, ...]:
    """Give the tubes that come nearest in place of one, the nearest first; none where none helps.

    `asked` are exercises in the set `paints`; tubes of the set are no help, since they are in it.
    """
    own = {tube.name for tube in paints.tubes}
    cells = [c for one in asked for c in one.on_paper if lacking in _names(c)][:_MOST_CELLS]
    if lacking not in own or not cells:
        return ()
    tried = [
        (float(np.median(away)), int((away <= _ALIKE).sum()), tube)
        for tube in there
        if tube.name not in own
        for away in [_away(cells, lacking, tube, paints)]
    ]
    helps = [one for one in tried if one[1] >= _HELPS * len(cells)]
    nearest = sorted(helps, key=lambda one: (one[0], one[2].name))[:most]
    return tuple(
        Neighbour(
            tube=tube.name,
            label=tube.label,
            alike=alike,
            of=len(cells),
            away=away,
            lost=_lost(paints, lacking, tube, table),
        )
        for away, alike, tube in nearest
    )


def _names(cell: AskedCell) -> Collection[str]:
    return {part.tube.name for part in cell.parts}


def _away(cells: Sequence[AskedCell], lacking: str, other: Tube, paints: PaintSet) -> Floats:
    """Give how far each cell stays away, CIEDE2000, with the amount that comes nearest."""
    tubes = (*paints.tubes, other)
    place = {tube.name: n for n, tube in enumerate(tubes)}
    pull = strengths(tubes)
    amounts = np.zeros((len(cells), len(_PULLS), len(tubes)))
    for n, cell in enumerate(cells):
        for part in cell.parts:
            at = place[part.tube.name]
            if part.tube.name == lacking:
                amounts[n, :, -1] = part.amount * pull[at] / pull[-1] * _PULLS
            else:
                amounts[n, :, at] = part.amount
    labs = mix_labs(tubes, amounts.reshape(-1, len(tubes)), paints.binder.dry)
    wanted = np.repeat([cell.lab for cell in cells], len(_PULLS), axis=0)
    return np.asarray(ciede2000(labs, wanted).reshape(len(cells), -1).min(axis=1))


def _lost(paints: PaintSet, lacking: str, other: Tube, table: HueTable) -> tuple[str, ...]:
    without = tuple(tube for tube in paints.tubes if tube.name != lacking)
    was, will = (
        {one.hue.name for one in ceilings(tubes, table) if one.word == _CLEAN}
        for tubes in (paints.tubes, (*without, other))
    )
    named = [hue.name for hue in table.hues(12)]
    return tuple(gettext(name) for name in named if name in was - will)
