"""What is left in a cupboard, what runs out when, and what could stand in."""

from datetime import date, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Ground
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.media import Medium
from noema.core.pigments.shelf import TUBES, builtin_set
from noema.core.planning.amounts import Range
from noema.core.planning.cupboard import Container, LessonTakes, left_now, order_by, stock_lines
from noema.core.planning.instead import neighbours
from noema.core.planning.paint_uses import TubeInMedium

ROSE = TubeInMedium(tube="rose", medium=Medium.ACRYLIC)
CYAN = TubeInMedium(tube="cyan", medium=Medium.ACRYLIC)
BEGUN = datetime(2027, 1, 11, 8, 0)


def bottle(id, left, *, size=100.0, paint=ROSE, opened=None, counted=BEGUN):
    return Container(id=id, paint=paint, label=paint.tube, size_ml=size, left_ml=left,
                     counted_at=counted, opened_on=opened)  # fmt: skip


def lesson(week, usual, *, paint=ROSE, much=None):
    return LessonTakes(
        at=BEGUN + timedelta(weeks=week, hours=2),
        paint=paint,
        ml=Range(little=usual / 2, usual=usual, much=much or 1.5 * usual),
        class_name=f"class {week}",
    )


def test_lessons_take_from_what_is_open_and_open_the_smallest_next():
    there = [bottle(1, 100), bottle(2, 40, opened=date(2026, 12, 1)), bottle(3, 60)]
    now = BEGUN + timedelta(weeks=2)
    left = {one.id: one for one in left_now(there, [lesson(0, 30), lesson(1, 30)], now)}
    assert {id: one.left_ml for id, one in left.items()} == {1: 100, 2: 0, 3: 40}
    assert left[3].opened_on == date(2027, 1, 18)
    assert left[1].opened_on is None


def test_a_lesson_before_it_was_counted_takes_nothing_of_it():
    there = [bottle(1, 80, counted=BEGUN + timedelta(weeks=1))]
    (left,) = left_now(there, [lesson(0, 30), lesson(2, 10)], BEGUN + timedelta(weeks=3))
    assert left.left_ml == 70


def test_what_runs_out_is_told_by_the_first_lesson_without_enough():
    lessons = [lesson(week, 20) for week in range(1, 8)]
    (line,) = stock_lines([bottle(1, 90)], lessons, BEGUN)
    assert line.to_come.usual == 140
    assert line.usually_out.class_name == "class 5"  # 20, 40, 60, 80 are there, 100 isn't
    assert line.maybe_out.class_name == "class 4"  # 30, 60, 90 are there, 120 isn't
    assert line.to_come.much - line.left_ml == pytest.approx(1.5 * 140 - 90)
    assert order_by(line.maybe_out, 14) == (BEGUN + timedelta(weeks=2)).date()


def test_paints_that_run_out_soonest_stand_first():
    lessons = [lesson(1, 20), lesson(2, 20), lesson(1, 20, paint=CYAN)]
    lines = stock_lines([bottle(1, 35), bottle(2, 10, paint=CYAN)], lessons, BEGUN)
    assert [one.paint for one in lines] == [CYAN, ROSE]
    enough = stock_lines([bottle(1, 100)], lessons[:2], BEGUN)
    assert enough[0].usually_out is None
    assert enough[0].maybe_out is None


@given(
    st.lists(st.floats(0, 300), min_size=1, max_size=5),
    st.lists(st.floats(0.1, 80), max_size=8),
)
def test_nothing_is_taken_twice_and_nothing_is_below_nothing(lefts, takes):
    there = [bottle(n, left, size=300.0) for n, left in enumerate(lefts)]
    lessons = [lesson(week, ml) for week, ml in enumerate(takes)]
    left = left_now(there, lessons, BEGUN + timedelta(weeks=20))
    assert all(one.left_ml >= 0 for one in left)
    wanted = max(sum(lefts) - sum(takes), 0.0)
    assert sum(one.left_ml for one in left) == pytest.approx(wanted, abs=1e-6)


PAINTS = builtin_set("split-six+black")


def asked(kind):
    found = kind_of(kind)
    return found.asked(found.chosen({}), Ground(paints=PAINTS, table=USUAL_HUES))


def test_a_tube_alike_stands_in_and_another_doesnt():
    exercises = [asked("colour-wheel"), asked("tint-ladder")]
    found = neighbours("rose", PAINTS, exercises, list(TUBES.values()), USUAL_HUES)
    assert found[0].tube in ("magenta", "crimson")
    assert found[0].alike > 0.9 * found[0].of
    assert [one.away for one in found] == sorted(one.away for one in found)
    far = neighbours("rose", PAINTS, exercises, [TUBES["yellow-ochre"]], USUAL_HUES)
    assert far == ()
    for white in neighbours("titanium-white", PAINTS, exercises, list(TUBES.values()), USUAL_HUES):
        assert white.alike >= 0.25 * white.of


def test_what_is_lost_in_reach_is_said():
    wheel = [asked("colour-wheel")]
    (ochre,) = neighbours("lemon-yellow", PAINTS, wheel, [TUBES["yellow-ochre"]], USUAL_HUES) or [
        None
    ]
    if ochre is not None:
        assert "green" in ochre.lost
        assert "Not clean any more" in ochre.words
    own = [tube for tube in TUBES.values() if tube.name in {one.name for one in PAINTS.tubes}]
    assert neighbours("rose", PAINTS, wheel, own, USUAL_HUES) == ()


def test_standing_in_is_the_nearest_of_many_amounts():
    """What is said to be alike is: the same mix by hand, at the best of amounts, lies as near."""
    exercises = [asked("tint-ladder")]
    (one,) = neighbours("rose", PAINTS, exercises, [TUBES["crimson"]], USUAL_HUES)
    cells = [c for c in exercises[0].on_paper if any(p.tube.name == "rose" for p in c.parts)]
    assert one.of == len(cells)
    assert np.isfinite(one.away)
