"""The complementary intensity chart: a hue, its complement, and the neutral between them."""

from dataclasses import dataclass, replace

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import TWELVE_NAMES
from noema.core.errors import BadExercise
from noema.core.exercises.asked import (
    Arrangement,
    Asked,
    AskedCell,
    Band,
    CellRole,
    Concern,
    Even,
    Ground,
)
from noema.core.exercises.cells import then_dry
from noema.core.exercises.from_paints import pure, white_or_paper
from noema.core.exercises.kind import Kind, Plot, weights
from noema.core.exercises.options import Options, flag, number, some_pairs
from noema.core.exercises.paths import (
    Stop,
    Way,
    cell_of,
    even_places,
    greyest_place,
    stop_of,
    stops_at,
    way_between,
)
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import by_level
from noema.core.language import N_, Term, gettext, written
from noema.core.pigments.mix import Part
from noema.core.pigments.partners import NEUTRAL_ENOUGH, partner, white_to_show
from noema.core.pigments.reach import why_dull

USUAL_PAIRS = ("red-green", "yellow-violet", "blue-orange")
MOST_PAIRS = 3
_STEPS = (5, 7, 9)
_WEAK = 2.0  # chroma under which an end isn't the hue it is called
_UNEVEN = 1.15  # one side's steps to the other's, beyond which it is said
_PASSES_GREEN = 0.5  # chroma at which a green on the way, that nobody asked for, is said


@dataclass(frozen=True, kw_only=True)
class ChartOptions(Options):
    """What may be chosen of an intensity chart."""

    steps: int = number(N_("Steps"), _STEPS, 7, N_("Cells of a row, the neutral in the middle."))
    pairs: tuple[str, ...] = some_pairs(
        N_("Pairs"),
        USUAL_PAIRS,
        N_("A row each: two hues, or tubes of the set, such as red-green."),
    )
    tints: bool = flag(N_("a tint under every mix"), N_("Each mix again, let down with white."))
    sides: bool = flag(N_("the neutral from either side"), N_("The neutral mixed from both ends."))


def _ask(chosen: ChartOptions, ground: Ground) -> Asked:
    steps = chosen.steps
    pairs = [_pair(text, ground) for text in chosen.pairs or USUAL_PAIRS]
    if len(pairs) > MOST_PAIRS:
        raise BadExercise(
            gettext(
                "A chart has room for %(most_pairs)s pairs, not %(count)s.",
                most_pairs=MOST_PAIRS,
                count=len(pairs),
            )
        )
    bands: list[Band] = []
    concerns: list[Concern] = []
    for row, (one, other) in enumerate(pairs, start=1):
        ends = pure(ground, one), pure(ground, other)
        missing = [name for name, end in zip((one, other), ends, strict=True) if not end]
        if missing:
            concerns.append(_missing(ground, f"{one}-{other}", missing[0]))
            continue
        way = way_between(*ends, ground.paints.binder.dry)
        band = _row(way, row, steps, (one, other), ground, chosen.sides)
        bands.append(band)
        concerns += _concerns(ground, band, way, ends, (one, other))
        if chosen.tints:
            bands.append(_tints(band, row, ground))
    if not bands:
        raise BadExercise(f"{concerns[0].sentence} {concerns[0].suggestion.capitalize()}.")
    return Asked(
        kind=KIND.name,
        title=gettext("Intensity chart, %(steps)s steps", steps=steps),
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            gettext("Make plenty of both ends of a row first: every step is mixed from them."),
            gettext(
                "From the lighter end, bring the other in by small touches until it turns greyer."
            ),
            gettext("The diamond is the neutral: stop where you can't say which side it leans to."),
            then_dry(gettext("Clean the knife between mixes.")),
        ),
        concerns=tuple(concerns),
    )


def _pair(text: str, ground: Ground) -> tuple[Term, Term]:
    """Read two hues or tubes with a dash or colon between: red-green, phthalo-blue-orange."""
    known = {str(hue.name) for hue in ground.table.hues(24)}
    known |= {tube.name for tube in ground.paints.tubes}
    for place, sign in enumerate(text):
        one, other = text[:place].strip(), text[place + 1 :].strip()
        if sign in "-:" and one in known and other in known and one != other:
            return Term(one), Term(other)
    raise BadExercise(
        gettext(
            "“%(text)s” is no pair: write two hues, or tubes of the set, such as red-green.",
            text=text,
        )
    )


