"""A school puts a paint set together, changes it, or takes it away."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.drying import Binder
from noema.core.pigments.shelf import MOST_TUBES
from noema.store.paints import (
    add_paint_set,
    all_tubes,
    change_paint_set,
    drop_paint_set,
    set_name_taken,
)

LONGEST_NAME = 60


@dataclass(frozen=True, kw_only=True)
class NewSet:
    """What a teacher chose."""

    name: str
    binder: Binder
    tubes: tuple[str, ...]  # names, in the order they are laid out


def keep_paint_set(session: Session, school_id: int, new: NewSet) -> str:
    """Keep a new set; gives its reference."""
    name = _checked(session, school_id, new, None)
    return add_paint_set(session, school_id, name, new.binder, new.tubes)


def change_set(session: Session, school_id: int, ref: str, new: NewSet) -> None:
    """Change one of the school's own sets."""
    name = _checked(session, school_id, new, ref)
    change_paint_set(session, school_id, ref, name, new.binder, new.tubes)


def remove_set(session: Session, school_id: int, ref: str) -> None:
    """Take one of the school's own sets away."""
    drop_paint_set(session, school_id, ref)


def _checked(session: Session, school_id: int, new: NewSet, ref: str | None) -> str:
    name = " ".join(new.name.split())
    if not 1 <= len(name) <= LONGEST_NAME:
        raise BadPaint(
            gettext(
                "Give the set a name of at most %(longest_name)s letters.",
                longest_name=LONGEST_NAME,
            )
        )
    if set_name_taken(session, school_id, name, ref):
        raise BadPaint(
            gettext("There is already a set called “%(name)s”: choose another name.", name=name)
        )
    _check_tubes(new.tubes, all_tubes(session, school_id))
    return name


def _check_tubes(names: Sequence[str], known: Collection[str]) -> None:
    if not 1 <= len(names) <= MOST_TUBES:
        raise BadPaint(
            gettext(
                "Choose 1 to %(most_tubes)s tubes; %(count)s are chosen.",
                most_tubes=MOST_TUBES,
                count=len(names),
            )
        )
    unknown = [name for name in names if name not in known]
    if unknown or len(set(names)) != len(names):
        raise BadPaint(gettext("One of the tubes isn't on the shelf any more: choose them again."))
