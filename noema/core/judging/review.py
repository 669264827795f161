"""What a teacher decided about an attempt, worked out from the record of decisions.

The record only grows; undoing is a decision too. Folding it gives the state now, so nothing a
teacher said is lost and nothing measured is touched.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from enum import Enum

from noema.core.errors import Refused
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, gettext


class Verb(Enum):
    """Something a teacher can decide."""

    ACCEPT = "accept"  # the attempt is good as it is
    SEND_BACK = "send-back"  # to be tried again, with a sentence
    LEAVE_OUT = "leave-out"  # a cell doesn't count
    COUNT = "count"  # a cell counts again
    OVERRULE = "overrule"  # a cell gets the teacher's verdict
    UNDO = "undo"  # the last decision still standing is taken back


class ReviewState(Enum):
    """Where an attempt stands with the teacher."""

    OPEN = N_("to review")
    ACCEPTED = N_("accepted")
    SENT_BACK = N_("sent back")


@dataclass(frozen=True, kw_only=True)
class Decision:
    """One line of the record."""

    verb: Verb
    cell: str | None = None  # for LEAVE_OUT, COUNT and OVERRULE
    verdict: Verdict | None = None  # for OVERRULE
    sentence: str | None = None  # for SEND_BACK

    def __post_init__(self) -> None:
        if self.verb in (Verb.LEAVE_OUT, Verb.COUNT, Verb.OVERRULE) and not self.cell:
            raise Refused(gettext("Choose a cell first."))
        if self.verb is Verb.OVERRULE and self.verdict in (None, Verdict.LOOK):
            raise Refused(gettext("Say holds, drifts or off."))
        if self.verb is Verb.SEND_BACK and not (self.sentence or "").strip():
            raise Refused(gettext("Write the student a sentence before sending the sheet back."))


@dataclass(frozen=True, kw_only=True)
class Review:
    """The teacher's word on one attempt."""

    state: ReviewState = ReviewState.OPEN
    sentence: str | None = None
    left_out: frozenset[str] = frozenset()
    overruled: Mapping[str, Verdict] = field(default_factory=dict)
    standing: int = 0  # decisions that can still be undone


def review_of(decisions: Iterable[Decision]) -> Review:
    """Fold a record, oldest first, into the state now.

    >>> review_of([Decision(verb=Verb.ACCEPT), Decision(verb=Verb.UNDO)]).state
    <ReviewState.OPEN: 'to review'>
    """
    standing: list[Decision] = []
    for decision in decisions:
        if decision.verb is not Verb.UNDO:
            standing.append(decision)
        elif standing:
            standing.pop()
    review = Review(standing=len(standing))
    for decision in standing:
        review = _after(review, decision)
    return review


def _after(review: Review, decision: Decision) -> Review:
    state, sentence = review.state, review.sentence
    left_out, overruled = set(review.left_out), dict(review.overruled)
    match decision.verb:
        case Verb.ACCEPT:
            state, sentence = ReviewState.ACCEPTED, None
        case Verb.SEND_BACK:
            state, sentence = ReviewState.SENT_BACK, decision.sentence
        case Verb.LEAVE_OUT:
            left_out.add(decision.cell or "")
        case Verb.COUNT:
            left_out.discard(decision.cell or "")
        case Verb.OVERRULE if decision.verdict is not None:
            overruled[decision.cell or ""] = decision.verdict
    return Review(
        state=state,
        sentence=sentence,
        left_out=frozenset(left_out),
        overruled=overruled,
        standing=review.standing,
    )
