"""One sentence for a value scale: the single change that would help most.

Paint is made lighter from the lighter pile, because adding is easy and removing is impossible; a
drawing is darkened by another layer and lightened by lifting.
"""

from noema.core.exercises.media import Medium
from noema.core.judging.judgement import CellJudgement, Finding, FindingKind, Judgement
from noema.core.judging.verdict import Verdict
from noema.core.judging.words import cells_words, opening, step_words

_SWAP_GAIN = 0.5
"""Steps nearer, over both cells, from which a swap explains two cells better than bad mixing."""


def next_step(judgement: Judgement, medium: Medium) -> str:
    """Say what to do next, encouraging and true."""
    by_kind = {finding.kind: finding for finding in reversed(judgement.findings)}
    for kind, say in _SAID:
        if kind in by_kind:
            return say(judgement, by_kind[kind], medium)
    worst = _furthest(judgement)
    if worst is not None:
        return _move(worst, medium)
    if jump := by_kind.get(FindingKind.JUMP):
        wide = f"{jump.words[:1].lower()}{jump.words[1:-1]}"
        return f"Every step holds; {wide} is the one to close next."
    return _praise(judgement)


def _furthest(judgement: Judgement) -> CellJudgement | None:
    away = [c for c in judgement.cells if c.verdict in (Verdict.DRIFTS, Verdict.OFF)]
    return max(away, key=lambda cell: abs(cell.steps), default=None)


def _praise(judgement: Judgement) -> str:
    held, unsure = judgement.count(Verdict.HOLDS), judgement.count(Verdict.LOOK)
    if unsure > held:
        return (
            "The photograph leaves too much in doubt: lay the two sheets side by side and look, "
            "or photograph it again flat in daylight."
        )
    if unsure:
        doubtful = [cell.label for cell in judgement.cells if cell.verdict is Verdict.LOOK]
        return (
            f"Every step that can be read holds. Squint at {cells_words(doubtful)}: "
            "the photograph can't quite tell there."
        )
    return "Every step holds. Squint along the row: the jumps should look alike from end to end."


def _empty(judgement: Judgement, finding: Finding, medium: Medium) -> str:
    labels = [cell.label for cell in judgement.cells if cell.id in finding.cells]
    return f"A good start: now paint {cells_words(labels)} and photograph the sheet again."


def _order(judgement: Judgement, finding: Finding, medium: Medium) -> str:
    one, two = _pair(judgement, finding)
    now = abs(one.drift) + abs(two.drift)
    swapped = abs(two.painted_value - one.expected_value) + abs(
        one.painted_value - two.expected_value
    )
    if (now - swapped) / judgement.stride > _SWAP_GAIN:
        return (
            f"Steps {one.label} and {two.label} look swapped: painted the other way round they "
            "would fit."
        )
    return _move(max((one, two), key=lambda cell: abs(cell.drift)), medium)


def _together(judgement: Judgement, finding: Finding, medium: Medium) -> str:
    one, two = _pair(judgement, finding)
    # Only a move outwards opens the gap: the darker cell down or the lighter cell up.
    mover, room = (one, one.drift) if one.drift >= -two.drift else (two, -two.drift)
    amount = max(room / judgement.stride, finding.amount / 2.0)
    turn = "darker" if mover is one else "lighter"
    return (
        f"Steps {one.label} and {two.label} sit together: make step {mover.label} "
        f"{step_words(amount)} {turn}{_by(turn, medium)}."
    )


def _short_dark(judgement: Judgement, finding: Finding, medium: Medium) -> str:
    how = "press another layer into it" if medium.is_dry else "use the black thick, without white"
    return (
        f"Your darkest step can go {step_words(finding.amount)} darker: {how}, "
        "and the whole scale gets more room."
    )


def _short_light(judgement: Judgement, finding: Finding, medium: Medium) -> str:
    how = "leave the paper bare" if medium.is_dry else "take clean white with a clean brush"
    return (
        f"Your lightest step can go {step_words(finding.amount)} lighter: {how}, "
        "and the whole scale gets more room."
    )


def _thin(judgement: Judgement, finding: Finding, medium: Medium) -> str:
    if _furthest(judgement) is not None:
        return _move(_furthest(judgement) or judgement.cells[0], medium)
    labels = [cell.label for cell in judgement.cells if cell.id in finding.cells]
    layer = "layer" if medium.is_dry else "coat"
    return (
        f"The values are there: give {cells_words(labels)} one more even {layer}, to the outline."
    )


def _pair(judgement: Judgement, finding: Finding) -> tuple[CellJudgement, CellJudgement]:
    one, two = (cell for cell in judgement.cells if cell.id in finding.cells)
    return one, two


def _move(cell: CellJudgement, medium: Medium) -> str:
    turn = "lighter" if cell.steps < 0 else "darker"
    return opening(f"make step {cell.label} {step_words(cell.steps)} {turn}{_by(turn, medium)}.")


def _by(turn: str, medium: Medium) -> str:
    if medium.is_dry:
        return ", with another thin layer" if turn == "darker" else ", by lifting some off"
    if turn == "darker":
        return ", with a touch more black"
    return ": start again from the lighter pile and bring in less black"


_SAID = (
    (FindingKind.EMPTY, _empty),
    (FindingKind.ORDER, _order),
    (FindingKind.TOGETHER, _together),
    (FindingKind.SHORT_DARK, _short_dark),
    (FindingKind.SHORT_LIGHT, _short_light),
    (FindingKind.THIN, _thin),
)
