"""Series of questions to students' eyes."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.seeing.series import SeriesKind
from noema.store.base import Json
from noema.store.eye_tables import EyeSeriesRow

MOST_SERIES = 60
"""Series a page looks at: a school year's."""


@dataclass(frozen=True, kw_only=True)
class KeptSeries:
    """A series as it is kept."""

    id: int
    kind: SeriesKind
    screen: Json | None
    asked: list[Json]
    found: Json | None
    begun_at: datetime
    ended_at: datetime | None


def begin_series(
    session: Session,
    school_id: int,
    student_id: int,
    kind: SeriesKind,
    screen: Json | None,
    begun_at: datetime | None = None,
) -> int:
    """Keep a series that begins, now if nothing else is said; gives its number."""
    row = EyeSeriesRow(
        school_id=school_id,
        student_id=student_id,
        kind=kind.value,
        screen=screen,
        asked=[],
        begun_at=begun_at or func.now(),
    )
    session.add(row)
    session.flush()
    return row.id


def series_of_student(session: Session, student_id: int, series_id: int) -> KeptSeries:
    """Which series of a student's is this? Held, so that two answers come one by one."""
    row = session.scalar(
        select(EyeSeriesRow)
        .where(EyeSeriesRow.id == series_id, EyeSeriesRow.student_id == student_id)
        .with_for_update()
    )
    if row is None:
        raise NotFound(gettext("There is no such series of yours."))
    return _series(row)


def all_series_of_student(session: Session, student_id: int) -> tuple[KeptSeries, ...]:
    """What was a student's eye asked, the latest first?"""
    rows = session.scalars(
        select(EyeSeriesRow)
        .where(EyeSeriesRow.student_id == student_id)
        .order_by(EyeSeriesRow.id.desc())
        .limit(MOST_SERIES)
    )
    return tuple(_series(row) for row in rows)


def keep_asked(
    session: Session,
    series_id: int,
    asked: list[Json],
    found: Json | None = None,
    ended_at: datetime | None = None,
) -> None:
    """Keep questions with their answers, and at the end what they tell."""
    row = session.get_one(EyeSeriesRow, series_id)
    row.asked, row.found, row.ended_at = asked, found, ended_at
    session.flush()


def _series(row: EyeSeriesRow) -> KeptSeries:
    return KeptSeries(
        id=row.id,
        kind=SeriesKind(row.kind),
        screen=row.screen,
        asked=row.asked,
        found=row.found,
        begun_at=row.begun_at,
        ended_at=row.ended_at,
    )
