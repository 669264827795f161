"""How closely a student's values come to their steps, from attempt to attempt.

Accuracy is the mean size of the drift over the counted cells. Its doubt comes from the reader's
own sigma, so two attempts differ only when they differ by more than the camera could.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt

from noema.core.judging.judgement import FindingKind
from noema.core.judging.review import Review
from noema.core.judging.tally import Tally
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, gettext, written

CLEAR = 1.64
"""Sigmas from which a change is called one: nineteen in twenty, one-sided."""

_WORTH_SAYING = 0.05  # value steps: a smaller change is nothing to a painter


@dataclass(frozen=True, kw_only=True)
class Accuracy:
    """One attempt, in numbers."""

    mean_drift: float  # value steps, mean size over counted cells
    sigma: float  # one sigma of it
    holds: int  # cells that hold, the teacher's word counting first
    counted: int  # cells that count


def accuracy_of(tally: Tally, review: Review) -> Accuracy | None:
    """Sum up an attempt, the teacher's word counting first; None when no cell counts."""
    verdicts = [
        review.overruled.get(cell, verdict)
        for cell, verdict in zip(tally.ids, tally.verdicts, strict=True)
    ]
    counted = [
        n
        for n, cell in enumerate(tally.ids)
        if verdicts[n] is not Verdict.LOOK and cell not in review.left_out
    ]
    if not counted:
        return None
    return Accuracy(
        mean_drift=sum(abs(tally.drifts[n]) for n in counted) / len(counted),
        sigma=sqrt(sum(tally.sigmas[n] ** 2 for n in counted)) / len(counted),
        holds=sum(verdicts[n] is Verdict.HOLDS for n in counted),
        counted=len(counted),
    )


def change_words(before: Accuracy | None, after: Accuracy | None) -> str:
    """Say what an attempt changed against the one before it, or that nothing can be said."""
    if after is None:
        return gettext("Too little of it could be read to say.")
    if before is None:
        return gettext(
            "%(holds)s of %(counted)s steps hold.", holds=after.holds, counted=after.counted
        )
    gain = before.mean_drift - after.mean_drift
    clear = abs(gain) > max(CLEAR * hypot(before.sigma, after.sigma), _WORTH_SAYING)
    if not clear:
        return gettext("About as close as the last one.")
    nearer = gettext("closer") if gain > 0 else gettext("further out")
    return gettext(
        "Values lie %(nearer)s: %(mean_drift)s from their steps before, %(mean_drift2)s now.",
        nearer=nearer,
        mean_drift=written(before.mean_drift, ".1f"),
        mean_drift2=written(after.mean_drift, ".1f"),
    )


_GAINED = {
    FindingKind.EMPTY: N_("every step is painted"),
    FindingKind.ORDER: N_("the steps run in order"),
    FindingKind.TOGETHER: N_("no two steps sit together"),
    FindingKind.JUMP: N_("no wide jumps are left"),
    FindingKind.SHORT_DARK: N_("the dark end reaches down"),
    FindingKind.SHORT_LIGHT: N_("the light end reaches up"),
    FindingKind.THIN: N_("the paint covers evenly"),
}


def gained(before: Sequence[FindingKind], after: Sequence[FindingKind]) -> list[str]:
    """Say which troubles of the attempt before are gone."""
    return [words for kind, words in _GAINED.items() if kind in before and kind not in after]
