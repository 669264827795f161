"""A class's unit is kept under a name, to be given to other classes of the school."""

from typing import cast

from sqlalchemy.orm import Session

from noema.actions.frames import frame_of_class
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.planning.frame import Wish
from noema.formats.frame_json import wishes_from_json
from noema.formats.kept_plan_json import class_to_json
from noema.store.base import Json
from noema.store.unit_patterns import (
    drop_unit_pattern,
    keep_unit_pattern,
    unit_patterns_of,
    wishes_of_pattern,
)

_MOST = 100


def keep_unit(session: Session, school_id: int, class_id: int, name: str) -> None:
    """Keep it without its days; one of the same name is put in its place."""
    frame = frame_of_class(session, school_id, class_id)
    if not name or not frame.classes[0].unit:
        raise Refused(gettext("Give a unit that holds exercises a name to keep it under."))
    kept = {one.name for one in unit_patterns_of(session, school_id)}
    if name not in kept and len(kept) >= _MOST:
        raise Refused(gettext("A school keeps at most %(most)s units: forget one.", most=_MOST))
    unit = cast(list[Json], class_to_json(frame, str(class_id))["unit"])
    loose = [{k: v for k, v in one.items() if k not in ("pinned", "pins")} for one in unit]
    keep_unit_pattern(session, school_id, name, loose)


def kept_unit(session: Session, school_id: int, pattern_id: int) -> tuple[Wish, ...]:
    """Give the wishes of a kept unit."""
    return wishes_from_json(wishes_of_pattern(session, school_id, pattern_id))


def forget_unit(session: Session, school_id: int, pattern_id: int) -> None:
    """Forget a kept unit; classes that started from it keep theirs."""
    drop_unit_pattern(session, school_id, pattern_id)
