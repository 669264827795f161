"""The value scale: dark to light in equal steps of value, of a neutral or of one hue."""

import numpy as np

from noema.core.colour.value import lightness_to_value, value_to_lab
from noema.core.exercises.asked import (
    Arrangement,
    Asked,
    AskedCell,
    Band,
    Even,
    Ground,
    Wanted,
)
from noema.core.exercises.cells import limits_said
from noema.core.exercises.kind import Kind, Plot, dark_of, pure, steps_of, white_of
from noema.core.exercises.levels import Key
from noema.core.exercises.media import REACH, Medium
from noema.core.exercises.paths import Stop, Way, cell_of, even_stops, stops_at, way_between
from noema.core.exercises.value_scale import FEWEST_STEPS, MOST_STEPS, USUAL_STEPS, even_values
from noema.core.pigments.mix import Part
from noema.core.pigments.says import say_parts

_STEPS = range(FEWEST_STEPS, MOST_STEPS + 1)
_SHORT = 0.25  # values a fixed end may lie beyond the paints before it is said


def _ask(wanted: Wanted, ground: Ground) -> Asked:
    steps = steps_of(wanted, USUAL_STEPS, _STEPS, "value scale")
    surface = ground.paints.binder.dry
    white, dark = (Part(tube=white_of(ground.paints), amount=1.0),), dark_of(ground.paints)
    hue = () if wanted.hue in (None, "neutral") else pure(ground, str(wanted.hue))
    way = way_between(dark, white, surface, legs=hue)
    fixed = ground.key is Key.NAMED and not hue
    stops = even_stops(way, steps, Even.VALUE, surface)
    cells = _fixed_cells(way, steps, ground) if fixed else _cells(stops, steps)
    name = f"Value scale of {wanted.hue}" if hue else "Value scale"
    return Asked(
        kind="value-scale",
        title=f"{name}, {steps} steps",
        arrangement=Arrangement.ROWS,
        bands=(Band(label="", cells=cells, even=Even.VALUE),),
        how_to=(
            f"Make plenty of both ends first: {say_parts(dark)}, and white.",
            "Start each step from the lighter pile and bring in the darker by small touches; "
            "clean the knife between mixes.",
            "Let it dry, squint: every step should jump the same. Photograph it flat, in daylight.",
        ),
        concerns=limits_said(
            cells,
            lambda cell: f"Step {cell.label}",
            "hold the steps against the student's own ends instead",
        ),
    )


def _cells(stops: tuple[Stop, ...], steps: int) -> tuple[AskedCell, ...]:
    return tuple(
        cell_of(stop, f"c{n}", str(n), _note(n, steps), is_end=n in (1, steps))
        for n, stop in enumerate(stops, start=1)
    )


def _fixed_cells(way: Way, steps: int, ground: Ground) -> tuple[AskedCell, ...]:
    """Hold each step at a fixed value, and give the mix of these paints that comes nearest."""
    reach = REACH[Medium.GOUACHE if ground.paints.binder.value == "gouache" else Medium.ACRYLIC]
    values = lightness_to_value(way.labs[:, 0])
    cells = []
    for n, value in enumerate(even_values(reach.darkest, reach.lightest, steps), start=1):
        place = float(np.interp(value, values, np.arange(len(values))))
        stop = stops_at(way, np.array([place]), ground.paints.binder.dry)[0]
        off = float(np.interp(place, np.arange(len(values)), values)) - value
        lightness, a, b = value_to_lab(value).tolist()
        limit = "" if abs(off) <= _SHORT else "these paints stop before it"
        asked = Stop(parts=stop.parts, lab=stop.lab if limit else (lightness, a, b))
        note = _note(n, steps)
        cells.append(cell_of(asked, f"c{n}", str(n), note, limit=limit, is_end=n in (1, steps)))
    return tuple(cells)


def _note(n: int, steps: int) -> str:
    if n == 1:
        return "The darkest these paints make."
    if n == steps:
        return "White as it comes."
    return f"{n - 1} of {steps - 1} equal steps of value up from the dark."


KINDS = (
    Kind(
        name="value-scale",
        label="Value scale",
        says="Black to white in steps the eye counts as equal.",
        takes=frozenset({"steps", "hue"}),
        ask=_ask,
        steps=_STEPS,
        plot=Plot.STAIR,
    ),
)
