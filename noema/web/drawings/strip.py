"""The strip: a row of joints, painted over expected with no line between."""

from collections.abc import Sequence
from dataclasses import dataclass

from noema.core.colour.srgb import lab_to_hex
from noema.core.judging.judgement import CellJudgement, Judgement
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict
from noema.core.sheet.layout import Triple

JOINT, GAP = 92.0, 8.0  # drawing units
DRIFT_SHOWN = 1.5  # value steps from the middle of a drift bar to its end
BRACKET_SIGMAS = 1.64  # the bracket holds nine in ten


@dataclass(frozen=True, kw_only=True)
class Joint:
    """One cell: what was painted against what was expected."""

    id: str
    label: str
    left: float
    painted_fill: str
    expected_fill: str
    verdict: str  # the word that counts: the teacher's if there is one
    mark: str  # id of the mark that stands for it
    said: str  # the whole joint in words
    counts: bool
    overruled: bool
    drift_x: float  # on a bar of 84 units, 42 is no drift
    bracket_from: float
    bracket_to: float
    room_from: float  # the tolerance
    room_to: float


@dataclass(frozen=True, kw_only=True)
class Strip:
    """A row of joints."""

    joints: tuple[Joint, ...]
    width: float
    said: str  # for those who can't see it


@dataclass(frozen=True, kw_only=True)
class TinyStrip:
    """A strip small enough for a table: painted fills over expected fills."""

    painted: tuple[str, ...]
    expected: tuple[str, ...]
    said: str


MARKS = {
    Verdict.HOLDS: "mark-holds",
    Verdict.DRIFTS: "mark-drifts",
    Verdict.OFF: "mark-off",
    Verdict.LOOK: "mark-look",
}


def make_strip(judgement: Judgement, review: Review) -> Strip:
    """Lay out a judged sheet with the teacher's word over the machine's."""
    fills = lab_to_hex(_labs(judgement.cells))
    half = len(judgement.cells)
    joints = tuple(
        _joint(cell, n, fills[n], fills[half + n], judgement, review)
        for n, cell in enumerate(judgement.cells)
    )
    return Strip(joints=joints, width=len(joints) * (JOINT + GAP) - GAP, said=said(judgement))


def make_tiny_strips(judgements: Sequence[Judgement]) -> list[TinyStrip]:
    """Lay out many strips with one colour conversion for all of them."""
    fills = iter(lab_to_hex([lab for j in judgements for lab in _labs(j.cells)] or [[0, 0, 0]]))
    strips = []
    for judgement in judgements:
        painted = tuple(next(fills) for _ in judgement.cells)
        expected = tuple(next(fills) for _ in judgement.cells)
        strips.append(TinyStrip(painted=painted, expected=expected, said=said(judgement)))
    return strips


def expected_strip(labs: Sequence[Triple]) -> tuple[str, ...]:
    """Give the fills of a strip nobody has painted yet."""
    return tuple(lab_to_hex(labs))


def said(judgement: Judgement) -> str:
    """Say a strip in a few words."""
    counts = [(judgement.count(verdict), verdict.value) for verdict in Verdict]
    return ", ".join(f"{count} {word}" for count, word in counts if count)


def _labs(cells: Sequence[CellJudgement]) -> list[Triple]:
    return [cell.painted_lab for cell in cells] + [cell.expected_lab for cell in cells]


def _joint(
    cell: CellJudgement,
    place: int,
    painted: str,
    expected: str,
    judgement: Judgement,
    review: Review,
) -> Joint:
    verdict = review.overruled.get(cell.id, cell.verdict)
    doubt = BRACKET_SIGMAS * cell.sigma
    tolerance = judgement.level.value_tolerance
    return Joint(
        id=cell.id,
        label=cell.label,
        left=place * (JOINT + GAP),
        painted_fill=painted,
        expected_fill=expected,
        verdict=verdict.value,
        mark=MARKS[verdict],
        said=f"Step {cell.label}: {cell.reason}",
        counts=cell.id not in review.left_out,
        overruled=cell.id in review.overruled,
        drift_x=_on_bar(cell.drift),
        bracket_from=_on_bar(cell.drift - doubt),
        bracket_to=_on_bar(cell.drift + doubt),
        room_from=_on_bar(-tolerance),
        room_to=_on_bar(tolerance),
    )


def _on_bar(drift: float) -> float:
    return round(42.0 + 42.0 * max(-1.0, min(1.0, drift / DRIFT_SHOWN)), 2)
