"""Geometry of the strip and the stair."""

import re

import pytest

from noema.core.exercises.levels import Key, Level
from noema.core.judging.judge import judge
from noema.core.judging.review import Review
from noema.core.judging.tally import tally_of
from noema.core.judging.verdict import Verdict
from noema.web.drawings.stair import HEIGHT, WIDTH, even_path, make_stair
from noema.web.drawings.strip import make_strip, make_tiny_strips
from tests.core.exercises.grounds import plain
from tests.core.judging.scales import read_as

SCALE = plain(8)
VALUES = (2.5, 3.5, 4.5, 5.5, 6.5, 7.5, 9.2, 9.5)  # step 7 at the very edge of its tolerance
JUDGEMENT = judge(read_as(VALUES), SCALE, Key.NAMED, Level.BEGINNER)


def test_where_paint_and_expectation_match_the_edge_disappears():
    strip = make_strip(JUDGEMENT, Review())
    for joint in strip.joints[:6]:
        both = (bytes.fromhex(fill[1:]) for fill in (joint.painted_fill, joint.expected_fill))
        assert max(abs(a - b) for a, b in zip(*both, strict=True)) <= 2
    assert strip.joints[6].painted_fill != strip.joints[6].expected_fill


def test_drift_stands_on_the_side_it_leans_to_and_its_doubt_round_it():
    strip = make_strip(JUDGEMENT, Review())
    assert strip.joints[0].drift_x == pytest.approx(42.0, abs=0.5)
    too_light = strip.joints[6]
    assert too_light.drift_x > 42.0
    assert too_light.bracket_from < too_light.drift_x < too_light.bracket_to
    assert too_light.within_from < 42.0 < too_light.within_to


def test_the_teachers_word_stands_in_the_strip():
    review = Review(left_out=frozenset({"c1"}), overruled={"c7": Verdict.HOLDS})
    joints = make_strip(JUDGEMENT, review).joints
    assert not joints[0].counts
    assert (joints[6].verdict, joints[6].word) == ("holds", "holds*")
    assert JUDGEMENT.cells[6].verdict is not Verdict.HOLDS


def test_each_verdict_has_a_mark_of_its_own():
    marks = {
        make_strip(JUDGEMENT, Review(overruled={"c1": verdict})).joints[0].mark
        for verdict in Verdict
    }
    assert len(marks) == len(Verdict)


def test_tiny_strips_hold_every_cell_twice_and_say_themselves():
    tally = tally_of(JUDGEMENT)
    one, two = make_tiny_strips([tally, tally])
    assert one == two
    assert len(re.findall(r'fill="#[0-9a-f]{6}"', one.paths)) == 16
    assert one.said == "7 hold, 1 to look at"
    assert make_tiny_strips([]) == []


def test_the_stair_rises_with_value_and_stays_in_its_frame():
    stair = make_stair(JUDGEMENT)
    heights = [tread.y for tread in stair.treads]
    assert heights == sorted(heights, reverse=True)
    for tread in stair.treads:
        assert 0 <= tread.high <= tread.y <= tread.low <= HEIGHT
        assert tread.left + tread.width <= WIDTH
        assert "value" in tread.said


@pytest.mark.parametrize("steps", [5, 9, 11])
def test_the_even_stair_has_a_tread_a_step(steps):
    path = even_path([2.0 + n * 0.5 for n in range(steps)])
    points = re.findall(r"([\d.]+) ([\d.]+)", path)
    assert len(points) == 2 * steps
    assert all(points[2 * n][1] == points[2 * n + 1][1] for n in range(steps))
