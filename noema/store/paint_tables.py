"""What a school has: paints, printers, reference cards."""

from datetime import datetime

from sqlalchemy import CheckConstraint, ForeignKey, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from noema.core.pigments.drying import Binder
from noema.store.base import Base, Json, made_now, one_of


class PaintSetRow(Base):
    """A set of tubes a school put together; the built-in sets aren't in the database."""

    __tablename__ = "paint_set"
    __table_args__ = (UniqueConstraint("school_id", "name"), one_of("binder", Binder))
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    binder: Mapped[str] = mapped_column(String(20))
    tubes: Mapped[list[str]]  # names, in the order they are laid out
    made_at: Mapped[datetime] = made_now()


class OwnTubeRow(Base):
    """A tube of the school's own, fitted to its measured swatches."""

    __tablename__ = "own_tube"
    __table_args__ = (
        UniqueConstraint("school_id", "name"),
        CheckConstraint("name LIKE 'own-%'", name="named_own"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    label: Mapped[str] = mapped_column(String(60))
    base: Mapped[str] = mapped_column(String(40))  # the built-in tube it was bent from
    absorption: Mapped[list[float]]  # K, 31 bands
    scattering: Mapped[list[float]]  # S, 31 bands
    swatches: Mapped[list[Json]]  # label, mixed_with, lab
    misses: Mapped[list[float]]  # CIEDE2000, a swatch each
    made_at: Mapped[datetime] = made_now()


class PrinterRow(Base):
    """A printer of the school's, and the colours it lays."""

    __tablename__ = "printer"
    __table_args__ = (UniqueConstraint("school_id", "name"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    measured: Mapped[list[Json]]  # each time: how, and Lab and sigma by what was sent
    learned: Mapped[Json | None]  # the same from photographs of its sheets, and which they were
    learns_from: Mapped[datetime | None]  # since when its ink and paper are what they are
    made_at: Mapped[datetime] = made_now()


class CardRow(Base):
    """A reference card whose colours are known."""

    __tablename__ = "reference_card"
    __table_args__ = (
        UniqueConstraint("school_id", "name"),
        CheckConstraint("columns BETWEEN 1 AND 40 AND rows BETWEEN 1 AND 40", name="grid_sane"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    columns: Mapped[int]
    rows: Mapped[int]
    labs: Mapped[Json]  # {"labs": [[L, a, b], …]}, row by row
    made_at: Mapped[datetime] = made_now()
