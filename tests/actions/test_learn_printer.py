"""A printer nobody calibrated is learned from its sheets, and undecided ones are read by that."""

import pytest
from sqlalchemy import text

from noema.actions.learn_printer import learn_printer
from noema.actions.read_again import reread_photograph
from noema.core.judging.review import Decision, Verb
from noema.stand_ins.printer import Press
from noema.store.judgements import reading_behind
from noema.store.photographs import photo_of_school
from noema.store.printers import PrinterLook, add_look, printer_of_assignment

OURS = Press(dot_gain=0.2)


@pytest.fixture
def three(school):
    """Three students' sheets of one printer, by three phones."""
    return [
        school.hands_in(school.photo_of(sheet, seed=n, press=OURS, phone=n)).photo.id
        for n, sheet in enumerate(school.sheets(), start=1)
    ]


def printer_of(school):
    with school.sessions() as session:
        return printer_of_assignment(session, school.assignment_id)


def learn(school) -> None:
    with school.sessions.begin() as session:
        learn_printer(session, printer_of_assignment(session, school.assignment_id).id)


def queued(school, task: str) -> list[int]:
    question = text("SELECT args FROM procrastinate_jobs WHERE task_name = :task ORDER BY id")
    with school.sessions() as session:
        return [next(iter(args.values())) for args in session.scalars(question, {"task": task})]


def knowledge(school, photograph_id: int) -> list[str]:
    with school.sessions() as session:
        return reading_behind(session, photograph_id)["knowledge"]


def test_a_new_school_has_a_printer_that_can_learn(school):
    assert printer_of(school).name == "Our printer"
    assert printer_of(school).learned is None


def test_which_camera_took_a_photograph_is_kept(school, three):
    with school.sessions() as session:
        assert photo_of_school(session, school.id, three[1]).camera == "Phone 2"


def test_each_photograph_asks_for_its_printer_to_be_learned(school, three):
    assert queued(school, "learn_printer")[-3:] == [printer_of(school).id] * 3


def test_a_pile_teaches_the_printer_and_is_read_by_it(school, three):
    learn(school)
    learned = printer_of(school).learned.print
    assert (learned.photographs, learned.cameras) == (3, 3)
    waiting = queued(school, "reread_photograph")
    assert set(three) <= set(waiting)
    assert knowledge(school, three[0]) == ["grey-print"]
    with school.sessions.begin() as session:
        reread_photograph(session, school.files, three[0])
    assert knowledge(school, three[0]) == ["learned", "grey-print"]


def test_what_was_decided_is_not_read_again(school, three):
    school.decides(three[0], Decision(verb=Verb.ACCEPT))
    learn(school)
    waiting = queued(school, "reread_photograph")
    assert three[0] not in waiting
    assert three[1] in waiting


def test_two_photographs_are_too_few(school):
    for n, sheet in enumerate(school.sheets()[:2], start=1):
        school.hands_in(school.photo_of(sheet, seed=n, press=OURS, phone=n))
    learn(school)
    assert printer_of(school).learned is None


def test_it_is_learned_anew_only_when_the_pile_has_grown_by_half(school, three):
    learn(school)
    before = printer_of(school).learned
    school.hands_in(school.photo_of(school.sheets()[0], seed=8, press=OURS, phone=4), hours_ago=3.0)
    learn(school)
    assert printer_of(school).learned == before
    school.hands_in(school.photo_of(school.sheets()[1], seed=9, press=OURS, phone=4), hours_ago=3.0)
    learn(school)
    assert printer_of(school).learned.print.photographs == 5


def test_a_calibrated_printer_is_not_learned(school, three):
    printer = printer_of(school)
    look = PrinterLook(how="measured", source="meter", labs={})
    with school.sessions.begin() as session:
        add_look(session, school.id, printer.id, look)
    learn(school)
    assert printer_of(school).learned is None


def test_the_printers_page_says_what_it_was_learned_from_and_can_forget_it(app, school, three):
    learn(school)
    client = school.teacher(app)
    assert "learned from 3 photographs" in client.get("/printers").text
    where = f"/printers/{printer_of(school).id}"
    page = client.get(where).text
    assert "Learned from 3 photographs of its sheets since" in page
    assert "(cameras: 3)" in page
    client.post(f"{where}/anew")
    assert "Nothing known yet" in client.get(where).text
    learn(school)  # what was photographed before it was begun anew doesn't count
    assert printer_of(school).learned is None


def test_a_photograph_from_before_cameras_were_kept_is_given_its_own_when_read_again(school, three):
    with school.sessions.begin() as session:
        number = {"p": three[1]}
        session.execute(text("UPDATE photograph SET camera = NULL WHERE id = :p"), number)
        session.execute(text("UPDATE reading SET basis = 'old' WHERE photograph_id = :p"), number)
    with school.sessions.begin() as session:
        reread_photograph(session, school.files, three[1])
    with school.sessions() as session:
        assert photo_of_school(session, school.id, three[1]).camera == "Phone 2"
