"""Which cells are worth painting again."""

from collections.abc import Set

from noema.core.judging.judgement import Finding, FindingKind, Judgement
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict

_WHOLE_SHEET = (FindingKind.WET, FindingKind.CAST)
"""Findings about all of a sheet, which no few cells mend."""

_OF_A_RUN = (
    FindingKind.BUNCHED,
    FindingKind.ORDER,
    FindingKind.TOGETHER,
    FindingKind.JUMP,
    FindingKind.WANDERS,
    FindingKind.VALUES,
)
"""Findings about how cells stand to each other: those that hold their step may stay."""


def cells_to_redo(judgement: Judgement, review: Review) -> frozenset[str]:
    """Name the cells that stray or that a finding is about; a teacher's word counts first."""
    if any(finding.kind in _WHOLE_SHEET for finding in judgement.findings):
        return frozenset(cell.id for cell in judgement.cells)
    holding = {cell.id for cell in judgement.cells if cell.verdict is Verdict.HOLDS}
    found = {cell for finding in judgement.findings for cell in _mending(finding, holding)}
    held = {cell for cell, verdict in review.overruled.items() if verdict is Verdict.HOLDS}
    straying = {
        cell.id
        for cell in judgement.cells
        if review.overruled.get(cell.id, cell.verdict) in (Verdict.DRIFTS, Verdict.OFF)
    }
    return frozenset((found | straying) - held - review.left_out)


def _mending(finding: Finding, holding: Set[str]) -> Set[str]:
    """Name the cells that mend a finding."""
    cells = frozenset(finding.cells)
    astray = cells - holding
    return astray if astray and finding.kind in _OF_A_RUN else cells
