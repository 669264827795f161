"""Pictures, their spots, and photographs of paint held against them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.core.bench.seen import Lab
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.pictures.spots import SpotPart
from noema.store.base import Json
from noema.store.files import named_files
from noema.store.logbook_tables import LogbookRow
from noema.store.picture_tables import HeldRow, PictureRankingRow, PictureRow, PictureSpotRow
from noema.store.tables import Student

MOST_LISTED = 60


@dataclass(frozen=True, kw_only=True)
class PictureOwner:
    """Whose a picture is: a student's, or their class's where none is named."""

    school_id: int
    class_id: int
    student_id: int | None = None


@dataclass(frozen=True, kw_only=True)
class PictureFiles:
    """A picture's files and the size in which it is shown."""

    sha256: str
    shown_sha256: str
    small_sha256: str
    width_px: int
    height_px: int
    by_strip: bool = False  # light and camera were taken off, by a strip beside it


@dataclass(frozen=True, kw_only=True)
class KeptPicture(PictureFiles):
    """A picture as it is kept."""

    id: int
    school_id: int
    class_id: int
    student_id: int | None
    student: str  # empty for a class's
    title: str


@dataclass(frozen=True, kw_only=True)
class KeptSpot:
    """A spot as it is kept."""

    id: int
    picture_id: int
    name: str
    part: SpotPart
    x: float
    y: float
    radius: float
    lab: Lab
    around: Lab


@dataclass(frozen=True, kw_only=True)
class KeptRanking:
    """Which few tubes do, as far as it is known."""

    count: int
    paints: Json
    ranked: list[Json] | None


@dataclass(frozen=True, kw_only=True)
class KeptHeld:
    """A photograph of paint as it is kept."""

    id: int
    school_id: int
    class_id: int
    student_id: int | None
    spot_id: int | None
    sha256: str | None
    outline: Json | None
    reading: Json | None
    received_at: datetime


def add_picture(session: Session, owner: PictureOwner, title: str, files: PictureFiles) -> int:
    """Keep a picture; gives its number."""
    row = PictureRow(
        school_id=owner.school_id,
        class_id=owner.class_id,
        student_id=owner.student_id,
        title=title,
        sha256=files.sha256,
        shown_sha256=files.shown_sha256,
        small_sha256=files.small_sha256,
        width_px=files.width_px,
        height_px=files.height_px,
        by_strip=files.by_strip,
    )
    session.add(row)
    session.flush()
    return row.id


def pictures_of_class(session: Session, class_id: int) -> tuple[KeptPicture, ...]:
    """Which pictures have a class and its students, the newest first?"""
    return _pictures(session, PictureRow.class_id == class_id)


def pictures_of_student(
    session: Session, student_id: int, class_ids: Sequence[int]
) -> tuple[KeptPicture, ...]:
    """Which pictures does a student see: their own and their classes', the newest first?"""
    return _pictures(session, _seen_by(student_id, class_ids))


def count_pictures(session: Session, owner: PictureOwner) -> int:
    """How many pictures has somebody?"""
    mine = PictureRow.student_id == owner.student_id
    if owner.student_id is None:
        mine = (PictureRow.class_id == owner.class_id) & PictureRow.student_id.is_(None)
    return session.scalar(select(func.count(PictureRow.id)).where(mine)) or 0


def picture_of_class(session: Session, class_id: int, picture_id: int) -> KeptPicture:
    """Which picture of a class or its students is this?"""
    return _picture(session, picture_id, PictureRow.class_id == class_id)


def picture_of_student(
    session: Session, student_id: int, class_ids: Sequence[int], picture_id: int
) -> KeptPicture:
    """Which picture that a student sees is this?"""
    return _picture(session, picture_id, _seen_by(student_id, class_ids))


def picture_by_id(session: Session, picture_id: int) -> KeptPicture | None:
    """Which picture is this, for a job? None: removed meanwhile."""
    found = _pictures(session, PictureRow.id == picture_id)
    return found[0] if found else None


def remove_pictures(session: Session, picture_ids: Sequence[int]) -> frozenset[str]:
    """Take pictures out with their spots; gives the files nobody else's record needs."""
    spots = select(PictureSpotRow.id).where(PictureSpotRow.picture_id.in_(picture_ids))
    rows = session.execute(
        select(PictureRow.sha256, PictureRow.shown_sha256, PictureRow.small_sha256).where(
            PictureRow.id.in_(picture_ids)
        )
    )
    files = {name for row in rows for name in row}
    session.execute(update(HeldRow).where(HeldRow.spot_id.in_(spots)).values(spot_id=None))
    _forget_in_logbook(session, LogbookRow.spot_id.in_(spots))
    for table, condition in (
        (PictureRankingRow, PictureRankingRow.picture_id.in_(picture_ids)),
        (PictureSpotRow, PictureSpotRow.picture_id.in_(picture_ids)),
        (PictureRow, PictureRow.id.in_(picture_ids)),
    ):
        session.execute(delete(table).where(condition))
    return frozenset(files - named_files(session, files))


