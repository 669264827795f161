"""The strip: a row of joints, painted over expected with no line between."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from noema.core.colour.srgb import lab_to_hex
from noema.core.judging.judgement import CellJudgement, Drift, Judgement
from noema.core.judging.review import Review
from noema.core.judging.tally import Tally, tally_of
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, gettext
from noema.core.sheet.layout import Triple
from noema.core.words.amounts import cell_words, opening
from noema.core.words.reasons import reason_words
from noema.web.drawings.named import SwatchName, names_of, names_shown

JOINT, GAP, ROW = 92.0, 8.0, 246.0  # drawing units
_SHORT_ROW = 176.0  # without words, which would be too small to read
_MOST_WITH_WORDS, _MOST_ACROSS = 12, 24  # joints in a row
_TINY_WIDTH = 10
DRIFT_SHOWN = 1.5  # value steps from the middle of a drift bar to its end
BRACKET_SIGMAS = 1.64  # the bracket holds nine in ten


@dataclass(frozen=True, kw_only=True)
class Joint:
    """One cell: what was painted against what was expected."""

    id: str
    label: str
    left: float
    top: float
    painted_fill: str
    expected_fill: str
    names: tuple[SwatchName, ...]  # of what was painted and expected, where they are shown
    verdict: str  # the word that counts: the teacher's if there is one
    word: str  # the same, short enough to stand under it; a star where it is the teacher's
    mark: str  # id of the mark that stands for it
    said: str  # the whole joint in words
    counts: bool
    drift_x: float  # on a bar of 84 units, 42 is no drift
    bracket_from: float
    bracket_to: float
    within_from: float  # the tolerance
    within_to: float

    @property
    def short_verdict(self) -> str:
        """The verdict, short, whoever gave it."""
        return self.word.rstrip("*")


@dataclass(frozen=True, kw_only=True)
class Strip:
    """A row of joints."""

    joints: tuple[Joint, ...]
    width: float
    height: float
    said: str  # for those who can't see it
    has_words: bool  # there is room for them under the joints


@dataclass(frozen=True, kw_only=True)
class TinyStrip:
    """A strip small enough for a table: painted fills over expected fills.

    A class table holds thousands of these rectangles, so they are written here, not in a template.
    """

    width: int
    paths: Markup
    said: str


@dataclass(frozen=True, kw_only=True)
class PlainJoint:
    """Two colours edge to edge, without a verdict."""

    label: str
    painted: str  # fill
    expected: str


def plain_joints(pairs: Sequence[tuple[str, Triple, Triple]]) -> tuple[PlainJoint, ...]:
    """Lay painted over expected: name, painted Lab, expected Lab of each cell."""
    fills = lab_to_hex([lab for _, *labs in pairs for lab in labs]) if pairs else []
    return tuple(
        PlainJoint(label=label, painted=painted, expected=expected)
        for (label, _, _), painted, expected in zip(pairs, fills[::2], fills[1::2], strict=True)
    )


MARKS = {
    Verdict.HOLDS: "mark-holds",
    Verdict.DRIFTS: "mark-drifts",
    Verdict.OFF: "mark-off",
    Verdict.LOOK: "mark-look",
}

_SHORT = {Verdict.LOOK: N_("look")}


def make_strip(judgement: Judgement, review: Review) -> Strip:
    """Lay out a judged sheet with the teacher's word over the machine's."""
    tally = tally_of(judgement)
    labs = [*tally.painted_labs, *tally.expected_labs]
    fills = lab_to_hex(labs)
    names = names_of(labs) if names_shown() else ()
    half = len(judgement.cells)
    has_words = half <= _MOST_WITH_WORDS
    height = ROW if has_words else _SHORT_ROW
    across = -(-half // -(-half // _MOST_ACROSS))  # as even rows as there can be
    joints = tuple(
        _joint(
            cell,
            n % across,
            n // across * height,
            fills[n],
            fills[half + n],
            names[n::half],
            review,
        )
        for n, cell in enumerate(judgement.cells)
    )
    return Strip(
        joints=joints,
        width=across * (JOINT + GAP) - GAP,
        height=height * -(-half // across),
        said=tally.said,
        has_words=has_words,
    )


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


def _joint(
    cell: CellJudgement,
    column: int,
    top: float,
    painted: str,
    expected: str,
    names: tuple[SwatchName, ...],
    review: Review,
) -> Joint:
    verdict = review.overruled.get(cell.id, cell.verdict)
    drift = _shown(cell)
    doubt = BRACKET_SIGMAS * drift.sigma
    return Joint(
        id=cell.id,
        label=cell.label,
        left=column * (JOINT + GAP),
        top=top,
        painted_fill=painted,
        expected_fill=expected,
        names=names,
        verdict=gettext(verdict.value),
        word=gettext(_SHORT.get(verdict, verdict.value)) + "*" * (cell.id in review.overruled),
        mark=MARKS[verdict],
        said=f"{opening(cell_words(cell.label))}: {reason_words(cell.reason)}",
        counts=cell.id not in review.left_out,
        drift_x=_on_bar(drift.amount),
        bracket_from=_on_bar(drift.amount - doubt),
        bracket_to=_on_bar(drift.amount + doubt),
        within_from=_on_bar(-drift.tolerance),
        within_to=_on_bar(drift.tolerance),
    )


def _shown(cell: CellJudgement) -> Drift:
    """Give the drift a bar shows: the value's, or where colour is asked the worst one's.

    Quantities of colour are brought to value's scale by their tolerances.
    """
    value = Drift(amount=cell.drift, sigma=cell.sigma, tolerance=cell.tolerance)
    colour = [drift for drift in (cell.hue, cell.chroma) if drift is not None]
    worst = max([value, *colour], key=lambda drift: abs(drift.amount) / drift.tolerance)
    scale = cell.tolerance / worst.tolerance
    return Drift(amount=worst.amount * scale, sigma=worst.sigma * scale, tolerance=cell.tolerance)


def _on_bar(drift: float) -> float:
    return round(42.0 + 42.0 * max(-1.0, min(1.0, drift / DRIFT_SHOWN)), 2)
