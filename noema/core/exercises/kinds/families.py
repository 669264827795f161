"""Families of mixes and colours to match."""

import numpy as np

from noema.core.colour.hvc import hvc_to_lab
from noema.core.errors import BadExercise
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
from noema.core.exercises.kind import Kind, greyest_pairs, tubes_of, white_of
from noema.core.exercises.levels import Level
from noema.core.exercises.paths import Stop, cell_of, even_stops, way_between, way_of_tubes
from noema.core.pigments.mix import Part
from noema.core.pigments.reach import VALUES, reach
from noema.core.pigments.recipe import Recipe, recipe
from noema.core.pigments.says import say_left, say_parts
from noema.core.pigments.tube import Tube

FEWEST_TARGETS, MOST_TARGETS = 4, 12
_USUAL_TARGETS = 6
_COLUMNS, _LEVELS = 7, 4
_OF_REACH = {  # share of the reach at which targets are set: the duller, the more goes into a mix
    Level.BEGINNER: 0.85,
    Level.INTERMEDIATE: 0.65,
    Level.ADVANCED: 0.4,
}
_MISSED = 2.5  # CIEDE2000 from which a target counts as out of reach
_ACROSS = 4  # targets in a row


def _family(wanted: Wanted, ground: Ground) -> Asked:
    if wanted.hue is not None:
        return _one_to_all(wanted.hue, ground)
    one, other = _pair(wanted, ground)
    surface = ground.paints.binder.dry
    white = (Part(tube=white_of(ground.paints), amount=1.0),)
    columns = even_stops(way_of_tubes(one, other, surface), _COLUMNS, Even.DISTANCE, surface)
    ladders = [
        even_stops(way_between(stop.parts, white, surface), _LEVELS + 1, Even.VALUE, surface)
        for stop in columns
    ]
    bands = tuple(
        Band(
            label="as mixed" if level == 0 else f"lighter, {level}",
            cells=tuple(
                cell_of(
                    ladder[level],
                    f"r{level + 1}c{n}",
                    _column_label(n, one, other) if level == 0 else "",
                    f"Mix {n} of {_COLUMNS}, {level} of {_LEVELS} steps up to white.",
                    is_end=level == 0 and n in (1, _COLUMNS),
                )
                for n, ladder in enumerate(ladders, start=1)
            ),
            even=Even.DISTANCE if level == 0 else Even.NOT,
        )
        for level in range(_LEVELS)
    )
    return Asked(
        kind="family-chart",
        title=f"Family of {one.label} and {other.label}",
        arrangement=Arrangement.ROWS,
        bands=bands,
        how_to=(
            "Paint the top row first, from one tube to the other, both ends as they come.",
            "Then take each mix up towards white, row by row, in equal steps of value.",
            "Clean the knife between columns. Let it dry, then photograph it flat, in daylight.",
        ),
    )


def _column_label(n: int, one: Tube, other: Tube) -> str:
    return one.label if n == 1 else other.label if n == _COLUMNS else str(n)


def _pair(wanted: Wanted, ground: Ground) -> tuple[Tube, Tube]:
    """Take two named tubes, or the two of the set that come nearest to cancelling."""
    if len(wanted.tubes) == 2:
        one, other = tubes_of(wanted, ground.paints)
        return one, other
    if wanted.tubes:
        raise BadExercise(f"A family has two tubes, not {len(wanted.tubes)}: name two.")
    pairs = greyest_pairs(ground, 1)
    if not pairs:
        raise BadExercise("A family needs two coloured tubes: choose another set.")
    return pairs[0].tubes[0], pairs[0].tubes[1]