def pictures_from_before(session: Session, school_id: int, day: datetime) -> tuple[int, ...]:
    """Which pictures of a school are older than a day?"""
    old = select(PictureRow.id).where(PictureRow.school_id == school_id, PictureRow.made_at < day)
    return tuple(session.scalars(old.order_by(PictureRow.id)))


def drop_held_before(session: Session, school_id: int, day: datetime) -> frozenset[str]:
    """Let the photographs of paint from before a day go; what was read of them stays."""
    gone = session.scalars(
        select(HeldRow.sha256).where(
            HeldRow.school_id == school_id,
            HeldRow.received_at < day,
            HeldRow.sha256.is_not(None),
        )
    )
    files = {name for name in gone if name is not None}
    session.execute(
        update(HeldRow)
        .where(HeldRow.school_id == school_id, HeldRow.received_at < day)
        .values(sha256=None)
    )
    return frozenset(files - named_files(session, files))


def put_spot(session: Session, spot: KeptSpot) -> int:
    """Keep a spot, new where its number is 0; gives its number."""
    values = {
        "name": spot.name,
        "part": spot.part.value,
        "x": spot.x,
        "y": spot.y,
        "radius": spot.radius,
        "lab": list(spot.lab),
        "around": list(spot.around),
    }
    if spot.id:
        session.execute(update(PictureSpotRow).where(PictureSpotRow.id == spot.id).values(values))
        return spot.id
    row = PictureSpotRow(picture_id=spot.picture_id, **values)
    session.add(row)
    session.flush()
    return row.id


def spots_of(session: Session, picture_id: int) -> tuple[KeptSpot, ...]:
    """Which spots has a picture, in the order in which they were pointed at?"""
    rows = session.scalars(
        select(PictureSpotRow)
        .where(PictureSpotRow.picture_id == picture_id)
        .order_by(PictureSpotRow.id)
    )
    return tuple(_spot(row) for row in rows)


def spot_of(session: Session, picture_id: int, spot_id: int) -> KeptSpot:
    """Which spot of a picture is this?"""
    row = session.scalar(
        select(PictureSpotRow).where(
            PictureSpotRow.id == spot_id, PictureSpotRow.picture_id == picture_id
        )
    )
    if row is None:
        raise NotFound(gettext("There is no such spot in this picture."))
    return _spot(row)


def picture_of_spot(session: Session, spot_id: int) -> int:
    """In which picture is a spot?"""
    found = session.scalar(select(PictureSpotRow.picture_id).where(PictureSpotRow.id == spot_id))
    if found is None:
        raise NotFound(gettext("There is no such spot in this picture."))
    return found


def remove_spot(session: Session, spot_id: int) -> None:
    """Take a spot out, and its recipe out of the logbook; what was held against it stays."""
    session.execute(update(HeldRow).where(HeldRow.spot_id == spot_id).values(spot_id=None))
    _forget_in_logbook(session, LogbookRow.spot_id == spot_id)
    session.execute(delete(PictureSpotRow).where(PictureSpotRow.id == spot_id))


def forget_recipe(session: Session, spot_id: int) -> None:
    """Take a spot's recipe out of the logbook, before it is put in anew."""
    _forget_in_logbook(session, LogbookRow.spot_id == spot_id)


def ask_ranking(session: Session, picture_id: int, counts: Sequence[int], paints: Json) -> None:
    """Note that rankings are wanted for some tubes, in place of any there are."""
    session.execute(delete(PictureRankingRow).where(PictureRankingRow.picture_id == picture_id))
    rows = [{"picture_id": picture_id, "count": count, "paints": paints} for count in counts]
    session.execute(insert(PictureRankingRow).values(rows).on_conflict_do_nothing())


def rankings_of(session: Session, picture_id: int) -> tuple[KeptRanking, ...]:
    """Which rankings were asked for, with fewest tubes first?"""
    rows = session.scalars(
        select(PictureRankingRow)
        .where(PictureRankingRow.picture_id == picture_id)
        .order_by(PictureRankingRow.count)
    )
    return tuple(KeptRanking(count=row.count, paints=row.paints, ranked=row.ranked) for row in rows)


