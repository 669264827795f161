"""How much an attempt needs a teacher's eyes, so that what needs them most comes first."""

from collections.abc import Collection

from noema.core.judging.judgement import Judgement
from noema.core.judging.verdict import Verdict
from noema.core.photo.reading import SheetFlag

_HARMLESS = frozenset({SheetFlag.GREY_PRINT})
_FLAG, _DISAGREES, _FINDING = 0.5, 1.5, 0.15


def attention(
    judgement: Judgement, flags: Collection[SheetFlag], disagreeing: Collection[str] = ()
) -> float:
    """Give a number that grows with doubt: 0 for a sheet that holds plainly.

    Cells to look at count by their share, a photograph's flags and findings a little each, and
    cells most of all in which a teacher's sheet and the paints give different verdicts.
    """
    share = judgement.count(Verdict.LOOK) / len(judgement.cells)
    stray = (judgement.count(Verdict.OFF) + judgement.count(Verdict.DRIFTS)) / len(judgement.cells)
    return round(
        share
        + stray / 2.0
        + _FLAG * len(set(flags) - _HARMLESS)
        + _DISAGREES * len(disagreeing) / len(judgement.cells)
        + _FINDING * len(judgement.findings),
        4,
    )


def holds_plainly(judgement: Judgement, flags: Collection[SheetFlag]) -> bool:
    """Say whether every cell holds and neither photograph nor sheet leaves a question."""
    all_hold = judgement.count(Verdict.HOLDS) == len(judgement.cells)
    return all_hold and not judgement.findings and not set(flags) - _HARMLESS


def disagreeing(one: Judgement, other: Judgement) -> frozenset[str]:
    """Name the cells that hold by one key and stray by another."""
    return frozenset(
        a.id
        for a, b in zip(one.cells, other.cells, strict=True)
        if Verdict.LOOK not in (a.verdict, b.verdict)
        and (a.verdict is Verdict.HOLDS) != (b.verdict is Verdict.HOLDS)
    )
