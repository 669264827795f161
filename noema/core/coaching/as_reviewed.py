"""A judgement as a teacher leaves it: what is said of a sheet follows their word."""

from collections.abc import Iterator
from dataclasses import replace
from math import inf

from noema.core.judging.judgement import (
    CellJudgement,
    Finding,
    FindingKind,
    Judgement,
    Reason,
    Why,
)
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict

_OF_ALL = frozenset(
    {
        FindingKind.SWAPPED,
        FindingKind.ORDER,
        FindingKind.TOGETHER,
        FindingKind.JUMP,
        FindingKind.TWO_NEUTRALS,
    }
)
"""Findings about how cells stand to each other, which say nothing of one alone."""


def as_reviewed(judgement: Judgement, review: Review) -> Judgement:
    """Take out what a teacher left out, and take their verdict for what they overruled.

    Of a cell that holds by their word nothing is found any more.
    """
    holds = {cell for cell, verdict in review.overruled.items() if verdict is Verdict.HOLDS}
    silent = review.left_out | holds
    return replace(
        judgement,
        cells=tuple(
            _with_word(cell, review.overruled.get(cell.id))
            for cell in judgement.cells
            if cell.id not in review.left_out
        ),
        findings=tuple(_without(judgement, silent)),
    )


def _with_word(cell: CellJudgement, said: Verdict | None) -> CellJudgement:
    if said is None:
        return cell
    if said is Verdict.HOLDS:
        return replace(cell, verdict=said, reason=Reason(why=Why.HOLDS))
    reason = cell.reason if cell.reason.why is Why.STRAYS else Reason(why=Why.SAID)
    # Their word is beyond any doubt, and a careful hand's excuse.
    return replace(cell, verdict=said, reason=reason, beyond_hand=inf)


def _without(judgement: Judgement, silent: frozenset[str] | set[str]) -> Iterator[Finding]:
    for finding in judgement.findings:
        left = [n for n, cell in enumerate(finding.cells) if cell not in silent]
        if len(left) == len(finding.cells):
            yield finding
        elif left and finding.kind not in _OF_ALL:
            each = finding.each
            yield replace(
                finding,
                cells=tuple(finding.cells[n] for n in left),
                each=tuple(each[n] for n in left) if len(each) == len(finding.cells) else each,
            )
