"""What a class shows as a whole: who drifts where, and what most have in common, in words."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import HueTable
from noema.core.exercises.asked import Asked, AskedCell
from noema.core.exercises.naming import cell_names
from noema.core.judging.drift import neighbour_hue
from noema.core.judging.judgement import CellJudgement, Drift, FindingKind, Judgement
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, gettext
from noema.core.pigments.reach import best_mix, why_dull
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Role
from noema.core.words.amounts import cell_words, end_words, listed, opening

FEWEST = 3
"""Students who must have something in common before it is the class's."""

_SHARE_OF_CELL, _SHARE_OF_CLASS = 0.4, 0.3  # of those whose cell counts; of the sheets
_MOST = 8  # patterns named
_DULL_NAMES = 12  # names of hues in which it is said why one is dull


@dataclass(frozen=True, kw_only=True)
class Attempt:
    """One student's judged sheet, and the teacher's word on it."""

    judgement: Judgement
    review: Review


@dataclass(frozen=True, kw_only=True)
class ClassPattern:
    """Something many have in common."""

    cells: tuple[str, ...]
    students: int
    of: int
    words: str
    suggestion: str  # what a teacher can do about it; empty where nothing in particular helps
    own_try: str  # what students can do about it themselves


@dataclass(frozen=True, kw_only=True)
class CellDrifts:
    """How all students' paint in one cell drifts, in tolerances; what doesn't count is left out."""

    id: str
    label: str
    hue: tuple[float, ...]
    value: tuple[float, ...]
    chroma: tuple[float, ...]


def drifts_by_cell(attempts: Sequence[Attempt], asked: Asked) -> tuple[CellDrifts, ...]:
    """Collect every counted drift, cell by cell in the exercise's order."""
    cells = {cell.id: list[CellJudgement]() for cell in asked.cells}
    names = cell_names(asked)
    for cell in _counted(attempts):
        cells[cell.id].append(cell)
    return tuple(
        CellDrifts(
            id=cell_id,
            label=names[cell_id],
            hue=_in_rooms(one.hue for one in seen),
            value=_in_rooms(_value(one) for one in seen),
            chroma=_in_rooms(one.chroma for one in seen),
        )
        for cell_id, seen in cells.items()
    )


def class_patterns(
    attempts: Sequence[Attempt], asked: Asked, paints: PaintSet | None, table: HueTable
) -> tuple[ClassPattern, ...]:
    """Name what many have in common, the commonest first."""
    found = [*_by_finding(attempts), *_by_cell(attempts, asked, paints, table)]
    ranked = sorted(found, key=lambda one: (-one.students / one.of, -one.students))
    return tuple(ranked[:_MOST])


def _counted(attempts: Iterable[Attempt]) -> Iterator[CellJudgement]:
    for attempt in attempts:
        for cell in attempt.judgement.cells:
            verdict = attempt.review.overruled.get(cell.id, cell.verdict)
            if verdict is not Verdict.LOOK and cell.id not in attempt.review.left_out:
                yield cell


def _value(cell: CellJudgement) -> Drift:
    return Drift(amount=cell.drift, sigma=cell.sigma, tolerance=cell.tolerance)


def _in_rooms(drifts: Iterable[Drift | None]) -> tuple[float, ...]:
    return tuple(round(one.amount / one.tolerance, 2) for one in drifts if one is not None)


def _by_finding(attempts: Sequence[Attempt]) -> Iterator[ClassPattern]:
    """Count the sheets that show the same: the same finding, to the same side."""
    sheets: dict[tuple[FindingKind, str], set[int]] = {}
    cells: dict[tuple[FindingKind, str], set[str]] = {}
    for n, attempt in enumerate(attempts):
        for finding in attempt.judgement.findings:
            side = finding.towards if finding.kind in _SIDED else ""
            sheets.setdefault((finding.kind, side), set()).add(n)
            cells.setdefault((finding.kind, side), set()).update(finding.cells)
    for (kind, side), seen in sheets.items():
        said = _SAID.get(kind)
        if said is None or len(seen) < max(FEWEST, _SHARE_OF_CLASS * len(attempts)):
            continue
        yield ClassPattern(
            cells=tuple(sorted(cells[(kind, side)])),
            students=len(seen),
            of=len(attempts),
            words=gettext(
                "%(count)s of %(all)s sheets: %(what)s.",
                count=len(seen),
                all=len(attempts),
                what=gettext(said[0], side=end_words(side)),
            ),
            suggestion=gettext(said[1]),
            own_try=gettext(said[2]),
        )


