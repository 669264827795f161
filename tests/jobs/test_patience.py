"""What a worker does about photographs that end it, and about surroundings that fail."""

from threading import Event, Thread
from types import SimpleNamespace

import pytest
from sqlalchemy.exc import OperationalError

from noema.core.errors import StoreAway, StoreFull
from noema.core.progress.states import PhotoState
from noema.devices.piece_store import LocalPieces
from noema.jobs import read_photograph as job
from noema.jobs.patience import Patience
from noema.jobs.read_photograph import MOST_TRIES, read_one
from noema.jobs.side_by_side import SideBySide
from noema.jobs.stores import Stores
from noema.stand_ins.outbox import PretendOutbox
from noema.store.photographs import photo_of_school
from noema.store.tries import count_try, tries_of


@pytest.fixture
def stores(school, tmp_path):
    return Stores(
        sessions=school.sessions,
        files=school.files,
        pieces=LocalPieces(tmp_path / "pieces"),
        outbox=PretendOutbox(tmp_path / "outbox"),
    )


@pytest.fixture
def photo(school):
    return school.hands_in(school.photo_of(school.sheets()[0]), read=False).photo.id


def state(school, photo):
    with school.sessions() as session:
        return photo_of_school(session, school.id, photo).state, tries_of(session, photo)


def begun(school, photo, times):
    with school.sessions.begin() as session:
        count_try(session, photo, times)


def test_a_photograph_that_was_read_has_no_tries_left_over(school, stores, photo):
    begun(school, photo, 1)
    read_one(stores, SideBySide(), photo)
    assert state(school, photo) == (PhotoState.READ, 0)


def test_one_that_ended_the_worker_each_time_waits_for_a_person_who_may_try_again(
    app, school, stores, photo
):
    begun(school, photo, MOST_TRIES)
    read_one(stores, SideBySide(), photo)
    assert state(school, photo)[0] is PhotoState.UNREADABLE
    client = school.teacher(app)
    assert "Try it again: Noema stumbled over it" in client.get("/photograph").text
    assert client.post("/photograph/tray/again").status_code == 303
    assert state(school, photo) == (PhotoState.READING, 0)
    read_one(stores, SideBySide(), photo)
    assert state(school, photo) == (PhotoState.READ, 0)
    assert "stumbled" not in client.get("/photograph").text


@pytest.mark.parametrize(
    "wrong",
    [StoreFull("full"), StoreAway("away"), OperationalError("SELECT", {}, Exception("gone"))],
)
def test_surroundings_that_fail_cost_a_photograph_nothing(
    school, stores, photo, monkeypatch, wrong
):
    def fails(*_):
        raise wrong

    with monkeypatch.context() as patched:
        patched.setattr(job, "read_photograph", fails)
        for attempts in range(6):
            with pytest.raises(type(wrong)):
                read_one(stores, SideBySide(), photo, attempts)
    assert state(school, photo) == (PhotoState.READING, 0)
    read_one(stores, SideBySide(), photo, 6)
    assert state(school, photo) == (PhotoState.READ, 0)


def test_what_fails_by_itself_is_tried_three_times(school, stores, photo, monkeypatch):
    def fails(*_):
        raise ValueError("a mistake of ours")

    monkeypatch.setattr(job, "read_photograph", fails)
    seen = []
    for attempts in range(MOST_TRIES):
        with pytest.raises(ValueError, match="ours"):
            read_one(stores, SideBySide(), photo, attempts)
        seen.append(state(school, photo)[0])
    assert seen == [PhotoState.READING, PhotoState.READING, PhotoState.UNREADABLE]


def waits(wrong, attempts):
    decision = Patience().get_retry_decision(
        exception=wrong, job=SimpleNamespace(attempts=attempts)
    )
    return decision is not None


def test_patience_lasts_hours_with_surroundings_and_seconds_with_mistakes():
    assert [waits(ValueError(), n) for n in range(4)] == [True, True, False, False]
    assert [waits(StoreFull("x"), n) for n in (0, 10, 23, 24)] == [True, True, True, False]
    for wrong in (ValueError(), StoreFull("x")):
        for n in range(30):
            assert Patience().is_last(wrong, n) != waits(wrong, n)


def test_one_alone_waits_for_the_others_and_they_for_it():
    side_by_side, order = SideBySide(), []
    first_in, first_out = Event(), Event()

    def first():
        with side_by_side.among(alone=False):
            first_in.set()
            first_out.wait(5.0)
            order.append("first")

    def alone():
        with side_by_side.among(alone=True):
            order.append("alone")

    threads = [Thread(target=first), Thread(target=alone)]
    threads[0].start()
    first_in.wait(5.0)
    threads[1].start()
    threads[1].join(0.2)
    assert threads[1].is_alive()
    first_out.set()
    for one in threads:
        one.join(5.0)
    assert order == ["first", "alone"]
    with side_by_side.among(alone=False), side_by_side.among(alone=False):
        order.append("together")
    assert order[-1] == "together"
