"""Reading again: earlier readings stay, decisions stand, changes can be listed."""

import numpy as np
from sqlalchemy import text

from noema.actions.calibrate_printer import choose_printer, look_at_measurements, own_printer
from noema.actions.read_again import read_again, reread_photograph
from noema.actions.review_sheet import review_sheet
from noema.actions.work_out_exercise import Chosen
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.exercises.catalogue import kind_of
from noema.core.judging.review import Decision, ReviewState, Verb
from noema.core.photo.reading import READER_VERSION
from noema.core.pigments.shelf import builtin_set
from noema.core.sheet.calibration_sheet import squares_in_order
from noema.formats.measurements import Sample, samples_to_cgats
from noema.stand_ins.printer import Press
from noema.store.judgements import reading_behind
from noema.store.printers import printer_of_assignment, usual_printer
from noema.store.rereadings import read_twice, readers_of_school
from noema.store.reviews import attempt_of_school
from tests.trade import found_school

WHEEL = Chosen(
    kind="colour-wheel",
    options=kind_of("colour-wheel").chosen({"hues": 6}),
    paints=builtin_set("split-six"),
    set_ref="split-six",
)


def meter_file(press: Press) -> bytes:
    """What a colour meter makes of a press's calibration page."""
    sent = np.array(squares_in_order()[:12], np.uint8)
    labs = [*reflectance_to_lab(press.lays(sent)), *reflectance_to_lab(press.paper[None])]
    samples = [
        Sample(name=str(n), lab=(float(lab[0]), float(lab[1]), float(lab[2])))
        for n, lab in enumerate(labs)
    ]
    return samples_to_cgats(samples).encode()


def calibrated(school, press: Press = Press()) -> None:  # noqa: B008, a frozen value
    with school.sessions.begin() as session:
        printer = own_printer(session, school.id, "Office")
        look_at_measurements(session, school.id, printer, meter_file(press))
        choose_printer(session, school.id, school.assignment_id, printer)


def count_of(school, table: str) -> int:
    with school.sessions() as session:
        return session.scalar(text(f"SELECT count(*) FROM {table}"))


def accepted(school) -> int:
    photo = school.reviewable()
    with school.sessions.begin() as session:
        review_sheet(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            photograph_id=photo,
            decision=Decision(verb=Verb.ACCEPT),
        )
    return photo


def test_the_same_reader_knowing_the_same_adds_nothing(school):
    photo = school.reviewable()
    before = count_of(school, "reading")
    with school.sessions.begin() as session:
        reread_photograph(session, school.files, photo)
    assert count_of(school, "reading") == before


def test_a_calibrated_printer_gives_another_reading_and_what_was_decided_stands(school):
    photo = accepted(school)
    before = count_of(school, "reading")
    calibrated(school)
    with school.sessions.begin() as session:
        reread_photograph(session, school.files, photo)
    assert count_of(school, "reading") == before + 1
    with school.sessions() as session:
        assert attempt_of_school(session, school.id, photo).review.state is ReviewState.ACCEPTED
        assert tuple(reading_behind(session, photo)["knowledge"]) == ("printer", "grey-print")
        (row,) = read_twice(session, school.id)
    assert row.photograph_id == photo
    assert row.before["ids"] == row.after["ids"]


def test_an_older_readers_work_is_counted_and_queued(school):
    photo = school.reviewable()
    with school.sessions.begin() as session:
        session.execute(text("UPDATE reading SET reader = 'noema-reader/1'"))
        readers = readers_of_school(session, school.id, READER_VERSION)
        assert (readers.read, readers.today) == (1, 0)
        assert read_again(session, school.id) == 1
        reread_photograph(session, school.files, photo)
        assert readers_of_school(session, school.id, READER_VERSION).today == 1


def test_changing_the_printer_reads_an_assignments_photographs_again(school):
    photo = school.reviewable()
    calibrated(school)
    queued = text(
        "SELECT count(*) FROM procrastinate_jobs WHERE task_name = 'reread_photograph' "
        "AND (args->>'photograph_id')::int = :p"
    )
    with school.sessions() as session:
        assert session.scalar(queued, {"p": photo}) == 1


def test_a_new_assignment_is_printed_where_the_last_one_was(school):
    calibrated(school)
    with school.sessions.begin() as session:
        second = own_printer(session, school.id, "Library")
        look_at_measurements(session, school.id, second, meter_file(Press()))
        first = printer_of_assignment(session, school.assignment_id)
        assert first is not None
        assert usual_printer(session, school.id) == first.id
        choose_printer(session, school.id, school.assignment_id, second)
        assert usual_printer(session, school.id) == second


def test_a_sheet_printed_elsewhere_is_told_and_offered_on_the_desk(app, sessions, files):
    school = found_school(sessions, files, chosen=WHEEL)
    photo = school.reviewable()
    calibrated(school, Press(dyes=(0.5, -0.45, 0.5)))
    with school.sessions.begin() as session:
        reread_photograph(session, school.files, photo)
    client = school.teacher(app)
    desk = client.get(f"/review/{photo}").text
    assert "doesn&#39;t look like that printer&#39;s" in desk
    assert "Printed elsewhere" in desk
    place = f"/assignments/{school.assignment_id}/printer"
    assert client.post(place, data={"printer": ""}).headers["Location"].endswith("/again")
    with school.sessions.begin() as session:
        reread_photograph(session, school.files, photo)
        assert tuple(reading_behind(session, photo)["knowledge"]) == ("none",)
    assert "Printed elsewhere" not in client.get(f"/review/{photo}").text


def test_one_assignment_alone_is_read_again_and_its_wait_is_counted(school, app):
    school.reviewable()
    first = school.assignment_id
    with school.sessions.begin() as session:
        assert read_again(session, school.id, first) == 1
        row = readers_of_school(session, school.id, READER_VERSION, first)
        assert (row.read, row.waiting) == (1, 1)
    client = school.teacher(app)
    page = client.get(f"/photograph/again?exercise={first}").text
    assert "1 photograph is still to be read again" in page
    assert "Read all of Value scale" in page
    part = client.get(f"/photograph/again?exercise={first}", headers={"HX-Request": "true"}).text
    assert "<html" not in part
    assert "every 2s" in part
    assert client.get("/photograph/again?exercise=999999").status_code == 404
    assert client.post("/photograph/again", data={"exercise": "999999"}).status_code == 404
