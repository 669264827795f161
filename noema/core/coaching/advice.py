"""One sentence for a sheet of any kind: the single change that would help most.

A value scale has words of its own; of the other kinds the cell that strays farthest past its room
is named, with what it strays in.
"""

from noema.core.coaching import value_scale
from noema.core.exercises.media import Medium
from noema.core.exercises.value_scale import KIND
from noema.core.judging.judgement import CellJudgement, FindingKind, Judgement, past_room
from noema.core.judging.verdict import Verdict
from noema.core.judging.words import cell_words, cells_words


def advice(judgement: Judgement, medium: Medium) -> str:
    """Say what to do next, encouraging and true."""
    if judgement.exercise == KIND:
        return value_scale.next_step(judgement, medium)
    by_kind = {finding.kind: finding for finding in judgement.findings}
    if bare := by_kind.get(FindingKind.EMPTY):
        labels = [cell.label for cell in judgement.cells if cell.id in bare.cells]
        return f"A good start: now paint {cells_words(labels)} and photograph the sheet again."
    away = [c for c in judgement.cells if c.verdict in (Verdict.DRIFTS, Verdict.OFF)]
    if away:
        return _look_first(max(away, key=past_room), judgement)
    if thin := by_kind.get(FindingKind.THIN):
        labels = [cell.label for cell in judgement.cells if cell.id in thin.cells]
        return f"The colours are there: give {cells_words(labels)} one more even coat."
    return _praise(judgement)


def _look_first(cell: CellJudgement, judgement: Judgement) -> str:
    held = judgement.count(Verdict.HOLDS)
    reason = f"{cell.reason[:1].lower()}{cell.reason[1:]}"
    start = f"{held} of {len(judgement.cells)} hold. " if held else ""
    return f"{start}Look first at {cell_words(cell.label)}: {reason}"


def _praise(judgement: Judgement) -> str:
    unsure = [cell.label for cell in judgement.cells if cell.verdict is Verdict.LOOK]
    if not unsure:
        return "Every cell holds. Lay the sheet beside the key and squint: do any edges still show?"
    if len(unsure) > judgement.count(Verdict.HOLDS):
        return (
            "The photograph leaves too much in doubt: lay the sheet beside the key and look, "
            "or photograph it again flat in daylight."
        )
    return (
        f"Every cell that can be read holds. Look yourself at {cells_words(unsure)}: "
        "the photograph can't quite tell there."
    )