def keep_ranking(
    session: Session, picture_id: int, count: int, paints: Json, ranked: list[Json]
) -> None:
    """Keep a ranking that was worked out, unless other tubes were asked for meanwhile."""
    session.execute(
        update(PictureRankingRow)
        .where(
            PictureRankingRow.picture_id == picture_id,
            PictureRankingRow.count == count,
            PictureRankingRow.paints == paints,
        )
        .values(ranked=ranked)
    )


def add_held(session: Session, owner: PictureOwner, spot_id: int | None, sha256: str) -> int:
    """Keep a photograph of paint; gives its number."""
    row = HeldRow(
        school_id=owner.school_id,
        class_id=owner.class_id,
        student_id=owner.student_id,
        spot_id=spot_id,
        sha256=sha256,
    )
    session.add(row)
    session.flush()
    return row.id


def held_by_id(session: Session, held_id: int) -> KeptHeld | None:
    """Which photograph of paint is this, for a job?"""
    row = session.get(HeldRow, held_id)
    return None if row is None else _held(row)


def held_of(session: Session, owner: PictureOwner, held_id: int) -> KeptHeld:
    """Which photograph of paint of somebody's is this? A class's: also of its students'."""
    mine: ColumnElement[bool] = HeldRow.class_id == owner.class_id
    if owner.student_id is not None:
        mine = HeldRow.student_id == owner.student_id
    row = session.scalar(select(HeldRow).where(HeldRow.id == held_id, mine))
    if row is None:
        raise NotFound(gettext("There is no such photograph here."))
    return _held(row)


def latest_held(session: Session, owner: PictureOwner, spot_id: int | None) -> KeptHeld | None:
    """Which photograph of paint did somebody take last, for a spot or for none?"""
    mine = HeldRow.student_id == owner.student_id
    if owner.student_id is None:
        mine = (HeldRow.class_id == owner.class_id) & HeldRow.student_id.is_(None)
    same = HeldRow.spot_id.is_(None) if spot_id is None else HeldRow.spot_id == spot_id
    row = session.scalar(select(HeldRow).where(mine, same).order_by(HeldRow.id.desc()).limit(1))
    return None if row is None else _held(row)


def keep_held(
    session: Session, held_id: int, *, reading: Json | None, outline: Json | None
) -> None:
    """Keep what was read of a photograph of paint, or that it is to be read by an outline."""
    session.execute(
        update(HeldRow).where(HeldRow.id == held_id).values(reading=reading, outline=outline)
    )


def _forget_in_logbook(session: Session, which: ColumnElement[bool]) -> None:
    session.execute(delete(LogbookRow).where(which))


def _seen_by(student_id: int, class_ids: Sequence[int]) -> ColumnElement[bool]:
    classes = PictureRow.student_id.is_(None) & PictureRow.class_id.in_(class_ids)
    return (PictureRow.student_id == student_id) | classes


def _pictures(session: Session, which: ColumnElement[bool]) -> tuple[KeptPicture, ...]:
    rows = session.execute(
        select(PictureRow, Student.display_name)
        .outerjoin(Student, Student.id == PictureRow.student_id)
        .where(which)
        .order_by(PictureRow.id.desc())
        .limit(MOST_LISTED)
    )
    return tuple(
        KeptPicture(
            id=row.id,
            school_id=row.school_id,
            class_id=row.class_id,
            student_id=row.student_id,
            student=name or "",
            title=row.title,
            sha256=row.sha256,
            shown_sha256=row.shown_sha256,
            small_sha256=row.small_sha256,
            width_px=row.width_px,
            height_px=row.height_px,
            by_strip=row.by_strip,
        )
        for row, name in rows
    )


def _picture(session: Session, picture_id: int, which: ColumnElement[bool]) -> KeptPicture:
    found = _pictures(session, (PictureRow.id == picture_id) & which)
    if not found:
        raise NotFound(gettext("There is no such picture here."))
    return found[0]


def _spot(row: PictureSpotRow) -> KeptSpot:
    (lightness, a, b), (round_l, round_a, round_b) = row.lab, row.around
    return KeptSpot(
        id=row.id,
        picture_id=row.picture_id,
        name=row.name,
        part=SpotPart(row.part),
        x=row.x,
        y=row.y,
        radius=row.radius,
        lab=(lightness, a, b),
        around=(round_l, round_a, round_b),
    )


def _held(row: HeldRow) -> KeptHeld:
    return KeptHeld(
        id=row.id,
        school_id=row.school_id,
        class_id=row.class_id,
        student_id=row.student_id,
        spot_id=row.spot_id,
        sha256=row.sha256,
        outline=row.outline,
        reading=row.reading,
        received_at=row.received_at,
    )