def _row(
    way: Way, row: int, steps: int, names: tuple[str, str], ground: Ground, sides: bool
) -> Band:
    surface = ground.paints.binder.dry
    middle, half = greyest_place(way), steps // 2
    left = even_places(way.labs[: middle + 1], half + 1, Even.DISTANCE)
    right = even_places(way.labs[middle:], half + 1, Even.DISTANCE) + middle
    stops = stops_at(way, np.concatenate([left, right[1:]]), surface)
    cells = [_cell(stop, f"r{row}c{n}", n, half, names) for n, stop in enumerate(stops, start=1)]
    if sides:
        twin = cells[half]
        label, twins_id = gettext("from %(hue)s", hue=names[1]), f"r{row}n2"
        other = replace(twin, id=twins_id, label=label, role=CellRole.TWIN, of=twin.id)
        cells.insert(half + 1, other)
        cells[half] = replace(twin, label=gettext("from %(hue)s", hue=names[0]))
    return Band(
        label=gettext("%(one)s and %(other)s", one=names[0], other=names[1]),
        cells=tuple(cells),
        even=Even.DISTANCE,
    )


def _cell(stop: Stop, cell_id: str, n: int, half: int, names: tuple[str, str]) -> AskedCell:
    at = n - 1
    if at == half:
        note = gettext("Where the two cancel: it should lean to neither side.")
        return cell_of(stop, cell_id, gettext("neutral"), note, role=CellRole.NEUTRAL)
    side, left = (names[0], half - at) if at < half else (names[1], at - half)
    pure_end = at in (0, 2 * half)
    note = (
        gettext("The %(side)s end, as intense as it comes.", side=side)
        if pure_end
        else gettext(
            "%(side)s with %(left)s of %(half)s steps of its intensity left.",
            side=side.capitalize(),
            left=left,
            half=half,
        )
    )
    role = CellRole.END if pure_end else CellRole.STEP
    return cell_of(stop, cell_id, side if pure_end else str(left), note, role=role)


def _tints(band: Band, row: int, ground: Ground) -> Band:
    """Let every mix of a row down with white, so that dark ones show their hue."""
    surface = ground.paints.binder.dry
    white = white_or_paper(ground.paints)
    cells = []
    for n, cell in enumerate(band.cells, start=1):
        more = Part(tube=white, amount=white_to_show(cell.parts))
        stop = stop_of((*cell.parts, more), surface)
        note = gettext("The mix above, let down with white to show its hue.")
        cells.append(
            cell_of(stop, f"t{row}c{n}", gettext("tint"), note, role=CellRole.TINT, of=cell.id)
        )
    return Band(label=gettext("with white"), cells=tuple(cells))


def _missing(ground: Ground, pair: str, name: str) -> Concern:
    reason = why_dull(ground.paints.tubes, (), name, ground.table)
    return Concern(
        cells=(),
        sentence=gettext(
            "The row %(pair)s is left out: these paints can't give %(name)s, because %(reason)s.",
            pair=pair,
            name=name,
            reason=reason,
        ),
        suggestion=gettext("choose another pair, or a set with the missing tube"),
    )


def _concerns(
    ground: Ground,
    band: Band,
    way: Way,
    ends: tuple[tuple[Part, ...], tuple[Part, ...]],
    names: tuple[str, str],
) -> list[Concern]:
    ends_said = (_weak(ground, band.cells[n], name) for n, name in ((0, names[0]), (-1, names[1])))
    said = [concern for concern in ends_said if concern is not None]
    middle = next(cell for cell in band.cells if cell.role is CellRole.NEUTRAL)
    if middle.hvc.chroma >= NEUTRAL_ENOUGH:
        said.append(_never_neutral(ground, middle, ends, names))
    green = _green_on_the_way(ground, band, names)
    if green is not None:
        said.append(
            Concern(
                cells=(green.id,),
                sentence=gettext(
                    "%(row)s passes through green on its way.", row=gettext(band.label).capitalize()
                ),
                suggestion=_by_partner(ground, ends),
            )
        )
    place = greyest_place(way)
    from_left = _length(way.labs[: place + 1])
    from_right = _length(way.labs[place:])
    if max(from_left, from_right) > _UNEVEN * min(from_left, from_right):
        longer = names[0] if from_left > from_right else names[1]
        said.append(
            Concern(
                cells=(middle.id,),
                sentence=gettext(
                    "In %(row)s the side of %(longer)s has the longer way to the neutral: its "
                    "steps are %(times)s times as large.",
                    row=band.label,
                    longer=Term(longer),
                    times=written(max(from_left, from_right) / min(from_left, from_right), ".1f"),
                ),
                suggestion=gettext(
                    "leave it so: the neutral stands where the two cancel, not halfway"
                ),
            )
        )
    return said


