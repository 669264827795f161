"""Which files of the store rows speak of, and which uploads were abandoned."""

from collections.abc import Collection
from datetime import datetime

from sqlalchemy import column, func, select, true
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from noema.store.paint_tables import PrinterRow
from noema.store.picture_tables import HeldRow, PictureRow
from noema.store.student_tables import Upload
from noema.store.tables import Photograph, ReadingRow
from noema.store.trial_tables import TrialRow


def named_files(session: Session, names: Collection[str]) -> frozenset[str]:
    """Which of these files does any row rest on? A picture that was removed needs none."""
    look = func.jsonb_array_elements(PrinterRow.measured).table_valued(column("value", JSONB))
    calibrated = look.c.value["photograph"].astext
    there = Photograph.picture_gone_at.is_(None)
    found: set[str] = set()
    for sha256, kept in (
        (Photograph.sha256, there),
        (Photograph.scan_sha256, there),
        (Photograph.shown_sha256, there),
        (ReadingRow.straight_sha256, true()),
        (PictureRow.sha256, true()),
        (PictureRow.shown_sha256, true()),
        (PictureRow.small_sha256, true()),
        (HeldRow.sha256, true()),
        (TrialRow.sha256, true()),
    ):
        found.update(session.scalars(select(sha256).where(sha256.in_(names), kept)))
    photographs = select(calibrated).select_from(PrinterRow).join(look, true())
    found.update(session.scalars(photographs.where(calibrated.in_(names))))
    return frozenset(found)


def abandoned_uploads(session: Session, before: datetime) -> tuple[str, ...]:
    """Which photographs have been on their way since before a time?"""
    question = select(Upload.id).where(Upload.photograph_id.is_(None), Upload.made_at < before)
    return tuple(session.scalars(question.order_by(Upload.id)))
