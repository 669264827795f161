"""Mixes whose making is known, told from their colour alone."""

import pytest

from noema.core.judging.explain import Cause, stories
from noema.core.pigments.mix import Part
from tests.core.judging.readings import SPLIT, mixed

SURFACE = SPLIT.binder.dry
GREEN = tuple(
    Part(tube=SPLIT.tube(name), amount=amount)
    for name, amount in (("lemon-yellow", 10.0), ("phthalo-blue", 1.0))
)


def told(lab, parts=GREEN):
    return stories(lab, parts, SPLIT.tubes, SURFACE)


@pytest.mark.parametrize(("blue", "too_much"), [(4.0, "phthalo-blue"), (0.3, "lemon-yellow")])
def test_another_balance_is_told_by_the_tube_there_is_too_much_of(blue, too_much):
    story = told(mixed(lemon_yellow=10.0, phthalo_blue=blue))[Cause.BALANCE]
    assert story.tube.name == too_much
    assert story.away < 1.0


def test_another_tube_leaves_less_unexplained_than_any_balance():
    lab = mixed(lemon_yellow=3.0, ultramarine=1.0)
    stories_told = told(lab)
    other = stories_told[Cause.REPLACED]
    assert (other.tube.name, other.instead_of.name) == ("ultramarine", "phthalo-blue")
    assert other.away < 0.4 * stories_told[Cause.BALANCE].away


def test_what_got_into_a_tube_is_found():
    yellow = (Part(tube=SPLIT.tube("lemon-yellow"), amount=1.0),)
    story = told(mixed(lemon_yellow=30.0, ultramarine=1.0), yellow)
    assert set(story) == {Cause.ADDED}
    assert story[Cause.ADDED].tube.name in ("ultramarine", "ivory-black")
    assert story[Cause.ADDED].away < 1.5


def test_a_mix_as_asked_needs_no_story():
    assert told(mixed(lemon_yellow=10.0, phthalo_blue=1.0))[Cause.BALANCE].away < 0.1


def test_white_and_black_have_no_other_tube_to_be_taken_for():
    greys = tuple(Part(tube=SPLIT.tube(name), amount=1.0) for name in ("white", "black"))
    assert Cause.REPLACED not in told((50.0, 0.0, 0.0), greys)