def _one_to_all(name: str, ground: Ground) -> Asked:
    one = ground.paints.tube(name)
    others = [tube for tube in ground.paints.colours if tube != one][:7]
    if not others:
        raise BadExercise("A family needs other tubes in the set: choose another set.")
    surface = ground.paints.binder.dry
    bands = []
    for row, other in enumerate(others, start=1):
        stops = even_stops(way_of_tubes(one, other, surface), _COLUMNS, Even.DISTANCE, surface)
        cells = tuple(
            cell_of(
                stop,
                f"r{row}c{n}",
                str(n),
                f"{n - 1} of {_COLUMNS - 1} equal steps from {one.label} to {other.label}.",
                is_end=n in (1, _COLUMNS),
            )
            for n, stop in enumerate(stops, start=1)
        )
        bands.append(Band(label=f"to {other.label}", cells=cells, even=Even.DISTANCE))
    return Asked(
        kind="family-chart",
        title=f"Family of {one.label}",
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            f"Make plenty of {one.label}: every row starts from it.",
            "Start each step from the lighter of the two and bring the other in by small touches.",
            "Clean the knife between rows. Let it dry, then photograph it flat, in daylight.",
        ),
    )


def _match(wanted: Wanted, ground: Ground) -> Asked:
    targets = wanted.targets or _chosen(_count(wanted), wanted.level or Level.INTERMEDIATE, ground)
    if not FEWEST_TARGETS <= len(targets) <= MOST_TARGETS:
        raise BadExercise(
            f"A match has {FEWEST_TARGETS} to {MOST_TARGETS} colours, not {len(targets)}."
        )
    found = [recipe(target, ground.paints.tubes, ground.paints.binder.dry) for target in targets]
    cells = [_match_cell(n, one, ground) for n, one in enumerate(found, start=1)]
    bands = [
        Band(label="", cells=tuple(cells[start : start + _ACROSS]))
        for start in range(0, len(cells), _ACROSS)
    ]
    return Asked(
        kind="colour-match",
        title=f"Colour match, {len(cells)} colours",
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            "Look first: how light is it? Which hue? How intense? Then mix in that order.",
            "Put a touch beside the printed colour and squint: value first, then hue, "
            "then intensity.",
            "Clean the knife between mixes. Let it dry, then photograph it flat, in daylight.",
        ),
        concerns=limits_said(
            cells,
            lambda cell: f"Colour {cell.label}",
            "take another colour, or a set with a stronger tube",
        ),
        shows_targets=True,
    )


def _count(wanted: Wanted) -> int:
    count = _USUAL_TARGETS if wanted.count is None else wanted.count
    if not FEWEST_TARGETS <= count <= MOST_TARGETS:
        raise BadExercise(
            f"A match has {FEWEST_TARGETS} to {MOST_TARGETS} colours, not {count}: choose between."
        )
    return count


def _chosen(count: int, by: Level, ground: Ground) -> tuple[tuple[float, float, float], ...]:
    """Pick colours round the wheel, light and dark in turn, well inside the set's reach."""
    highest = reach(ground.paints.tubes)
    hues = np.flatnonzero(highest.max(axis=1) > 1.0)
    picked = hues[np.linspace(0, len(hues), count, endpoint=False).astype(int)]
    labs = []
    for n, hue in enumerate(picked):
        able = np.flatnonzero(highest[hue] >= 0.7 * highest[hue].max())
        level = able[0] if n % 2 else able[-1]
        chroma = _OF_REACH[by] * highest[hue, level]
        labs.append(hvc_to_lab([hue * 2.5, VALUES[level], chroma]).tolist())
    found = [recipe(lab, ground.paints.tubes, ground.paints.binder.dry) for lab in labs]
    return tuple(one.lab for one in found)


def _match_cell(n: int, found: Recipe, ground: Ground) -> AskedCell:
    limit = say_left(found, ground.table) if found.away > _MISSED else ""
    stop = Stop(parts=found.parts, lab=found.lab)
    return cell_of(stop, f"m{n}", str(n), f"Nearest mix: {say_parts(found.parts)}.", limit=limit)


KINDS = (
    Kind(
        name="family-chart",
        label="Family chart",
        says="A whole range from two tubes and white, or from one tube towards every other.",
        takes=frozenset({"tubes", "hue"}),
        ask=_family,
    ),
    Kind(
        name="colour-match",
        label="Colour match",
        says="Given colours, mixed to match: value first, then hue, then intensity.",
        takes=frozenset({"targets", "count", "level"}),
        ask=_match,
    ),
)
