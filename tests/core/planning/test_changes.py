"""Changes of a unit, timetables, and calendars told as timetables."""

from dataclasses import replace
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar, Event

from noema.core.errors import BadFile, BadFrame
from noema.core.exercises.media import Medium
from noema.core.planning import changes
from noema.core.planning.away import due_after
from noema.core.planning.frame import (
    ClassFrame,
    Room,
    SchoolFrame,
    WeeklyLesson,
    WeekTurn,
    Wish,
    lessons_of,
)
from noema.core.planning.plan import plan
from noema.core.planning.timetable import periods_of, periods_text, weekly_of
from noema.core.planning.usual import USUAL, usual_in
from noema.core.planning.weekly_pattern import with_lessons
from noema.formats.calendar_in import events_from_ics
from tests.core.planning.test_plan_laws import work

MONDAY = date(2027, 1, 11)
BERLIN = ZoneInfo("Europe/Berlin")
LESSON = WeeklyLesson(day=1, start=time(9, 40), minutes=50)


def wish(name, kind="value-scale", **rest):
    return Wish(id=name, kind=kind, medium=Medium.ACRYLIC, **rest)


def of(*wishes, **rest):
    return ClassFrame(
        id="8a", people=24, lessons=(LESSON,), unit=changes.in_order([*wishes]), **rest
    )


def framed(one, weeks=12, **rest):
    return SchoolFrame(
        time_zone="Europe/Berlin",
        begins=MONDAY,
        ends=MONDAY + timedelta(weeks=weeks),
        classes=(one,),
        **rest,
    )


def test_the_craft_s_order_puts_wheels_before_darks_and_keeps_what_is_alike():
    one = of(wish("d", "mixed-darks"), wish("s1"), wish("w", "colour-wheel"), wish("s2"))
    found = changes.ordered(one).unit
    assert [each.id for each in found] == ["w", "s1", "s2", "d"]
    assert found[1].after == ("w",)


def test_a_wish_put_in_place_keeps_its_place_and_comes_after_what_stands_before():
    one = of(wish("a"), wish("b"), wish("c"))
    other = replace(wish("b", "tint-ladder"), after=("a", "c", "b", "nothing"))
    found = changes.instead(other)(one).unit
    assert [each.kind for each in found] == ["value-scale", "tint-ladder", "value-scale"]
    assert found[1].after == ("a",)


def test_a_step_is_pinned_and_let_go():
    one = of(wish("a"))
    pinned = changes.step_pinned("a", 2, MONDAY)(one)
    assert pinned.unit[0].day_of(2) == MONDAY
    assert pinned.unit[0].day_of(0) is None
    assert changes.step_pinned("a", 2, None)(pinned) == one
    assert changes.step_pinned("a", 0, MONDAY)(one).unit[0].pinned == MONDAY
    cut = changes.split("a", 3)(pinned).unit[0]
    assert (cut.goes, cut.pins) == (3, {})


def test_a_test_week_is_kept_by_its_monday():
    kept = changes.with_test(date(2027, 1, 14), is_kept=True)(of())
    assert kept.tests == (MONDAY,)
    assert kept.has_test(date(2027, 1, 17))
    assert changes.with_test(MONDAY, is_kept=False)(kept).tests == ()


def test_a_lesson_besides_is_held_and_taken_back():
    at = datetime(2027, 1, 13, 11, 0)
    one = changes.besides(at, 75)(of())
    assert len(lessons_of(framed(one, 1), one)) == 2
    assert changes.besides(at, 0)(one).extra == ()


def test_who_missed_a_lesson_hands_in_a_lesson_later():
    one = of(wish("w", "colour-wheel", goes=3))
    found = plan(framed(one), work)["8a"]
    times = [each.lesson.at.replace(tzinfo=None) for each in found.lessons]
    usual = found.due("w")
    assert due_after(found, "w", ()) == usual
    painted = times[found.at["w"][0]]
    assert due_after(found, "w", {painted}) == usual + timedelta(weeks=1)
    assert due_after(found, "w", {datetime(2027, 6, 1, 9, 40)}) == usual
    assert due_after(found, "w", set(times)) <= times[-1].date()
    assert due_after(found, "nothing", ()) is None


def test_periods_name_lessons():
    periods = periods_of("1 08:50 09:40\nafter lunch 13:10 14:25")
    lessons = weekly_of("tue 1\nThursday after lunch B\nmon 9:00 45", periods)
    assert [(one.day, one.start, one.minutes, one.turn) for one in lessons] == [
        (0, time(9, 0), 45, WeekTurn.EVERY),
        (1, time(8, 50), 50, WeekTurn.EVERY),
        (3, time(13, 10), 75, WeekTurn.B),
    ]
    assert periods_of(periods_text(periods)) == periods


@pytest.mark.parametrize(
    "text", ["1", "1 09:40 08:50", "1 25:00 26:00", "1 08:50 08:55", "1 08:50 09:40\n1 10:00 10:50"]
)
def test_periods_that_are_none_are_refused(text):
    with pytest.raises(BadFrame):
        periods_of(text)


def test_few_sinks_and_few_jars_take_longer():
    assert usual_in(USUAL, Room(sinks=1), 24).clean_up_min == 2 * USUAL.clean_up_min
    assert usual_in(USUAL, Room(sinks=4), 24).clean_up_min == USUAL.clean_up_min
    assert usual_in(USUAL, Room(jars=6), 24).sharing == 2.0
    assert usual_in(USUAL, Room(brushes=30, palettes=24), 24).sharing == 1.0
    with pytest.raises(BadFrame, match="count those"):
        framed(of(), rooms=(Room(sinks=0),))
    with pytest.raises(BadFrame, match="name of its own"):
        framed(of(), rooms=(Room(), Room()))


