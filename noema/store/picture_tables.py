"""Pictures somebody wants to paint, places in them, and photographs held against them."""

from datetime import datetime

from sqlalchemy import ForeignKey, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from noema.core.pictures.spots import SpotPart
from noema.store.base import Base, Json, made_now, one_of


class PictureRow(Base):
    """A picture of a class's or a student's."""

    __tablename__ = "picture"
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), index=True)
    student_id: Mapped[int | None] = mapped_column(ForeignKey("student.id"), index=True)
    title: Mapped[str] = mapped_column(String(80))
    sha256: Mapped[str] = mapped_column(String(64), index=True)  # as it came
    shown_sha256: Mapped[str] = mapped_column(String(64), index=True)  # as pages show it
    small_sha256: Mapped[str] = mapped_column(String(64), index=True)  # as it is thought about
    width_px: Mapped[int]  # of what is shown
    height_px: Mapped[int]
    by_strip: Mapped[bool]  # light and camera were taken off, by a strip beside it
    made_at: Mapped[datetime] = made_now()


class PictureSpotRow(Base):
    """A place in a picture that somebody pointed at."""

    __tablename__ = "picture_spot"
    __table_args__ = (one_of("part", SpotPart),)
    id: Mapped[int] = mapped_column(primary_key=True)
    picture_id: Mapped[int] = mapped_column(ForeignKey("picture.id"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    part: Mapped[str] = mapped_column(String(10))
    x: Mapped[float]  # shares of width and height
    y: Mapped[float]
    radius: Mapped[float]  # a share of the longer side
    lab: Mapped[list[float]]
    around: Mapped[list[float]]  # Lab of what lies round it


class PictureRankingRow(Base):
    """Which few tubes do for a picture: asked for, or worked out."""

    __tablename__ = "picture_ranking"
    __table_args__ = (UniqueConstraint("picture_id", "count"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    picture_id: Mapped[int] = mapped_column(ForeignKey("picture.id"))
    count: Mapped[int]  # tubes beside white
    paints: Mapped[Json]  # the cupboard it was asked for
    ranked: Mapped[list[Json] | None]  # none: not yet
    made_at: Mapped[datetime] = made_now()


class HeldRow(Base):
    """A photograph of paint held against a spot, or of a corner of a sketchbook."""

    __tablename__ = "held_photograph"
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), index=True)
    student_id: Mapped[int | None] = mapped_column(ForeignKey("student.id"), index=True)
    spot_id: Mapped[int | None] = mapped_column(ForeignKey("picture_spot.id"), index=True)
    sha256: Mapped[str | None] = mapped_column(String(64), index=True)  # none: kept no longer
    outline: Mapped[Json | None]  # as somebody placed it
    reading: Mapped[Json | None]  # none: not yet
    received_at: Mapped[datetime] = made_now()
