"""Reading again: earlier readings stay, decisions stand, changes can be listed."""

import numpy as np
from sqlalchemy import text

from noema.actions.calibrate_printer import choose_printer, look_at_measurements, own_printer
from noema.actions.read_again import read_again, reread_photograph
from noema.actions.review_sheet import review_sheet
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.judging.review import Decision, ReviewState, Verb
from noema.core.photo.reading import READER_VERSION
from noema.core.sheet.calibration_sheet import squares_in_order
from noema.formats.measurements import Sample, samples_to_cgats
from noema.stand_ins.printer import Press
from noema.store.judgements import reading_behind
from noema.store.rereadings import read_twice, readers_of_school
from noema.store.reviews import attempt_of_school


def meter_file() -> bytes:
    """What a colour meter makes of a calibration page of the usual press."""
    press = Press()
    sent = np.array(squares_in_order()[:12], np.uint8)
    labs = [*reflectance_to_lab(press.lays(sent)), *reflectance_to_lab(press.paper[None])]
    samples = [
        Sample(name=str(n), lab=(float(lab[0]), float(lab[1]), float(lab[2])))
        for n, lab in enumerate(labs)
    ]
    return samples_to_cgats(samples).encode()


def calibrated(school) -> None:
    with school.sessions.begin() as session:
        printer = own_printer(session, school.id, "Office")
        look_at_measurements(session, school.id, printer, meter_file())
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
