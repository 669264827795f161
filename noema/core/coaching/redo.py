"""Which cells are worth painting again."""

from noema.core.judging.judgement import FindingKind, Judgement
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict

_WHOLE_SHEET = (FindingKind.WET, FindingKind.CAST)
"""Findings about all of a sheet, which no few cells mend."""


def cells_to_redo(judgement: Judgement, review: Review) -> frozenset[str]:
    """Name the cells that stray or that a finding is about; a teacher's word counts first."""
    if any(finding.kind in _WHOLE_SHEET for finding in judgement.findings):
        return frozenset(cell.id for cell in judgement.cells)
    found = {cell for finding in judgement.findings for cell in finding.cells}
    held = {cell for cell, verdict in review.overruled.items() if verdict is Verdict.HOLDS}
    straying = {
        cell.id
        for cell in judgement.cells
        if review.overruled.get(cell.id, cell.verdict) in (Verdict.DRIFTS, Verdict.OFF)
    }
    return frozenset((found | straying) - held - review.left_out)
