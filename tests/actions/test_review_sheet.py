"""The teacher's word: recorded, undone, never on top of somebody else's."""

import pytest
from sqlalchemy import text

from noema.actions.say_to import sent_back, sentence_of
from noema.core.coaching.advice import Advice
from noema.core.errors import NotFound, OutOfDate, Refused
from noema.core.judging.review import Decision, ReviewState, Verb
from noema.core.judging.verdict import Verdict
from noema.formats.facts_json import facts_from_json
from noema.formats.judgement_json import tally_from_json
from noema.stand_ins.painter import Hand
from noema.store.decisions import record_of
from noema.store.reviews import waiting_for_review


def test_accepting_takes_it_off_the_pile_and_undo_puts_it_back(school):
    photo = school.reviewable()
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    with school.sessions() as session:
        assert waiting_for_review(session, school.id) == ()
    school.decides(photo, Decision(verb=Verb.UNDO))
    with school.sessions() as session:
        assert [one.photograph_id for one in waiting_for_review(session, school.id)] == [photo]
        verbs = [line.decision.verb for line in record_of(session, photo)]
    assert verbs == [Verb.ACCEPT, Verb.UNDO]


def test_overruling_leaves_what_was_measured(school):
    photo = school.reviewable()
    before = school.attempt(photo).tally
    school.decides(photo, Decision(verb=Verb.OVERRULE, cell="c2", verdict=Verdict.OFF))
    school.decides(photo, Decision(verb=Verb.LEAVE_OUT, cell="c1"))
    attempt = school.attempt(photo)
    assert attempt.tally == before
    assert attempt.review.overruled == {"c2": Verdict.OFF}
    assert attempt.review.left_out == {"c1"}
    assert attempt.review.state is ReviewState.OPEN


def test_the_second_of_two_teachers_is_told(school):
    photo = school.reviewable()
    school.decides(photo, Decision(verb=Verb.ACCEPT), lines_seen=0)
    with pytest.raises(OutOfDate, match="Ms Teal decided something"):
        school.decides(photo, Decision(verb=Verb.SEND_BACK, sentence="No."), lines_seen=0)
    with school.sessions() as session:
        assert len(record_of(session, photo)) == 1


@pytest.mark.parametrize(
    ("decision", "reason"),
    [
        (Decision(verb=Verb.UNDO), "nothing left to undo"),
        (Decision(verb=Verb.LEAVE_OUT, cell="c99"), "no such step"),
        (Decision(verb=Verb.SEND_BACK, sentence="x" * 500), "under 400"),
    ],
)
def test_what_makes_no_sense_is_refused(school, decision, reason):
    photo = school.reviewable()
    with pytest.raises(Refused, match=reason):
        school.decides(photo, decision)


def test_another_schools_sheet_isnt_there(school, other_school):
    photo = school.reviewable()
    with pytest.raises(NotFound):
        other_school.decides(photo, Decision(verb=Verb.ACCEPT))
    with school.sessions() as session:
        count = text("SELECT count(*) FROM decision WHERE photograph_id = :p")
        assert session.scalar(count, {"p": photo}) == 0


DARKER = Hand(step_noise=0.05, bunching=0.9)


def says(school, photo) -> str:
    return sentence_of(school.attempt(photo))


def test_what_is_said_follows_the_teachers_word_and_comes_back_with_undo(school):
    photo = school.reviewable(hand=DARKER)
    before = says(school, photo)
    cells = tally_from_json(school.attempt(photo).tally).ids
    for cell in cells:
        school.decides(photo, Decision(verb=Verb.OVERRULE, cell=cell, verdict=Verdict.HOLDS))
    assert says(school, photo) != before
    assert facts_from_json(Advice, school.attempt(photo).advice).praises
    for _ in cells:
        school.decides(photo, Decision(verb=Verb.UNDO))
    assert says(school, photo) == before


def test_accepted_with_something_to_work_on_is_said_to_be_for_the_next_time(school):
    photo = school.reviewable(hand=DARKER)
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    assert sent_back(school.attempt(photo)) == ("accepted", f"Next time: {says(school, photo)}")


def test_accepted_and_right_it_holds(school):
    photo = school.reviewable()
    for cell in tally_from_json(school.attempt(photo).tally).ids:
        decision = Decision(verb=Verb.OVERRULE, cell=cell, verdict=Verdict.HOLDS)
        school.decides(photo, decision)
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    assert sent_back(school.attempt(photo)) == ("it holds", says(school, photo))