@st.composite
def timetables(draw):
    days = draw(st.lists(st.integers(0, 4), min_size=1, max_size=3, unique=True))
    lessons = tuple(
        WeeklyLesson(day=day, start=time(draw(st.integers(8, 15)), 0), minutes=50,
                     turn=draw(st.sampled_from(WeekTurn)))
        for day in days
    )  # fmt: skip
    one = ClassFrame(id="x", people=9, lessons=lessons)
    held = [each.at.replace(tzinfo=None) for each in lessons_of(framed(one), one)]
    missed = draw(st.lists(st.sampled_from(held), max_size=2, unique=True)) if held else []
    extra = draw(st.lists(st.integers(0, 80), max_size=2, unique=True))
    more = tuple((datetime.combine(MONDAY + timedelta(days=day), time(17, 0)), 60) for day in extra)
    return replace(one, cancelled=tuple(missed), extra=more)


@given(timetables())
def test_a_calendar_s_lessons_are_held_exactly(one):
    frame = framed(one)
    lessons = [(each.at.replace(tzinfo=None), each.minutes) for each in lessons_of(frame, one)]
    again = with_lessons(frame, ClassFrame(id="x", people=9, lessons=()), lessons)
    found = [(each.at.replace(tzinfo=None), each.minutes) for each in lessons_of(frame, again)]
    last = max((at for at, _ in lessons), default=datetime.min)
    assert [each for each in found if each[0] <= last] == lessons


def test_a_plain_timetable_comes_back_as_one():
    one = ClassFrame(id="x", people=9, lessons=(LESSON, replace(LESSON, day=3, turn=WeekTurn.A)))
    frame = framed(one)
    lessons = [(each.at.replace(tzinfo=None), each.minutes) for each in lessons_of(frame, one)]
    again = with_lessons(frame, replace(one, lessons=()), lessons)
    assert (set(again.lessons), again.extra, again.cancelled) == (set(one.lessons), (), ())


def ics(*events):
    calendar = Calendar()
    calendar.add("prodid", "-//x//x//EN")
    calendar.add("version", "2.0")
    for number, fields in enumerate(events):
        event = Event()
        for name, value in {"uid": str(number), "summary": "Art", **fields}.items():
            event.add(name.replace("_", "-"), value)
        calendar.add_component(event)
    return calendar.to_ical()


def seen(content, ends=date(2027, 4, 12)):
    return events_from_ics(content, BERLIN, MONDAY, ends)


def test_repeated_lessons_keep_the_school_s_clock_when_it_changes():
    at = datetime(2027, 3, 16, 9, 40, tzinfo=BERLIN)
    found = seen(ics({"dtstart": at, "dtend": at + timedelta(minutes=50),
                      "rrule": {"freq": "weekly"}}))  # fmt: skip
    assert [f"{one.at:%m-%d %H:%M}" for one in found] == [
        "03-16 09:40", "03-23 09:40", "03-30 09:40", "04-06 09:40",
    ]  # fmt: skip
    assert {one.minutes for one in found} == {50}
    utc = seen(ics({"dtstart": at.astimezone(ZoneInfo("UTC")), "duration": timedelta(minutes=40)}))
    assert (utc[0].at, utc[0].minutes) == (datetime(2027, 3, 16, 9, 40), 40)


def test_a_moved_time_stands_for_the_one_it_moved():
    at = datetime(2027, 1, 12, 9, 40, tzinfo=BERLIN)
    week, long = timedelta(weeks=1), timedelta(minutes=50)
    moved = {"uid": "a", "recurrence_id": at + week, "dtstart": at + timedelta(days=9)}
    weekly = {"uid": "a", "dtstart": at, "rrule": {"freq": "weekly", "count": 3}}
    weekly |= {"exdate": at + 2 * week, "duration": long}
    moved |= {"duration": long}
    found = seen(ics(weekly, moved))
    assert [one.at.day for one in found] == [12, 21]


def test_whole_days_are_holidays_and_what_is_cancelled_is_none():
    off = {"dtstart": date(2027, 2, 8), "dtend": date(2027, 2, 13), "summary": "Half term"}
    gone = {**off, "summary": "No", "status": "CANCELLED"}
    (one,) = seen(ics(off, gone))
    assert (one.is_whole_day, one.ends.date() - timedelta(days=1)) == (True, date(2027, 2, 12))
    assert one.name == "Half term"


@pytest.mark.parametrize("content", [b"", b"hello", b"BEGIN:VEVENT", b"\x00" * 50, b"x" * 2**21])
def test_what_is_no_calendar_is_refused(content):
    with pytest.raises(BadFile, match="calendar"):
        seen(content)


def test_a_rule_without_an_end_ends_with_the_plan():
    at = datetime(2020, 1, 1, 9, 0, tzinfo=BERLIN)
    endless = {"dtstart": at, "duration": timedelta(minutes=50), "rrule": {"freq": "daily"}}
    assert len(seen(ics(endless), date(2027, 1, 20))) == 10
    every_second = {**endless, "rrule": {"freq": "secondly"}}
    assert seen(ics(every_second)) == ()
    never = {**endless, "rrule": {"freq": "yearly", "bymonth": 2, "bymonthday": 30}}
    assert seen(ics(never)) == ()
