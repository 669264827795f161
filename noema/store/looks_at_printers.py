"""What photographs show of the printers their sheets came from."""

from dataclasses import dataclass
from datetime import date, datetime
from typing import TypeVarTuple, cast

from sqlalchemy import Select, func, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session, aliased

from noema.core.judging.review import ReviewState
from noema.core.progress.states import PhotoState
from noema.store.base import Json
from noema.store.tables import Assignment, Photograph, ReadingRow, ReviewRow, Sheet

Columns = TypeVarTuple("Columns")

_READ = (PhotoState.READ.value, PhotoState.TOGETHER.value)
_MOST = 200  # photographs, the newest
_SEEN = ReadingRow.body["print_seen"]


@dataclass(frozen=True, kw_only=True)
class LookAtPrinter:
    """What one photograph shows of a printer."""

    seen: Json
    day: date


def looks_counted(session: Session, printer_id: int, since: datetime | None) -> int:
    """How many photographs show what a printer lays?"""
    counted = select(func.count(Photograph.id.distinct()))
    return session.scalar(_of_looks(counted, printer_id, since)) or 0


def looks_at_printer(
    session: Session, printer_id: int, since: datetime | None
) -> tuple[LookAtPrinter, ...]:
    """What do photographs show of a printer, the newest first, by the newest reading of each?"""
    question = (
        _of_looks(
            select(Photograph.id, Photograph.received_at, _SEEN.label("seen")), printer_id, since
        )
        .ext(distinct_on(Photograph.id))
        .order_by(Photograph.id.desc(), ReadingRow.id.desc())
        .limit(_MOST)
    )
    return tuple(
        LookAtPrinter(seen=cast(Json, row.seen), day=row.received_at.date())
        for row in session.execute(question)
    )


def undecided_of_printer(session: Session, printer_id: int) -> tuple[int, ...]:
    """Which photographs of a printer's sheets were read, and not decided on yet?"""
    led = aliased(ReviewRow)
    question = (
        select(Photograph.id)
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .join(led, led.photograph_id == func.coalesce(Photograph.lead_id, Photograph.id))
        .where(
            Assignment.printer_id == printer_id,
            Photograph.state.in_(_READ),
            led.state == ReviewState.OPEN.value,
        )
        .order_by(Photograph.id)
    )
    return tuple(session.scalars(question))


def _of_looks(
    question: Select[*Columns], printer_id: int, since: datetime | None
) -> Select[*Columns]:
    """Ask of readings of single photographs: one of several together has no print of its own."""
    question = (
        question.select_from(ReadingRow)
        .join(Photograph, Photograph.id == ReadingRow.photograph_id)
        .join(Sheet, (Sheet.id == Photograph.sheet_id) & (Sheet.id == ReadingRow.sheet_id))
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .where(
            Assignment.printer_id == printer_id,
            Photograph.state.in_(_READ),
            ReadingRow.basis.not_like("together:%"),
            func.jsonb_typeof(_SEEN) == "object",
        )
    )
    return question if since is None else question.where(Photograph.received_at >= since)
