"""Ladders: a row a tube, from the tube step by step to another end, such as white."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from noema.core.exercises.asked import (
    Arrangement,
    Asked,
    Band,
    Concern,
    Even,
    Ground,
)
from noema.core.exercises.cells import then_dry
from noema.core.exercises.from_paints import tubes_of
from noema.core.exercises.options import Options, number, some_tubes
from noema.core.exercises.paths import (
    Stop,
    cells_of_row,
    even_places,
    even_stops,
    wash_way,
    way_between,
)
from noema.core.language import N_, gettext
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import Part, film_labs
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Role, Tube

End = Callable[[Tube, PaintSet], tuple[Part, ...]]

_STEPS = range(3, 12)


@dataclass(frozen=True, kw_only=True)
class LadderOptions(Options):
    """What may be chosen of a ladder."""

    steps: int = number(N_("Steps"), _STEPS, 7, N_("Cells of a row, both ends with them."))
    tubes: tuple[str, ...] = some_tubes()


@dataclass(frozen=True, kw_only=True)
class Ladder:
    """What one kind of ladder leads to."""

    kind: str
    name: str
    end: str  # what its end is called
    to: End
    how_to: str
    washes: bool = False  # in watercolour it is thinned with water instead


def ladder(chosen: LadderOptions, ground: Ground, what: Ladder) -> Asked:
    """Work a ladder out."""
    steps = chosen.steps
    tubes = tubes_of(chosen.tubes, ground.paints)
    tubes = tuple(tube for tube in tubes if tube.role is Role.COLOUR) or tubes
    water = what.washes and ground.paints.binder is Binder.WATERCOLOUR
    bands = tuple(
        _washed(tube, row, steps, ground) if water else _row(tube, row, steps, ground, what)
        for row, tube in enumerate(tubes, start=1)
    )
    lighten = gettext("Lighten with water: less paint for each step, the last one barely tinted.")
    return Asked(
        kind=what.kind,
        title=gettext("%(name)s, %(steps)s steps", name=gettext(what.name), steps=steps),
        arrangement=Arrangement.ROWS,
        bands=bands,
        how_to=(
            gettext("Paint both ends of a row first: the tube as it comes, and the other end."),
            lighten if water else gettext(what.how_to),
            then_dry(gettext("Clean the knife between mixes.")),
        ),
        concerns=tuple(_same_ends(band) for band in bands if _is_flat(band)),
    )


def _row(tube: Tube, row: int, steps: int, ground: Ground, what: Ladder) -> Band:
    surface = ground.paints.binder.dry
    start, end = (Part(tube=tube, amount=1.0),), what.to(tube, ground.paints)
    stops = even_stops(way_between(start, end, surface), steps, Even.DISTANCE, surface)
    return _band(tube, row, stops, gettext(what.end))


def _washed(tube: Tube, row: int, steps: int, ground: Ground) -> Band:
    surface = ground.paints.binder.dry
    parts = (Part(tube=tube, amount=1.0),)
    coats, labs = wash_way(parts, surface)
    places = even_places(labs, steps, Even.DISTANCE)
    thick = np.exp(np.interp(places, np.arange(len(coats)), np.log(coats)))
    exact = film_labs([tube], [[1.0]] * steps, thick, surface).tolist()
    stops = tuple(Stop(parts=parts, lab=(lab[0], lab[1], lab[2])) for lab in exact)
    return _band(tube, row, stops, gettext("bare paper"))


def _band(tube: Tube, row: int, stops: tuple[Stop, ...], towards: str) -> Band:
    steps = len(stops) - 1
    later = (
        gettext(
            "%(n)s of %(steps)s equal steps towards %(towards)s.", n=n, steps=steps, towards=towards
        )
        for n in range(1, steps + 1)
    )
    notes = [gettext("%(label)s as it comes.", label=tube.label.capitalize()), *later]
    return Band(label=tube.label, cells=cells_of_row(stops, row, notes), even=Even.DISTANCE)


def _is_flat(band: Band) -> bool:
    first, last = band.cells[0].hvc, band.cells[-1].hvc
    return abs(first.value - last.value) < 0.7 and abs(first.chroma - last.chroma) < 1.5


def _same_ends(band: Band) -> Concern:
    return Concern(
        cells=tuple(cell.id for cell in band.cells),
        sentence=gettext(
            "%(label)s is nearly at the other end already: its steps can't be told apart.",
            label=band.label.capitalize(),
        ),
        suggestion=gettext("leave this tube out, or let all steps down with white"),
    )
