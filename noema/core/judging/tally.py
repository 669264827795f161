"""A judgement boiled down to what tables and progress need, light enough for hundreds at once."""

from dataclasses import dataclass

from noema.core.judging.closeness import SkillDrifts, skill_drifts
from noema.core.judging.judgement import Judgement
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, gettext
from noema.core.sheet.layout import Triple

_SAID = {  # of one cell, of several
    Verdict.HOLDS: (N_("%(count)s holds"), N_("%(count)s hold")),
    Verdict.DRIFTS: (N_("%(count)s drifts"), N_("%(count)s drift")),
    Verdict.OFF: (N_("%(count)s is off"), N_("%(count)s are off")),
    Verdict.LOOK: (N_("%(count)s to look at"), N_("%(count)s to look at")),
}


@dataclass(frozen=True, kw_only=True)
class Tally:
    """One judged attempt; every tuple has a place for each cell, in the exercise's order."""

    ids: tuple[str, ...]
    painted_labs: tuple[Triple, ...]
    expected_labs: tuple[Triple, ...]
    drifts: tuple[float, ...]  # value
    sigmas: tuple[float, ...]  # one sigma of each drift
    verdicts: tuple[Verdict, ...]
    skills: SkillDrifts  # empty for judgements of the first three versions

    @property
    def said(self) -> str:
        """The verdicts in a few words: 7 hold, 1 drifts."""
        counts = [(self.verdicts.count(verdict), words) for verdict, words in _SAID.items()]
        return ", ".join(gettext(words[count > 1], count=count) for count, words in counts if count)


def tally_of(judgement: Judgement) -> Tally:
    """Boil a judgement down."""
    cells = judgement.cells
    return Tally(
        ids=tuple(cell.id for cell in cells),
        painted_labs=tuple(cell.painted_lab for cell in cells),
        expected_labs=tuple(cell.expected_lab for cell in cells),
        drifts=tuple(cell.drift for cell in cells),
        sigmas=tuple(cell.sigma for cell in cells),
        verdicts=tuple(cell.verdict for cell in cells),
        skills=skill_drifts(judgement),
    )


def mostly_strays(tally: Tally, review: Review) -> bool:
    """Say whether most of the cells that count surely stray, by the teacher's own word too."""
    verdicts = [
        review.overruled.get(cell, verdict)
        for cell, verdict in zip(tally.ids, tally.verdicts, strict=True)
        if cell not in review.left_out
    ]
    away = sum(verdict in (Verdict.DRIFTS, Verdict.OFF) for verdict in verdicts)
    return 2 * away > len(verdicts)
