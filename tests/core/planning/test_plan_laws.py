"""Laws of a plan, on random schools: minutes, drying, rack, order, pins, holidays, ways out."""

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from functools import cache

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Ground
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.media import Medium
from noema.core.pigments.shelf import builtin_set
from noema.core.planning.class_plan import planned_before
from noema.core.planning.frame import (
    DAYS,
    ClassFrame,
    Room,
    SchoolFrame,
    WeeklyLesson,
    WeekTurn,
    Wish,
    lessons_of,
)
from noema.core.planning.pieces import work_of
from noema.core.planning.plan import FRESH, PlanSoFar, plan
from noema.core.planning.steps import StepAct
from noema.core.planning.timeline import Doing
from noema.core.planning.unit import monday_of
from noema.core.planning.usual import USUAL
from noema.core.planning.ways import Trying, unmet_of

KINDS = ("value-scale", "tint-ladder", "tube-swatches", "intensity-chart", "colour-wheel")
MONDAY = date(2027, 1, 11)


@cache
def asked(kind, options=()):
    found = kind_of(kind)
    ground = Ground(paints=builtin_set("split-six+black"), table=USUAL_HUES)
    return found.asked(found.chosen(dict(options)), ground)


def work(_class, wish, most_min):
    options = tuple((k, tuple(v) if isinstance(v, list) else v) for k, v in wish.options.items())
    return work_of(asked(wish.kind, options), wish.medium, most_min, goes=wish.goes)


@st.composite
def units(draw):
    kinds = draw(st.lists(st.sampled_from(KINDS), min_size=1, max_size=5))
    unit = []
    for number, kind in enumerate(kinds):
        earlier = [one.id for one in unit]
        after = draw(st.lists(st.sampled_from(earlier), max_size=2, unique=True)) if earlier else []
        unit.append(
            Wish(
                id=f"w{number}",
                kind=kind,
                medium=draw(st.sampled_from((Medium.ACRYLIC, Medium.GOUACHE, Medium.OIL))),
                after=tuple(after),
                redo=draw(st.booleans()),
                pinned=MONDAY + timedelta(days=draw(st.integers(0, 60)))
                if draw(st.integers(0, 9)) == 0
                else None,
                pins={1: MONDAY + timedelta(days=draw(st.integers(0, 60)))}
                if draw(st.integers(0, 9)) == 0
                else {},
                goes=draw(st.sampled_from((1, 1, 1, 2, 3))),
            )
        )
    return tuple(unit)


@st.composite
def rooms(draw):
    return tuple(
        Room(
            name=name,
            rack=draw(st.integers(20, 60)),
            sinks=draw(st.integers(1, 3)),
            palettes=draw(st.sampled_from((None, None, 12, 30))),
        )
        for name in ("east", "west")[: draw(st.integers(1, 2))]
    )


@st.composite
def frames(draw):
    classes = []
    for number in range(draw(st.integers(1, 3))):
        days = draw(st.lists(st.integers(0, 4), min_size=1, max_size=2, unique=True))
        lessons = tuple(
            WeeklyLesson(
                day=day,
                start=time(draw(st.integers(8, 14)), draw(st.sampled_from((0, 40)))),
                minutes=draw(st.sampled_from((40, 50, 75, 100))),
                turn=draw(
                    st.sampled_from((WeekTurn.EVERY, WeekTurn.EVERY, WeekTurn.A, WeekTurn.B))
                ),
            )
            for day in days
        )
        people = draw(st.integers(5, 32))
        classes.append(
            ClassFrame(
                id=f"c{number}",
                people=people,
                lessons=lessons,
                unit=draw(units()),
                room=draw(st.sampled_from(("", "west"))),
                tests=(MONDAY + timedelta(weeks=draw(st.integers(0, 12))),),
            )
        )
    free = MONDAY + timedelta(days=draw(st.integers(0, 50)))
    return SchoolFrame(
        time_zone="Europe/Berlin",
        begins=MONDAY,
        ends=MONDAY + timedelta(weeks=draw(st.integers(2, 14))),
        holidays=((free, free + timedelta(days=draw(st.integers(0, 10)))),),
        rooms=draw(rooms()),
        classes=tuple(classes),
    )


def utc(at):
    return at.astimezone(UTC)


def check_lessons(frame, one, found):
    room = frame.room_of(one)
    for planned in found.lessons:
        lesson, begins = planned.lesson, 0
        assert not frame.is_free(lesson.at.date())
        if planned.parts:
            assert monday_of(lesson.at.date()) not in one.tests
        if any(part.doing is Doing.PAINT for part in planned.parts):
            washing = planned.parts[-1]
            assert washing.doing is Doing.CLEAN_UP
            assert washing.minutes >= USUAL.clean_up_min * one.people / 12 / room.sinks
        for part in planned.parts:
            assert part.begins_min == begins
            assert part.minutes > 0
            begins += part.minutes
        assert begins <= lesson.minutes
        assert planned.spare_min == lesson.minutes - begins
        painting = {part.wish for part in planned.parts if part.doing is Doing.PAINT}
        assert len(painting) <= USUAL.most_at_once


