"""What a student thought would hold beside what was read: learning to see.

Compared cell by cell. Cells the reading can't speak of, and cells a teacher left out, say nothing.
"""

from collections.abc import Collection
from dataclasses import dataclass

from noema.core.judging.review import Review
from noema.core.judging.tally import Tally
from noema.core.judging.verdict import Verdict
from noema.core.language import gettext

_SEES_WELL = 0.8  # share of cells seen alike
_LEANS = 2  # cells more to one side than to the other, from which one leans


@dataclass(frozen=True, kw_only=True)
class Seen:
    """One sheet, as the student saw it and as it was read."""

    agreed: tuple[str, ...]  # cells seen alike
    too_hard: tuple[str, ...]  # hold, though the student thought they wouldn't
    too_kind: tuple[str, ...]  # don't hold, though the student thought they would

    @property
    def cells(self) -> int:
        """How many cells could be compared."""
        return len(self.agreed) + len(self.too_hard) + len(self.too_kind)

    @property
    def share(self) -> float | None:
        """The share seen alike, 0 to 1; None where nothing could be compared."""
        return len(self.agreed) / self.cells if self.cells else None

    @property
    def words(self) -> str:
        """What that says of the student's eyes."""
        if not self.cells:
            return gettext("Too little could be read to compare.")
        start = gettext(
            "You saw %(count)s of %(cells)s steps as they were read.",
            count=len(self.agreed),
            cells=self.cells,
        )
        if len(self.too_kind) - len(self.too_hard) >= _LEANS:
            return gettext(
                "%(start)s Look longer before you say it holds: squint, then compare neighbours.",
                start=start,
            )
        if len(self.too_hard) - len(self.too_kind) >= _LEANS:
            return gettext("%(start)s You can trust your eye more.", start=start)
        if len(self.agreed) >= _SEES_WELL * self.cells:
            return gettext("%(start)s Your eye is sure.", start=start)
        return gettext("%(start)s Where they differ, look once more at both.", start=start)


def seen(thinks: Collection[str], tally: Tally, review: Review) -> Seen:
    """Hold what a student thought beside the verdicts, the teacher's word counting first."""
    agreed: list[str] = []
    hard: list[str] = []
    kind: list[str] = []
    for cell, read in zip(tally.ids, tally.verdicts, strict=True):
        verdict = review.overruled.get(cell, read)
        if verdict is Verdict.LOOK or cell in review.left_out:
            continue
        holds, thought = verdict is Verdict.HOLDS, cell in thinks
        (agreed if holds is thought else hard if holds else kind).append(cell)
    return Seen(agreed=tuple(agreed), too_hard=tuple(hard), too_kind=tuple(kind))
