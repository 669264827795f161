from datetime import date

import pytest

from noema.core.planning.unit import Unit, monday_of

WEDNESDAY = date(2026, 9, 9)
UNIT = Unit(starts_on=WEDNESDAY, weeks=12)


@pytest.mark.parametrize(
    ("day", "week"),
    [
        (date(2026, 9, 1), -1),
        (date(2026, 9, 8), 0),
        (WEDNESDAY, 1),
        (date(2026, 9, 15), 1),
        (date(2026, 9, 16), 2),
        (date(2026, 12, 1), 12),
        (date(2026, 12, 2), 13),
    ],
)
def test_weeks_are_counted_from_the_day_the_unit_begins(day, week):
    assert UNIT.week_on(day) == week
    assert UNIT.week_within(day) == min(max(week, 1), 12)


def test_what_is_due_in_a_week_is_due_on_its_friday():
    assert UNIT.monday_of(1) == monday_of(WEDNESDAY) == date(2026, 9, 7)
    assert UNIT.friday_of(1) == date(2026, 9, 11)
    assert UNIT.friday_of(6) == date(2026, 10, 16)


def test_a_unit_between_two_days_holds_both_and_is_never_longer_than_a_year():
    assert Unit.between(WEDNESDAY, date(2026, 9, 15)).weeks == 1
    assert Unit.between(WEDNESDAY, date(2026, 9, 16)).weeks == 2
    assert Unit.between(WEDNESDAY, date(2029, 1, 1)).weeks == 52
