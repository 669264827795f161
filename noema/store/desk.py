"""What lies behind one sheet on the desk, asked for at once."""

from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from noema.core.colour.names import HueTable
from noema.store.base import Json
from noema.store.paints import hue_table_from
from noema.store.tables import (
    Assignment,
    JudgementRow,
    Photograph,
    ReadingRow,
    ReviewRow,
    School,
    SchoolClass,
    Sheet,
)


@dataclass(frozen=True, kw_only=True)
class BehindDesk:
    """One attempt's judgement, reading and sheet, and its school's ways."""

    judgement: Json
    moves: Json  # what to do next, by cell
    reading: Json
    layout: Json  # format noema-sheet/1
    cells: tuple[str, ...] | None  # the only ones on the sheet; None: all
    sha256: str  # of the photograph
    rubric: Json | None  # None: the usual one
    table: HueTable  # names of hues


def behind_desk(session: Session, photograph_id: int) -> BehindDesk:
    """What lies behind an attempt that is one of the school's?"""
    row = session.execute(
        select(
            JudgementRow.body.label("judgement"),
            JudgementRow.moves,
            ReadingRow.body.label("reading"),
            Sheet.layout,
            Sheet.cells,
            Photograph.sha256,
            School.rubric,
            School.hue_names,
        )
        .select_from(ReviewRow)
        .join(JudgementRow, JudgementRow.id == ReviewRow.judgement_id)
        .join(ReadingRow, ReadingRow.id == JudgementRow.reading_id)
        .join(Photograph, Photograph.id == ReviewRow.photograph_id)
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .join(School, School.id == SchoolClass.school_id)
        .where(ReviewRow.photograph_id == photograph_id)
    ).one()
    return BehindDesk(
        judgement=row.judgement,
        moves=row.moves,
        reading=row.reading,
        layout=row.layout,
        cells=None if row.cells is None else tuple(row.cells),
        sha256=row.sha256,
        rubric=row.rubric,
        table=hue_table_from(row.hue_names),
    )
