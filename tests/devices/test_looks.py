"""Looks at what a camera sees, beside the pages' own process."""

import os
from datetime import UTC, datetime, timedelta
from time import sleep
from typing import Any

import pytest
from sqlalchemy import text

from noema.core.errors import BadPicture, NotFound
from noema.core.photo.aiming import Aim, Glance
from noema.devices.looks import Looks
from noema.formats.glance_json import glance_to_json
from noema.store.looks import KeptLooks, forget_looks


def look_of(data: bytes) -> dict[str, Any]:
    if data == b"deadly":
        os._exit(1)
    if data == b"slow":
        sleep(1.5)
    return glance_to_json(Glance(corners=(), aims=(Aim.SHARP,)))


def answer(looks: Looks, name: str) -> Glance:
    while (seen := looks.seen(name)) is None:
        sleep(0.02)
    return seen


@pytest.fixture(scope="module")
def looks(sessions):
    return Looks(KeptLooks(sessions), look_of)


def test_an_answer_is_given_to_its_name_only(looks):
    name = looks.begin(b"a picture")
    assert answer(looks, name).words == ("Hold still until the picture is sharp.",)
    with pytest.raises(NotFound):
        looks.seen("another")


def test_another_process_of_the_pages_gives_the_answer_too(looks, sessions):
    assert answer(Looks(KeptLooks(sessions)), looks.begin(b"a picture")).aims == (Aim.SHARP,)


def test_a_look_whose_process_is_gone_is_gone(sessions):
    kept = KeptLooks(sessions)
    kept.begin("lost")
    assert Looks(kept).seen("lost") is None
    with sessions.begin() as session:
        session.execute(text("UPDATE look SET made_at = now() - interval '1 minute'"))
    with pytest.raises(NotFound):
        Looks(kept).seen("lost")
    with sessions.begin() as session:
        forget_looks(session, datetime.now(UTC) + timedelta(hours=2))
    assert kept.find("lost") is None


def test_a_picture_that_kills_the_looker_spoils_no_later_look(looks):
    name = looks.begin(b"deadly")
    with pytest.raises(BadPicture, match="take it again"):
        answer(looks, name)
    assert answer(looks, looks.begin(b"a picture")).aims == (Aim.SHARP,)


def test_the_oldest_looks_make_room(looks):
    looks.begin(b"slow")
    names = [looks.begin(b"a picture") for _ in range(70)]
    with pytest.raises(NotFound):
        looks.seen(names[4])
    assert answer(looks, names[-1]).aims == (Aim.SHARP,)
