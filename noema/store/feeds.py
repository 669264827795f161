"""Private addresses of calendars, of a class and of a teacher; only their hashes are kept."""

from dataclasses import dataclass

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from noema.core.joining.role import StaffRole
from noema.store.planning_tables import ClassUnit
from noema.store.reach import reach_of_teacher
from noema.store.tables import SchoolClass, Teacher


@dataclass(frozen=True, kw_only=True)
class FeedOwner:
    """Whose calendar an address opens."""

    school_id: int
    class_ids: tuple[int, ...] | None  # None: all classes of the school that go on


def keep_feed(session: Session, class_id: int, feed_token_sha256: str | None) -> bool:
    """Keep the hash of a class's private word, or none; False where it has no unit."""
    row = session.get(ClassUnit, class_id)
    if row is not None:
        row.feed_token_sha256 = feed_token_sha256
        session.flush()
    return row is not None


def keep_feed_of_teacher(session: Session, teacher_id: int, feed_token_sha256: str | None) -> None:
    """Keep the hash of a teacher's private word, or none."""
    session.execute(
        update(Teacher).where(Teacher.id == teacher_id).values(feed_token_sha256=feed_token_sha256)
    )


def has_feed(session: Session, teacher_id: int) -> bool:
    """Has a teacher a private address?"""
    row = session.get_one(Teacher, teacher_id)
    return row.feed_token_sha256 is not None


def owner_of_feed(session: Session, feed_token_sha256: str) -> FeedOwner | None:
    """Whose private word has this hash?"""
    of_class = session.execute(
        select(SchoolClass.school_id, ClassUnit.class_id)
        .join(SchoolClass, SchoolClass.id == ClassUnit.class_id)
        .where(ClassUnit.feed_token_sha256 == feed_token_sha256)
    ).one_or_none()
    if of_class is not None:
        return FeedOwner(school_id=of_class.school_id, class_ids=(of_class.class_id,))
    of_teacher = select(Teacher).where(
        Teacher.feed_token_sha256 == feed_token_sha256, Teacher.disabled_at.is_(None)
    )
    teacher = session.scalar(of_teacher)
    if teacher is None:
        return None
    seen = None
    if not StaffRole(teacher.role).sees_all_classes:
        seen = reach_of_teacher(session, teacher.id).class_ids
    return FeedOwner(school_id=teacher.school_id, class_ids=seen)