def _weak(ground: Ground, end: AskedCell, name: str) -> Concern | None:
    """Say that an end is hardly there."""
    if end.hvc.chroma >= _WEAK or name not in TWELVE_NAMES:
        return None
    reason = why_dull(ground.paints.tubes, end.parts, name, ground.table)
    return Concern(
        cells=(end.id,),
        sentence=gettext(
            "The %(name)s end is hardly %(name)s: these paints stop at chroma "
            "%(chroma)s, because %(reason)s.",
            name=name,
            chroma=written(end.hvc.chroma, ".1f"),
            reason=reason,
        ),
        suggestion=gettext("choose another pair, or a set with the missing tube"),
    )


def _length(labs: np.ndarray) -> float:
    """Give the length of a way in CIEDE2000."""
    return float(ciede2000(labs[1:], labs[:-1]).sum())


def _never_neutral(
    ground: Ground,
    middle: AskedCell,
    ends: tuple[tuple[Part, ...], tuple[Part, ...]],
    names: tuple[str, str],
) -> Concern:
    lean = ground.table.lean(middle.hvc)
    return Concern(
        cells=(middle.id,),
        sentence=gettext(
            "%(one)s and %(other)s of this set don't cancel: the greyest "
            "mix still leans to %(hue)s.",
            one=names[0].capitalize(),
            other=names[1],
            hue=lean.hue,
        ),
        suggestion=_by_partner(ground, ends),
    )


def _by_partner(ground: Ground, ends: tuple[tuple[Part, ...], tuple[Part, ...]]) -> str:
    main = max(ends[0], key=lambda part: part.amount).tube
    found = partner(main, ground.paints.tubes, ground.table)
    if not found.by:
        return gettext("choose another pair")
    by, *touches = (tube.label for tube in found.by)
    for touch in touches:
        by = gettext("%(tube)s with a little %(touch)s", tube=by, touch=touch)
    return gettext(
        "grey %(label)s with %(by)s: within this set that is its true partner",
        label=main.label,
        by=by,
    )


def _green_on_the_way(ground: Ground, band: Band, names: tuple[str, str]) -> AskedCell | None:
    if "green" in "".join(names):
        return None
    for cell in band.cells:
        lean = ground.table.lean(cell.hvc)
        if lean.hue == "green" and cell.hvc.chroma >= _PASSES_GREEN:
            return cell
    return None


KIND = Kind(
    name="intensity-chart",
    label=N_("Intensity chart"),
    says=N_("A hue loses its intensity to its complement until neither shows."),
    teaching=Teaching(
        place=9,
        see=N_("From both sides two colours lose themselves in one neutral that leans to neither."),
        mistake=N_("The neutral leans to the stronger tube, and the two sides don't meet."),
        say=N_(
            "Find the neutral first and let a little of it down with white to see its lean; "
            "then make the steps towards it."
        ),
        easier=N_("Five steps of one pair."),
        harder=N_("Tints beside the steps, or a pair of very unequal strength."),
        ask=N_("Which way did your neutral lean, and what mended it?"),
    ),
    options=ChartOptions,
    ask=_ask,
    plot=Plot.BRIDGE,
    tolerances=by_level(hue=(5.0, 3.5, 2.5), value=(0.9, 0.7, 0.5), chroma=(1.8, 1.3, 0.9)),
    weights=weights(hue=1, value=1, intensity=2, evenness=2, neutral=2),
    turn=4,
)
