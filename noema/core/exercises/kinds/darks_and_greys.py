"""Mixed darks and chromatic greys."""

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, Band, CellShape, Even, Ground, Wanted
from noema.core.exercises.cells import DRY, let_down_cell, tube_cell
from noema.core.exercises.kind import Kind, greyest_pairs, steps_of, tubes_of, white_of
from noema.core.exercises.paths import cell_of, even_stops, stop_of, way_between
from noema.core.pigments.mix import Part
from noema.core.pigments.partners import darks, white_to_show
from noema.core.pigments.says import say_parts
from noema.core.pigments.tube import Tube

_STEPS = (5, 7, 9)


def _mixed_darks(wanted: Wanted, ground: Ground) -> Asked:
    tubes = tubes_of(wanted, ground.paints, 24) if wanted.tubes else ground.paints.tubes
    found = darks(tubes, 5)
    if not found:
        raise BadExercise(
            f"No two or three tubes of {ground.paints.label} make a neutral dark: "
            "take a pair such as crimson and phthalo green, or ultramarine and burnt sienna."
        )
    bands = []
    for row, dark in enumerate(found, start=1):
        used = [tube_cell(p.tube, f"r{row}c{n}", ground) for n, p in enumerate(dark.parts, start=1)]
        stop = stop_of(dark.parts, ground.paints.binder.dry)
        note = f"Near black, value {dark.hvc.value:.1f}: {say_parts(dark.parts)}."
        mix = cell_of(stop, f"r{row}dark", "dark", note, shape=CellShape.DIAMOND)
        bands.append(
            Band(
                label=f"dark {row}",
                cells=(*used, mix, let_down_cell(mix, f"r{row}tint", ground)),
            )
        )
    return Asked(
        kind="mixed-darks",
        title="Mixed darks",
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            "Paint the tubes of a row first, then the darkest mix that leans nowhere.",
            "Let a little of it down with white to see where it leans; steer it, then paint both.",
            "Clean the knife between rows. " + DRY,
        ),
    )


def _chromatic_greys(wanted: Wanted, ground: Ground) -> Asked:
    steps = steps_of(wanted, 7, _STEPS, "row of greys")
    surface = ground.paints.binder.dry
    white = white_of(ground.paints)
    found = greyest_pairs(ground, 5)
    if not found:
        raise BadExercise("Greys are steered between two colours: choose a set with two.")
    bands = []
    for row, pair in enumerate(found, start=1):
        warm, cool = (_greyed(tube, pair.parts, white) for tube in pair.tubes)
        stops = even_stops(way_between(warm, cool, surface), steps, Even.DISTANCE, surface)
        cells = tuple(
            cell_of(
                stop,
                f"r{row}c{n}",
                str(n),
                f"Grey {n} of {steps}, steered by its parts.",
                is_end=n in (1, steps),
            )
            for n, stop in enumerate(stops, start=1)
        )
        label = " and ".join(tube.label for tube in pair.tubes)
        bands.append(Band(label=label, cells=cells, even=Even.DISTANCE))
    return Asked(
        kind="chromatic-greys",
        title=f"Chromatic greys, {steps} steps",
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            "Mix both ends of a row with white first: the two tubes, each greyed a little.",
            "Steer from warm to cool by small touches; keep the value the same.",
            "Clean the knife between mixes. " + DRY,
        ),
    )


def _greyed(tube: Tube, dark: tuple[Part, ...], white: Tube) -> tuple[Part, ...]:
    """Lean a neutral towards one of its tubes, let down to a middle grey."""
    leaning = [Part(tube=p.tube, amount=p.amount * (3.0 if p.tube == tube else 1.0)) for p in dark]
    return (*leaning, Part(tube=white, amount=white_to_show(leaning)))


KINDS = (
    Kind(
        name="mixed-darks",
        label="Mixed darks",
        says="Near-blacks without black, each with its tint.",
        takes=frozenset({"tubes"}),
        ask=_mixed_darks,
    ),
    Kind(
        name="chromatic-greys",
        label="Chromatic greys",
        says="Greys steered from warm to cool.",
        takes=frozenset({"steps"}),
        ask=_chromatic_greys,
        steps=_STEPS,
    ),
)