def _by_cell(
    attempts: Sequence[Attempt], asked: Asked, paints: PaintSet | None, table: HueTable
) -> Iterator[ClassPattern]:
    """Count, cell by cell, who strays to the same side in the same quantity."""
    by_cell = {cell.id: cell for cell in asked.cells}
    counted: dict[str, list[CellJudgement]] = {}
    for cell in _counted(attempts):
        counted.setdefault(cell.id, []).append(cell)
    for cell_id, seen in counted.items():
        for strays, said in _WAYS:
            astray = [cell for cell in seen if strays(cell)]
            if len(astray) < max(FEWEST, _SHARE_OF_CELL * len(seen)):
                continue
            name = opening(cell_words(seen[0].label))
            way = (
                gettext(said)
                if said
                else gettext("leans to %(hue)s", hue=_leaning(astray[0], table))
            )
            yield ClassPattern(
                cells=(cell_id,),
                students=len(astray),
                of=len(seen),
                words=gettext(
                    "%(name)s %(way)s with %(count)s of %(all)s.",
                    name=name,
                    way=way,
                    count=len(astray),
                    all=len(seen),
                ),
                suggestion=(mixed := _by_its_mix(by_cell[cell_id], said, paints, table))
                or gettext(_HELP[said][0] if said in _HELP else ""),
                own_try=mixed or gettext(_HELP[said][1] if said in _HELP else ""),
            )


def _by_its_mix(cell: AskedCell, said: str, paints: PaintSet | None, table: HueTable) -> str:
    """Say of a dull mix what its paints have to do with it; nothing of others."""
    used = [part.tube for part in cell.parts if part.tube.role is Role.COLOUR]
    if paints is None or said != _DULL or cell.hvc.hue100 is None or len(used) < 2:
        return ""
    name = table.nearest(cell.hvc.hue100, _DULL_NAMES).name
    better = [p.tube for p in best_mix(paints.tubes, cell.hvc.hue100) if p.tube.role is Role.COLOUR]
    if better and set(better) - set(used):
        return gettext("Try it with %(tubes)s.", tubes=listed([tube.label for tube in better]))
    reason = why_dull(paints.tubes, cell.parts, name, table)
    return gettext(
        "Mix it from %(tubes)s alone, with a clean brush; %(reason)s.",
        tubes=listed([t.label for t in used]),
        reason=reason,
    )


def _leaning(cell: CellJudgement, table: HueTable) -> str:
    """Name the hue to which a cell strays."""
    painted, expected = hvc_of(cell.painted_lab), hvc_of(cell.expected_lab)
    assert cell.hue is not None  # it strays in hue
    return neighbour_hue(painted, expected, cell.hue.amount, table)


def _past(drift: Drift | None, sign: float) -> bool:
    return drift is not None and sign * drift.amount > drift.tolerance


_DULL, _LEANS = N_("is dull"), ""  # the hue it leans to is said in its place
_WAYS: tuple[tuple[Callable[[CellJudgement], bool], str], ...] = (
    (lambda cell: _past(cell.chroma, -1.0), _DULL),
    (
        lambda cell: cell.hue is not None and _past(cell.chroma, 1.0),
        N_("is more intense than asked"),
    ),
    (lambda cell: _past(_value(cell), -1.0), N_("is too dark")),
    (lambda cell: _past(_value(cell), 1.0), N_("is too light")),
    (lambda cell: _past(cell.hue, 1.0), _LEANS),
    (lambda cell: _past(cell.hue, -1.0), _LEANS),
)
_HELP: Mapping[str, tuple[str, str]] = {
    _LEANS: (
        N_("Show once how the mix turns with a touch of each of its tubes."),
        N_("Bring in a touch of one of its tubes, then of the other: watch which way it turns."),
    ),
    "is too dark": (
        N_("Show once how little of the darker paint it takes."),
        N_("Start from the lighter paint and bring the darker in by tiny touches."),
    ),
    "is too light": (
        N_("Show it once beside the key, squinting."),
        N_("Hold your sheet beside the key, squint, and go darker until both look the same."),
    ),
    "is more intense than asked": (
        N_("Show how a touch of the complement takes intensity away."),
        N_("Bring in a tiny touch of the colour opposite on the wheel."),
    ),
}
"""By way of straying: what a teacher can do for the class, and what students can try."""