def check_wishes(frame, one, found):
    lessons = lessons_of(frame, one)
    for wish in one.unit:
        if wish.id not in found.at:
            continue
        steps, at = found.steps[wish.id], found.at[wish.id]
        assert list(at) == sorted(at)
        assert wish.pinned is None or found.begins(wish.id) == wish.pinned
        for number, day in wish.pins.items():
            assert number >= len(at) or lessons[at[number]].at.date() == day
        for earlier, later, n, m in zip(steps, steps[1:], at, at[1:], strict=False):
            gap = utc(lessons[m].at) - utc(lessons[n].ends)
            if later.act in (StepAct.PHOTOGRAPH, StepAct.PHOTOGRAPH_REDO):
                assert gap >= timedelta(minutes=earlier.dry_min)
            if later.act is StepAct.REDO:
                assert gap >= timedelta(hours=USUAL.review_h)
        painted = [cell for step in steps if step.act is StepAct.PAINT for cell in step.cells]
        assert painted == [cell.id for cell in asked(wish.kind).cells]
        for before in wish.after:
            assert before in found.at
            rows = [n for s, n in zip(found.steps[before], found.at[before], strict=True)
                    if s.act is StepAct.PAINT]  # fmt: skip
            assert at[0] >= max(rows)


def check_rack(room, plans):
    times = [lies for one in plans for lies in one.rack]
    for moment in {lies.begins for lies in times}:
        lying = {}
        for one in times:
            if one.begins <= moment < one.ends:
                key = (one.class_id, one.wish)
                lying[key] = max(lying.get(key, 0), one.sheets)
        assert sum(lying.values()) <= room.rack


@settings(max_examples=200, deadline=None, suppress_health_check=list(HealthCheck))
@given(frames())
def test_every_law_holds_on_random_schools(frame):
    plans = plan(frame, work)
    assert list(plans) == [one.id for one in frame.classes]
    for one in frame.classes:
        found = plans[one.id]
        assert set(found.at) | set(found.unmet) == {wish.id for wish in one.unit}
        check_lessons(frame, one, found)
        check_wishes(frame, one, found)
    for room in frame.rooms:
        in_it = [one.id for one in frame.classes if frame.room_of(one) == room]
        check_rack(room, [plans[name] for name in in_it])


TUESDAYS = (WeeklyLesson(day=1, start=time(9, 40), minutes=50),)


def one_class(unit, *, lessons=TUESDAYS, weeks=8):
    school_class = ClassFrame(id="8a", people=24, lessons=lessons, unit=unit)
    ends = MONDAY + timedelta(weeks=weeks)
    return SchoolFrame(time_zone="Europe/London", begins=MONDAY, ends=ends, classes=(school_class,))


def wish(name, kind="value-scale", **rest):
    return Wish(id=name, kind=kind, medium=Medium.ACRYLIC, **rest)


TIGHT = [
    ({"kind": "colour-wheel", "options": {"rings": ["tint-in", "neutral-2"]}, "redo": True}, 4),
    ({"kind": "tint-ladder", "redo": True}, 3),
    ({"kind": "value-scale", "redo": True}, 2),
    ({"kind": "intensity-chart"}, 2),
]


@pytest.mark.parametrize(("asks", "weeks"), TIGHT)
def test_what_cant_be_met_comes_with_ways_that_meet_it(asks, weeks):
    frame = one_class((wish("w", **asks),), weeks=weeks)
    found = plan(frame, work)["8a"]
    assert found.unmet == ("w",)
    trying = Trying(frame=frame, work_of_wish=work, usual=USUAL, earlier=FRESH, rack=())
    (unmet,) = unmet_of(trying, found)
    assert unmet.lack.words
    assert 2 <= len(unmet.ways) <= 3
    for way in unmet.ways:
        assert way.frame != frame
        assert plan(way.frame, work)["8a"].unmet == ()


def test_a_lesson_too_short_for_a_row_says_so():
    short = (WeeklyLesson(day=1, start=time(9, 40), minutes=30),)
    frame = one_class((wish("w", "intensity-chart"),), lessons=short)
    found = plan(frame, work)["8a"]
    trying = Trying(frame=frame, work_of_wish=work, usual=USUAL, earlier=FRESH, rack=())
    (unmet,) = unmet_of(trying, found)
    assert "can't be broken off" in unmet.lack.words


