"""The table of sheets tried before any class was made."""

from datetime import datetime

from sqlalchemy import ForeignKey, String
from sqlalchemy.orm import Mapped, mapped_column

from noema.store.base import Base, Json, made_now


class TrialRow(Base):
    """A photograph of the trial sheet; somebody's newest is kept."""

    __tablename__ = "trial_sheet"
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    teacher_id: Mapped[int] = mapped_column(ForeignKey("teacher.id"), index=True)
    sha256: Mapped[str] = mapped_column(String(64), index=True)
    reading: Mapped[Json | None]  # what was said and read; none: not yet
    received_at: Mapped[datetime] = made_now()
