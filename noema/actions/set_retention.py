"""How long a school keeps pictures: what would go is shown first, and numbers always stay."""

from dataclasses import dataclass
from datetime import datetime

from dateutil.relativedelta import relativedelta
from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.language import gettext
from noema.store.erasure import classes_of_pictures, drop_pictures, leave, pictures_before
from noema.store.people import keep_months_of, set_keep_months, set_keeps_originals
from noema.store.pictures import drop_held_before, pictures_from_before, remove_pictures
from noema.store.queue import queue_leaving

_LONGEST_MONTHS = 120


@dataclass(frozen=True, kw_only=True)
class WouldGo:
    """What a period would take away."""

    months: int
    before: datetime
    photographs: int
    by_class: dict[str, int]


def would_go(session: Session, school_id: int, months: int, now: datetime) -> WouldGo:
    """Say which pictures a period would take away today."""
    _check_months(months)
    before = now - relativedelta(months=months)
    photos = pictures_before(session, school_id, before)
    return WouldGo(
        months=months,
        before=before,
        photographs=len(photos) + len(pictures_from_before(session, school_id, before)),
        by_class=classes_of_pictures(session, photos),
    )


def keep_for(session: Session, school_id: int, months: int | None) -> None:
    """Keep a school's pictures for some months; None: until somebody removes them."""
    if months is not None:
        _check_months(months)
    set_keep_months(session, school_id, months)


def keep_originals(session: Session, school_id: int, *, keeps: bool) -> None:
    """Keep all that cameras write beside pictures from now on, or only what reading needs."""
    set_keeps_originals(session, school_id, keeps)


def remove_old(session: Session, school_id: int, now: datetime) -> int:
    """Remove every picture older than the school's period; gives how many photographs had one.

    The files leave once this is kept.
    """
    months = keep_months_of(session, school_id)
    if months is None:
        raise Refused(gettext("Your school keeps pictures without end: choose a period first."))
    before = now - relativedelta(months=months)
    photos = pictures_before(session, school_id, before)
    gone = drop_pictures(session, photos, now)
    files = set(gone.files) | drop_held_before(session, school_id, before)
    to_paint = pictures_from_before(session, school_id, before)
    files |= remove_pictures(session, to_paint)
    session.flush()
    leave(session, school_id, files)
    queue_leaving(session)
    return gone.photographs + len(to_paint)


def _check_months(months: int) -> None:
    if not 1 <= months <= _LONGEST_MONTHS:
        raise Refused(
            gettext(
                "Keep pictures for 1 to %(longest_months)s months.", longest_months=_LONGEST_MONTHS
            )
        )