def times_of(plans, done_before=None):
    kept = {}
    for class_id, found in plans.items():
        own = {}
        for name, at in found.at.items():
            times = [found.lessons[n].lesson.at for n in at]
            some = [t.replace(tzinfo=None) for t in times if not done_before or t < done_before]
            own[name] = tuple(some)
        kept[class_id] = {name: some for name, some in own.items() if some}
    return kept


def test_a_missed_lesson_moves_little_and_nothing_that_is_past():
    unit = (
        wish("scale"),
        wish("tints", "tint-ladder", after=("scale",)),
        wish("wheel", "colour-wheel", after=("tints",)),
    )
    lessons = tuple(WeeklyLesson(day=day, start=time(9, 40), minutes=50) for day in (1, 3))
    frame = one_class(unit, lessons=lessons, weeks=12)
    before = plan(frame, work)
    lost = before["8a"].lessons[3].lesson.at
    now = before["8a"].lessons[2].lesson.at
    cancelled = replace(frame.classes[0], cancelled=(lost.replace(tzinfo=None),))
    earlier = PlanSoFar(
        before=times_of(before), done=times_of(before, lost), now=now.astimezone(UTC)
    )
    after = plan(replace(frame, classes=(cancelled,)), work, earlier=earlier)
    assert after["8a"].unmet == ()
    was, will = times_of(before)["8a"], times_of(after)["8a"]
    same = sum(a == b for name in was for a, b in zip(was[name], will[name], strict=True))
    moved = sum(map(len, was.values())) - same
    gone = sum(t == lost.replace(tzinfo=None) for some in was.values() for t in some)
    assert gone <= moved <= gone + 6
    for name, some in times_of(before, lost)["8a"].items():
        assert will[name][: len(some)] == some


def test_what_was_begun_stays_begun_where_the_rest_finds_no_place():
    frame = one_class((wish("w", "colour-wheel", goes=4),), weeks=12)
    before = plan(frame, work)
    begun = before["8a"].lessons[0].lesson.at
    earlier = PlanSoFar(
        before=times_of(before),
        done=times_of(before, begun + timedelta(days=1)),
        now=begun.astimezone(UTC),
    )
    lost = tuple(one.lesson.at.replace(tzinfo=None) for one in before["8a"].lessons[1:])
    closed = replace(frame, classes=(replace(frame.classes[0], cancelled=lost),))
    after = plan(closed, work, earlier=earlier)["8a"]
    assert after.unmet == ("w",)
    assert after.begins("w") == begun.date()
    assert after.due("w") is None
    assert any(part.doing is Doing.PAINT for part in after.lessons[0].parts)
    assert after.rack


def test_palettes_that_are_shared_take_longer():
    few = replace(one_class((wish("w"),)), rooms=(Room(palettes=12),))
    enough = replace(few, rooms=(Room(palettes=24),))
    long, short = (
        [step.minutes for step in plan(frame, work)["8a"].steps["w"]][0] for frame in (few, enough)
    )
    assert long == pytest.approx(2 * short, abs=1)


def test_the_same_frame_gives_the_same_plan():
    frame = one_class((wish("a"), wish("b", "tint-ladder")))
    assert times_of(plan(frame, work)) == times_of(plan(frame, work))


def test_weeks_take_turns_and_the_clock_changes():
    a_week = WeeklyLesson(day=DAYS.index("sun"), start=time(10, 0), minutes=60, turn=WeekTurn.B)
    school_class = ClassFrame(id="x", people=9, lessons=(a_week,))
    frame = SchoolFrame(
        time_zone="Europe/Berlin",
        begins=date(2027, 3, 15),
        ends=date(2027, 4, 11),
        classes=(school_class,),
    )
    lessons = lessons_of(frame, school_class)
    assert [one.at.isoformat() for one in lessons] == [
        "2027-03-28T10:00:00+02:00",
        "2027-04-11T10:00:00+02:00",
    ]
    night = replace(
        frame,
        classes=(replace(school_class, extra=((datetime(2027, 3, 28, 1, 30), 60),)),),
    )
    over = lessons_of(night, night.classes[0])[0]
    assert utc(over.ends) - utc(over.at) == timedelta(minutes=60)
    assert over.ends.hour == 3


def test_a_past_lesson_s_painting_took_what_time_there_was():
    """A pace that is learned afterwards makes no past lesson longer than it was."""
    frame = one_class((wish("w", "intensity-chart"),))
    before = plan(frame, work)

    def slower(one, some, most_min):
        found = work(one, some, most_min)
        pieces = tuple(replace(piece, minutes=1.6 * piece.minutes) for piece in found.pieces)
        return replace(found, pieces=pieces)

    times = times_of(before)["8a"]
    after = planned_before(frame, frame.classes[0], slower, times)
    for planned in after.lessons:
        assert planned.spare_min >= 0
    longest = max(part.minutes for one in after.lessons for part in one.parts)
    assert longest > max(part.minutes for one in before["8a"].lessons for part in one.parts)
