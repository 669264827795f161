"""Looks at what a camera sees, beside the pages' own process."""

import os
from time import sleep

import pytest

from noema.core.errors import BadPicture, NotFound
from noema.core.photo.aiming import Aim, Glance
from noema.devices.looks import Looks


def look_of(data: bytes) -> Glance:
    if data == b"deadly":
        os._exit(1)
    return Glance(corners=(), aims=(Aim.SHARP,))


def answer(looks: Looks, name: str) -> Glance:
    while (seen := looks.seen(name)) is None:
        sleep(0.02)
    return seen


@pytest.fixture(scope="module")
def looks():
    return Looks(look_of)


def test_an_answer_is_given_to_its_name_only(looks):
    name = looks.begin(b"a picture")
    assert answer(looks, name).words == ("Hold still until the picture is sharp.",)
    with pytest.raises(NotFound):
        looks.seen("another")


def test_a_picture_that_kills_the_looker_spoils_no_later_look(looks):
    name = looks.begin(b"deadly")
    with pytest.raises(BadPicture, match="take it again"):
        answer(looks, name)
    assert answer(looks, looks.begin(b"a picture")).aims == (Aim.SHARP,)


def test_the_oldest_looks_make_room(looks):
    first, *_, last = [looks.begin(b"a picture") for _ in range(70)]
    with pytest.raises(NotFound):
        looks.seen(first)
    assert answer(looks, last).aims == (Aim.SHARP,)
