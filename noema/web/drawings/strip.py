"""The strip: a row of joints, painted over expected with no line between."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from noema.core.colour.srgb import lab_to_hex
from noema.core.judging.judgement import CellJudgement, Judgement
from noema.core.judging.review import Review
from noema.core.judging.tally import Tally, tally_of
from noema.core.judging.verdict import Verdict
from noema.core.sheet.layout import Triple

JOINT, GAP = 92.0, 8.0  # drawing units
_TINY_WIDTH = 10
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
    """A strip small enough for a table: painted fills over expected fills.

    A class table holds thousands of these rectangles, so they are written here, not in a template.
    """

    width: int
    paths: Markup
    said: str


MARKS = {
    Verdict.HOLDS: "mark-holds",
    Verdict.DRIFTS: "mark-drifts",
    Verdict.OFF: "mark-off",
    Verdict.LOOK: "mark-look",
}


def make_strip(judgement: Judgement, review: Review) -> Strip:
    """Lay out a judged sheet with the teacher's word over the machine's."""
    tally = tally_of(judgement)
    fills = lab_to_hex([*tally.painted_labs, *tally.expected_labs])
    half = len(judgement.cells)
    joints = tuple(
        _joint(cell, n, fills[n], fills[half + n], judgement, review)
        for n, cell in enumerate(judgement.cells)
    )
    return Strip(joints=joints, width=len(joints) * (JOINT + GAP) - GAP, said=tally.said)


def make_tiny_strips(tallies: Sequence[Tally]) -> list[TinyStrip]:
    """Lay out many strips with one colour conversion for all of them."""
    labs = [lab for tally in tallies for lab in (*tally.painted_labs, *tally.expected_labs)]
    fills = lab_to_hex(labs) if labs else []
    strips, start = [], 0
    for tally in tallies:
        cells = len(tally.ids)
        middle, end = start + cells, start + 2 * cells
        paths = _tiny_paths(fills[start:middle], fills[middle:end])
        strips.append(TinyStrip(width=_TINY_WIDTH * cells, paths=paths, said=tally.said))
        start = end
    return strips


def _tiny_paths(painted: Sequence[str], expected: Sequence[str]) -> Markup:
    size = _TINY_WIDTH
    above = [
        f'<path d="M{n * size} 0h{size}v11h-{size}z" fill="{fill}"/>'
        for n, fill in enumerate(painted)
    ]
    below = [
        f'<path d="M{n * size} 11h{size}v9h-{size}z" fill="{fill}"/>'
        for n, fill in enumerate(expected)
    ]
    return Markup("".join(above + below))


def expected_strip(labs: Sequence[Triple]) -> tuple[str, ...]:
    """Give the fills of a strip nobody has painted yet."""
    return tuple(lab_to_hex(labs))


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