_SIDED = (FindingKind.BUNCHED, FindingKind.NOT_NEUTRAL, FindingKind.CAST)
_SAID: Mapping[FindingKind, tuple[str, str, str]] = {
    FindingKind.BUNCHED: (
        N_("the steps crowd towards %(side)s"),
        N_("Paint the middle step together first, then halve each side."),
        N_("Paint the middle step first, then halve each side."),
    ),
    FindingKind.NOT_NEUTRAL: (
        N_("the neutral leans to %(side)s"),
        N_(
            "Show how to steer: a trace of the other tube until nobody can say "
            "which side it leans to."
        ),
        N_("Bring in a trace of the other tube until nobody can say which side it leans to."),
    ),
    FindingKind.COLOURED: (
        N_("colour stands where grey was asked"),
        N_("Change the water, and start from clean piles."),
        N_("Take clean water and start from clean piles."),
    ),
    FindingKind.CONTAMINATED: (
        N_("a tube isn't clean"),
        N_("Show how to wash the brush between mixes, and change the water."),
        N_("Wash the brush between mixes, and change the water."),
    ),
    FindingKind.WRONG_TUBE: (
        N_("a mix is of another tube than asked"),
        N_("Lay the tubes out in the order of the sheet before the next start."),
        N_("Lay your tubes out in the order of the sheet before you start."),
    ),
    FindingKind.SWAPPED: (
        N_("cells stand in each other's place"),
        N_("Number the piles as the cells."),
        N_("Put your piles in the order of the cells before you paint."),
    ),
    FindingKind.TOGETHER: (
        N_("steps sit together"),
        N_("Squint along the row before the paint is dry."),
        N_("Squint along the row: where you see no edge, make the step bigger."),
    ),
    FindingKind.ORDER: (
        N_("steps stand the wrong way round"),
        N_("Lay the piles out in order first."),
        N_("Lay your piles out in order first, from light to dark."),
    ),
    FindingKind.LEANS: (
        N_("mixes lean to one of their tubes"),
        N_("Show where the eye's middle lies: it is rarely the middle of the parts."),
        N_("Judge the middle by eye, not by counting parts."),
    ),
    FindingKind.DULL: (
        N_("mixes turned dull"),
        N_("Show one mix with a clean brush, two tubes only."),
        N_("Mix it again from two tubes only, with a clean brush."),
    ),
    FindingKind.THIN: (
        N_("paint doesn't cover"),
        N_("Show how thick one even coat is."),
        N_("Paint one even coat, thick enough that no paper shows."),
    ),
    FindingKind.WET: (
        N_("photographed wet"),
        N_("Photograph at the start of the next lesson."),
        N_("Let it dry before you photograph it."),
    ),
    FindingKind.OVER_LINE: (
        N_("paint runs over the line"),
        N_("Hand out smaller brushes for edges."),
        N_("Take a smaller brush for the edges."),
    ),
    FindingKind.SHORT_DARK: (
        N_("the dark end stops early"),
        N_("Show the black used thick."),
        N_("Use the black thick, straight from the tube."),
    ),
    FindingKind.SHORT_LIGHT: (
        N_("the light end stops early"),
        N_("Show white from a clean brush."),
        N_("Take white fresh, with a clean brush."),
    ),
    FindingKind.CAST: (
        N_("the greys lean to %(side)s"),
        N_("Change the water; start from clean white."),
        N_("Take clean water and clean white."),
    ),
    FindingKind.EMPTY: (
        N_("cells are still bare"),
        N_("Give time to finish."),
        N_("Finish the bare cells before you photograph the sheet."),
    ),
}
"""What is said of many sheets, what helps a class, and what students can try."""
