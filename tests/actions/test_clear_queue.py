"""Clearing the queue: what holds in one go, phrases, sheets given to others, some cells again."""

import pytest

from noema.actions.accept_holding import accept_holding, holding, take_back
from noema.actions.match_photograph import give_to_another
from noema.actions.print_sheets import drawings, print_for_sent_back
from noema.actions.read_photograph import read_photograph
from noema.actions.say_to import sentence_of
from noema.core.errors import Refused
from noema.core.judging.review import Decision, ReviewState, Verb
from noema.formats.judgement_json import judgement_from_json
from noema.formats.layout_json import layout_from_json
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.painter import Hand
from noema.stand_ins.studio import take_picture
from noema.store.assignments import assignment_of_school
from noema.store.judgements import judgements_of
from noema.store.phrases import phrase_book
from noema.store.sheets import layouts_of_sheets
from tests.trade import CAREFUL, PICTURE_PX

SWAPPED = Hand(step_noise=0.0, missed=0.0, ragged_mm=0.3, cast=0.0, swapped=("c2", "c4"))


def hands_in_all(school, hands):
    photos = [
        school.hands_in(school.photo_of(sheet, seed=40 + n, hand=hand)).photo
        for n, (sheet, hand) in enumerate(zip(school.sheets(), hands, strict=True))
    ]
    return [photo.id for photo in photos]


def accept(school, seen):
    with school.sessions.begin() as session:
        return accept_holding(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            assignment_id=school.assignment_id,
            seen=seen,
        )


def test_only_what_plainly_holds_is_accepted_in_one_go_and_undone_in_one(school):
    good, other, swapped = hands_in_all(school, [CAREFUL, CAREFUL, SWAPPED])
    with school.sessions() as session:
        found = {a.photograph_id for a in holding(session, school.id, school.assignment_id)}
    assert found == {good, other}
    accepted = accept(school, {good: 0, other: 0, swapped: 0})
    assert set(accepted.photograph_ids) == {good, other}
    assert school.attempt(swapped).review.state is ReviewState.OPEN
    with school.sessions.begin() as session:
        take_back(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            assignment_id=school.assignment_id,
            photograph_ids=accepted.photograph_ids,
        )
    assert school.attempt(good).review.state is ReviewState.OPEN


def test_what_a_colleague_decided_meanwhile_is_left_and_named(school):
    good, other, _ = hands_in_all(school, [CAREFUL, CAREFUL, SWAPPED])
    school.decides(good, Decision(verb=Verb.LEAVE_OUT, cell="c1"))
    accepted = accept(school, {good: 0, other: 0})
    assert accepted.photograph_ids == (other,)
    assert accepted.changed == (school.attempt(good).student,)
    assert school.attempt(good).review.state is ReviewState.OPEN


def test_a_sentence_of_ones_own_is_kept_under_what_was_found(school):
    photo = school.reviewable(hand=SWAPPED)
    own = sentence_of(school.attempt(photo))
    school.decides(photo, Decision(verb=Verb.SEND_BACK, sentence=own))
    with school.sessions() as session:
        assert phrase_book(session, school.id) == ()
    school.decides(photo, Decision(verb=Verb.UNDO))
    for _ in range(2):
        school.decides(photo, Decision(verb=Verb.SEND_BACK, sentence="Two changed chairs."))
    with school.sessions() as session:
        book = phrase_book(session, school.id)
    assert [(one.finding, one.words) for one in book] == [("swapped", "Two changed chairs.")]


def test_a_photograph_given_to_another_is_read_as_theirs(school):
    photo = school.reviewable()
    first, second, _ = school.sheets()
    with school.sessions.begin() as session:
        give_to_another(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            photograph_id=photo,
            sheet_id=second.id,
        )
    with school.sessions.begin() as session:
        read_photograph(session, school.files, photo)
    assert school.attempt(photo).student == second.student
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    with school.sessions.begin() as session, pytest.raises(Refused, match="Undo your decision"):
        give_to_another(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            photograph_id=photo,
            sheet_id=first.id,
        )


def test_a_redo_of_only_what_needs_it_is_printed_read_and_judged(school):
    photo = school.reviewable(hand=SWAPPED)
    school.decides(photo, Decision(verb=Verb.SEND_BACK, sentence="Change their places."))
    with school.sessions.begin() as session:
        (sheet,) = print_for_sent_back(session, school.id, school.assignment_id, only_needed=True)
        assert set(sheet.cells) == {"c1", "c2", "c4", "c5"}  # each row's ends come along
        layout = layout_from_json(layouts_of_sheets(session, [sheet.id])[sheet.id])
        assignment = assignment_of_school(session, school.id, school.assignment_id)
        page = drawings(session, assignment, [sheet])[0]
    assert [cell.id for cell in layout.cells] == ["c1", "c2", "c4", "c5"]
    picture = take_picture(
        layout,
        sheets_pdf([page], "t"),
        seed=8,
        preset="easy",
        hand=Hand(step_noise=0.0, missed=0.0, ragged_mm=0.3, cast=0.0),
        size_px=PICTURE_PX,
    )
    redone = school.hands_in(picture.jpeg, "again.jpg").photo
    with school.sessions() as session:
        judgement = judgement_from_json(judgements_of(session, [redone.id])[redone.id])
    assert [cell.id for cell in judgement.cells] == ["c1", "c2", "c4", "c5"]
    assert judgement.findings == ()
