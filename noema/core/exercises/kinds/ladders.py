"""Tint, shade and tone ladders: a row a tube, from the tube to white, to dark, or to grey."""

from collections.abc import Callable
from functools import partial

import numpy as np

from noema.core.colour.hvc import hvc_of
from noema.core.exercises.asked import (
    Arrangement,
    Asked,
    Band,
    Concern,
    Even,
    Ground,
    Wanted,
)
from noema.core.exercises.kind import Kind, Plot, dark_of, steps_of, tubes_of, white_of
from noema.core.exercises.paths import (
    Stop,
    cell_of,
    even_places,
    even_stops,
    wash_way,
    way_between,
)
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import Part, film_labs, lab_of_parts
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Role, Tube

End = Callable[[Tube, PaintSet], tuple[Part, ...]]

_STEPS = range(3, 12)
_HOW_TO = {
    "tint": "Start from white and bring the colour in by small touches; strong tubes need a trace.",
    "shade": "Start from the colour and bring the dark in on the tip of the knife.",
    "tone": "Mix a grey of the colour's own value first; then let the colour take it step by step.",
}


def _to_white(_tube: Tube, paints: PaintSet) -> tuple[Part, ...]:
    return (Part(tube=white_of(paints), amount=1.0),)


def _to_dark(_tube: Tube, paints: PaintSet) -> tuple[Part, ...]:
    return dark_of(paints)


def _to_grey(tube: Tube, paints: PaintSet) -> tuple[Part, ...]:
    """Give the grey of the tube's own value, from the set's dark and white."""
    surface = paints.binder.dry
    value = hvc_of(lab_of_parts([Part(tube=tube, amount=1.0)], surface)).value
    way = way_between(dark_of(paints), _to_white(tube, paints), surface)
    stops = even_stops(way, 41, Even.VALUE, surface)
    return min(stops, key=lambda stop: abs(hvc_of(stop.lab).value - value)).parts


def _ask(wanted: Wanted, ground: Ground, what: str, to: End) -> Asked:
    steps = steps_of(wanted, 7, _STEPS, f"{what} ladder")
    tubes = tuple(
        tube for tube in tubes_of(wanted, ground.paints) if tube.role is Role.COLOUR
    ) or tubes_of(wanted, ground.paints)
    water = what == "tint" and ground.paints.binder is Binder.WATERCOLOUR
    bands = tuple(
        _washed(tube, row, steps, ground) if water else _row(tube, row, steps, ground, what, to)
        for row, tube in enumerate(tubes, start=1)
    )
    lighten = "Lighten with water: less paint for each step, the last one barely tinted."
    return Asked(
        kind=f"{what}-ladder",
        title=f"{what.capitalize()} ladder, {steps} steps",
        arrangement=Arrangement.ROWS,
        bands=bands,
        how_to=(
            "Paint both ends of a row first: the tube as it comes, and the other end.",
            lighten if water else _HOW_TO[what],
            "Clean the knife between mixes. Let it dry, then photograph it flat, in daylight.",
        ),
        concerns=tuple(_same_ends(band) for band in bands if _is_flat(band)),
    )


def _row(tube: Tube, row: int, steps: int, ground: Ground, what: str, to: End) -> Band:
    surface = ground.paints.binder.dry
    start, end = (Part(tube=tube, amount=1.0),), to(tube, ground.paints)
    stops = even_stops(way_between(start, end, surface), steps, Even.DISTANCE, surface)
    return _band(tube, row, stops, f"{{}} of {steps - 1} equal steps towards {_END[what]}.")


def _washed(tube: Tube, row: int, steps: int, ground: Ground) -> Band:
    surface = ground.paints.binder.dry
    parts = (Part(tube=tube, amount=1.0),)
    coats, labs = wash_way(parts, surface)
    places = even_places(labs, steps, Even.DISTANCE)
    thick = np.exp(np.interp(places, np.arange(len(coats)), np.log(coats)))
    exact = film_labs([tube], [[1.0]] * steps, thick, surface).tolist()
    stops = tuple(Stop(parts=parts, lab=(lab[0], lab[1], lab[2])) for lab in exact)
    return _band(tube, row, stops, f"{{}} of {steps - 1} equal steps towards bare paper.")


def _band(tube: Tube, row: int, stops: tuple[Stop, ...], note: str) -> Band:
    cells = tuple(
        cell_of(
            stop,
            f"r{row}c{n}",
            str(n),
            f"{tube.label.capitalize()} as it comes." if n == 1 else note.format(n - 1),
            is_end=n in (1, len(stops)),
        )
        for n, stop in enumerate(stops, start=1)
    )
    return Band(label=tube.label, cells=cells, even=Even.DISTANCE)


def _is_flat(band: Band) -> bool:
    first, last = band.cells[0].hvc, band.cells[-1].hvc
    return abs(first.value - last.value) < 0.7 and abs(first.chroma - last.chroma) < 1.5


def _same_ends(band: Band) -> Concern:
    return Concern(
        cells=tuple(cell.id for cell in band.cells),
        sentence=f"{band.label.capitalize()} is nearly at the other end already: "
        "its steps can't be told apart.",
        suggestion="leave this tube out, or let all steps down with white",
    )


_END = {"tint": "white", "shade": "the dark", "tone": "the grey"}
_SAYS = {
    "tint": "Each tube with more and more white, or water.",
    "shade": "Each tube with more and more black, or a mixed dark.",
    "tone": "Each tube with more and more grey of its own value.",
}
_TO: dict[str, End] = {"tint": _to_white, "shade": _to_dark, "tone": _to_grey}

KINDS = tuple(
    Kind(
        name=f"{what}-ladder",
        label=f"{what.capitalize()} ladder",
        says=_SAYS[what],
        takes=frozenset({"steps", "tubes"}),
        ask=partial(_ask, what=what, to=to),
        steps=_STEPS,
        plot=Plot.PATH,
    )
    for what, to in _TO.items()
)
