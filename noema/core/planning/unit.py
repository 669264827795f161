"""A class's unit and its weeks; nothing else counts weeks."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Self

LONGEST_UNIT = 52  # weeks
_WEEK, _FRIDAY = 7, 4  # days


@dataclass(frozen=True, kw_only=True)
class Unit:
    """Weeks of seven days, the first of which begins on a day; days are those of the school."""

    starts_on: date
    weeks: int

    @classmethod
    def between(cls, begins: date, ends: date) -> Self:
        """Give the unit that holds both days, as long as units may be."""
        weeks = (ends - begins).days // _WEEK + 1
        return cls(starts_on=begins, weeks=min(max(weeks, 1), LONGEST_UNIT))

    @property
    def ends_on(self) -> date:
        """Give its last day."""
        return self.starts_on + timedelta(days=self.weeks * _WEEK - 1)

    def week_on(self, day: date) -> int:
        """Give the week a day lies in: 1 for the first, 0 or less before it."""
        return (day - self.starts_on).days // _WEEK + 1

    def week_within(self, day: date) -> int:
        """Give the week a day lies in, or the first or last where it lies outside."""
        return max(1, min(self.weeks, self.week_on(day)))

    def holds(self, week: int) -> bool:
        """Say whether there is such a week."""
        return 1 <= week <= self.weeks

    def monday_of(self, week: int) -> date:
        """Give the Monday of a week."""
        return monday_of(self.starts_on) + timedelta(weeks=week - 1)

    def friday_of(self, week: int) -> date:
        """Give the Friday of a week, when what is due in it is due."""
        return self.monday_of(week) + timedelta(days=_FRIDAY)


def monday_of(day: date) -> date:
    """Give the Monday before a day, or the day itself."""
    return day - timedelta(days=day.weekday())
