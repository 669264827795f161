"""A teacher decides about an attempt; the decision is recorded, what was measured stays."""

from collections.abc import Collection

from sqlalchemy.orm import Session

from noema.actions.say_to import follow_word, sentence_of
from noema.core.coaching.advice import LONGEST, first_finding
from noema.core.errors import OutOfDate, Refused
from noema.core.judging.review import Decision, Review, Verb, review_of
from noema.core.language import gettext
from noema.formats.judgement_json import judgement_from_json, tally_from_json
from noema.store.decisions import decisions, keep_review, lock_review, record, record_of
from noema.store.judgements import judgements_of
from noema.store.phrases import keep_phrase
from noema.store.reviews import attempt_of_school

_SETTLING = (Verb.ACCEPT, Verb.SEND_BACK)
"""Verbs that say the same when they are said once more."""


def review_sheet(
    session: Session,
    *,
    school_id: int,
    teacher_id: int,
    photograph_id: int,
    decision: Decision,
    lines_seen: int | None = None,
) -> Review:
    """Decide; `lines_seen` is how long the record was when the teacher looked."""
    attempt = attempt_of_school(session, school_id, photograph_id)
    _check(decision, tally_from_json(attempt.tally).ids)
    lock_review(session, photograph_id)
    lines = record_of(session, photograph_id)
    if lines_seen is not None and lines_seen != len(lines):
        raise OutOfDate(
            gettext(
                "%(teacher)s decided something about this sheet meanwhile: look at "
                "it again, then decide.",
                teacher=lines[-1].teacher,
            )
        )
    before = review_of(decisions(lines))
    if decision.verb in _SETTLING and lines and decision == lines[-1].decision:
        return before  # sent twice
    if decision.verb is Verb.UNDO and not before.standing:
        raise Refused(gettext("There is nothing left to undo on this sheet."))
    record(session, photograph_id, teacher_id, decision.verb.value, decision)
    after = review_of([*decisions(lines), decision])
    keep_review(session, photograph_id, after)
    follow_word(session, photograph_id, after)
    if decision.verb is Verb.SEND_BACK and decision.sentence != sentence_of(attempt):
        body = judgements_of(session, [photograph_id])[photograph_id]
        finding = first_finding(judgement_from_json(body))
        keep_phrase(session, school_id, finding, decision.sentence or "")
    return after


def _check(decision: Decision, cells: Collection[str]) -> None:
    if decision.cell is not None and decision.cell not in cells:
        raise Refused(gettext("There is no such step on this sheet."))
    if len(decision.sentence or "") > LONGEST:
        raise Refused(gettext("Keep the sentence under %(longest)s letters.", longest=LONGEST))
