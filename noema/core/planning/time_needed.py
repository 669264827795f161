"""How long an exercise takes: setting up, mixing and painting each cell, cleaning up, drying.

A model of usual classroom times, not a measurement; a kind says how long its cells take.
"""

import csv
from dataclasses import dataclass
from pathlib import Path

from noema.core.exercises.asked import Asked
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.media import Medium
from noema.core.language import gettext, ngettext

_TABLE = Path(__file__).parent / "data" / "drying.csv"
_SET_UP_MIN, _CLEAN_UP_MIN, _PHOTOGRAPH_MIN = 8.0, 8.0, 2.0
_ROUND_TO_MIN = 5


@dataclass(frozen=True, kw_only=True)
class TimeNeeded:
    """Minutes, rounded to five."""

    painting_min: int  # with setting up, cleaning up and photographing
    dry_after_min: tuple[int, int]  # shortest and longest wait before it may be photographed

    @property
    def said(self) -> str:
        """The times in words.

        >>> TimeNeeded(painting_min=55, dry_after_min=(20, 60)).said
        'about 55 minutes to set up, paint and clean up; dry in 20 to 60 minutes'
        """
        return gettext(
            "about %(span)s to set up, paint and clean up; %(drying)s",
            span=_span(self.painting_min),
            drying=self._drying,
        )

    @property
    def _drying(self) -> str:
        shortest, longest = self.dry_after_min
        if longest == 0:
            return gettext("nothing to dry")
        if shortest >= _DAY_MIN:
            return gettext(
                "dry in %(shortest)s to %(longest)s days",
                shortest=shortest // _DAY_MIN,
                longest=longest // _DAY_MIN,
            )
        return gettext(
            "dry in %(shortest)s to %(longest)s minutes", shortest=shortest, longest=longest
        )


def time_needed(asked: Asked, medium: Medium) -> TimeNeeded:
    """Say how long a practised class needs for an exercise in a medium."""
    by_tubes = kind_of(asked.kind).cell_min
    most = max(by_tubes)
    cells = sum(by_tubes[min(len(cell.parts), most)] for cell in asked.on_paper)
    whole = _SET_UP_MIN + cells + _CLEAN_UP_MIN + _PHOTOGRAPH_MIN
    return TimeNeeded(
        painting_min=_ROUND_TO_MIN * round(whole / _ROUND_TO_MIN), dry_after_min=_DRYING[medium]
    )


def drying_min(medium: Medium) -> tuple[int, int]:
    """Give the shortest and longest minutes until a thin coat may be photographed."""
    return _DRYING[medium]


def _span(minutes: int) -> str:
    if minutes < _LONG_MIN:
        return gettext("%(minutes)s minutes", minutes=minutes)
    hours, rest = divmod(minutes, 60)
    hours_said = ngettext("%(count)s hour", "%(count)s hours", hours)
    return (
        gettext("%(hours_said)s %(rest)s minutes", hours_said=hours_said, rest=rest)
        if rest
        else hours_said
    )


def _load() -> dict[Medium, tuple[int, int]]:
    with _TABLE.open(encoding="utf-8", newline="") as file:
        rows = csv.DictReader(line for line in file if not line.startswith("#"))
        return {
            Medium(row["medium"]): (int(row["shortest_min"]), int(row["longest_min"]))
            for row in rows
        }


_DAY_MIN, _LONG_MIN = 1440, 90
_DRYING = _load()
