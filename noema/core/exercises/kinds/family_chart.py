"""The family chart: from two tubes and white, or from one tube towards every other."""

from dataclasses import dataclass

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, Band, CellRole, Even, Ground
from noema.core.exercises.cells import then_dry
from noema.core.exercises.from_paints import greyest_pairs, tubes_of, white_of
from noema.core.exercises.from_picture import PictureFacts
from noema.core.exercises.kind import Kind, weights
from noema.core.exercises.options import Options, one_tube, some_tubes
from noema.core.exercises.paths import (
    cell_of,
    cells_of_row,
    end_or_step,
    even_stops,
    way_between,
    way_of_tubes,
)
from noema.core.exercises.teaching import Teaching
from noema.core.language import N_, gettext
from noema.core.pigments.mix import Part
from noema.core.pigments.tube import Tube

_COLUMNS, _LEVELS = 7, 4


@dataclass(frozen=True, kw_only=True)
class FamilyOptions(Options):
    """What may be chosen of a family chart."""

    tubes: tuple[str, ...] = some_tubes(
        help=N_("The two tubes of the family; without, the two that come nearest to cancelling.")
    )
    hue: str = one_tube(
        N_("One tube towards all"), N_("a pair and white"), N_("One tube, led towards every other.")
    )


def _ask(chosen: FamilyOptions, ground: Ground) -> Asked:
    if chosen.hue:
        return _one_to_all(chosen.hue, ground)
    one, other = _pair(chosen.tubes, ground)
    surface = ground.paints.binder.dry
    white = (Part(tube=white_of(ground.paints), amount=1.0),)
    columns = even_stops(way_of_tubes(one, other, surface), _COLUMNS, Even.DISTANCE, surface)
    ladders = [
        even_stops(way_between(stop.parts, white, surface), _LEVELS + 1, Even.VALUE, surface)
        for stop in columns
    ]
    bands = tuple(
        Band(
            label=gettext("as mixed") if level == 0 else gettext("lighter, %(level)s", level=level),
            cells=tuple(
                cell_of(
                    ladder[level],
                    f"r{level + 1}c{n}",
                    _column_label(n, one, other) if level == 0 else "",
                    gettext(
                        "Mix %(n)s of %(columns)s, %(level)s of %(levels)s steps up to white.",
                        n=n,
                        columns=_COLUMNS,
                        level=level,
                        levels=_LEVELS,
                    ),
                    role=end_or_step(n, _COLUMNS) if level == 0 else CellRole.STEP,
                    of=f"r1c{n}" if level else "",
                )
                for n, ladder in enumerate(ladders, start=1)
            ),
            even=Even.DISTANCE if level == 0 else Even.NOT,
        )
        for level in range(_LEVELS)
    )
    return Asked(
        kind=KIND.name,
        title=gettext("Family of %(one)s and %(other)s", one=one.label, other=other.label),
        arrangement=Arrangement.ROWS,
        bands=bands,
        how_to=(
            gettext("Paint the top row first, from one tube to the other, both ends as they come."),
            gettext("Then take each mix up towards white, row by row, in equal steps of value."),
            then_dry(gettext("Clean the knife between columns.")),
        ),
    )


def _column_label(n: int, one: Tube, other: Tube) -> str:
    return one.label if n == 1 else other.label if n == _COLUMNS else str(n)


def _pair(names: tuple[str, ...], ground: Ground) -> tuple[Tube, Tube]:
    """Take two named tubes, or the two of the set that come nearest to cancelling."""
    if len(names) == 2:
        one, other = tubes_of(names, ground.paints)
        return one, other
    if names:
        raise BadExercise(
            gettext("A family has two tubes, not %(count)s: name two.", count=len(names))
        )
    pairs = greyest_pairs(ground, 1)
    if not pairs:
        raise BadExercise(gettext("A family needs two coloured tubes: choose another set."))
    return pairs[0].tubes[0], pairs[0].tubes[1]


def _from_picture(facts: PictureFacts) -> FamilyOptions | None:
    return FamilyOptions(tubes=facts.pair) if len(facts.pair) == 2 else None


def _one_to_all(name: str, ground: Ground) -> Asked:
    one = ground.paints.tube(name)
    others = [tube for tube in ground.paints.colours if tube != one][:7]
    if not others:
        raise BadExercise(gettext("A family needs other tubes in the set: choose another set."))
    surface = ground.paints.binder.dry
    bands = []
    for row, other in enumerate(others, start=1):
        stops = even_stops(way_of_tubes(one, other, surface), _COLUMNS, Even.DISTANCE, surface)
        way = gettext("equal steps from %(one)s to %(other)s.", one=one.label, other=other.label)
        notes = [
            gettext("%(n)s of %(columns)s %(way)s", n=n, columns=_COLUMNS - 1, way=way)
            for n in range(_COLUMNS)
        ]
        cells = cells_of_row(stops, row, notes)
        bands.append(
            Band(label=gettext("to %(tube)s", tube=other.label), cells=cells, even=Even.DISTANCE)
        )
    return Asked(
        kind=KIND.name,
        title=gettext("Family of %(label)s", label=one.label),
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            gettext("Make plenty of %(label)s: every row starts from it.", label=one.label),
            gettext(
                "Start each step from the lighter of the two and bring the other "
                "in by small touches."
            ),
            then_dry(gettext("Clean the knife between rows.")),
        ),
    )


KIND = Kind(
    name="family-chart",
    label=N_("Family chart"),
    says=N_("A whole range from two tubes and white, or from one tube towards every other."),
    teaching=Teaching(
        place=12,
        see=N_("All these mixes hold something of the same tubes, and so they belong together."),
        mistake=N_("Piles for several rows are laid out at once and dry."),
        say=N_("One row at a time, with both of its piles ready before you begin."),
        easier=N_("The first rows only."),
        harder=N_("Choose the tubes yourself and say why."),
        ask=N_("Which three of these would you put into one picture?"),
    ),
    options=FamilyOptions,
    ask=_ask,
    from_picture=_from_picture,
    weights=weights(hue=1, value=2, intensity=1, evenness=1),
)
