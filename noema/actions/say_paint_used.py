"""What lessons took of paint is kept, and corrected by what was really used."""

from collections.abc import Collection, Iterator, Mapping
from datetime import datetime

from sqlalchemy.orm import Session

from noema.actions.frames import frame_of_class
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.core.planning.amounts import times
from noema.core.planning.factor import factor_from
from noema.core.planning.kept import KeptPlan
from noema.core.planning.paint_uses import together_by_paint, uses_of
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.cupboard import LessonPaintRow, keep_expected, keep_used
from noema.store.units import unit_of_class

_MOST_ML = 20_000.0
_USUAL = factor_from(1.0, ())


def keep_past_paint(
    session: Session, class_id: int, people: int, plan: KeptPlan, lessons: Collection[datetime]
) -> None:
    """Keep what lessons of a plan took that were held, before the plan changes."""
    keep_expected(session, [row for at in lessons for row in _rows(class_id, people, plan, at)])


def say_paint_used(
    session: Session,
    school_id: int,
    class_id: int,
    at: datetime,
    used: Mapping[tuple[str, str], float],
) -> None:
    """Keep what a lesson really used, in ml by tube and medium."""
    people = frame_of_class(session, school_id, class_id).classes[0].people
    kept = unit_of_class(session, class_id)
    if kept is None or kept.plan is None:
        raise NotFound(gettext("This class has no such lesson: choose one from its unit."))
    rows = list(_rows(class_id, people, kept_plan_from_json(kept.plan), at))
    known = {(row.tube, row.medium) for row in rows}
    if not used or not set(used) <= known:
        raise NotFound(gettext("Say of at least one of this lesson's tubes how much was used."))
    if not all(0 <= ml <= _MOST_ML for ml in used.values()):
        raise Refused(gettext("Say how much was used in ml, at most %(ml)s.", ml=int(_MOST_ML)))
    keep_expected(session, rows)
    keep_used(
        session,
        [
            LessonPaintRow(
                class_id=class_id,
                lesson=row.lesson,
                tube=row.tube,
                medium=row.medium,
                label=row.label,
                expected_ml=row.expected_ml,
                used_ml=used[row.tube, row.medium],
            )
            for row in rows
            if (row.tube, row.medium) in used
        ],
    )


def _rows(class_id: int, people: int, plan: KeptPlan, at: datetime) -> Iterator[LessonPaintRow]:
    uses = [use for use in uses_of(plan, _USUAL) if use.at == at]
    labels = {use.paint: use.label for use in uses}
    for paint, each in together_by_paint(uses, 1).items():
        yield LessonPaintRow(
            class_id=class_id,
            lesson=at.isoformat(timespec="minutes"),
            tube=paint.tube,
            medium=paint.medium.value,
            label=labels[paint],
            expected_ml=times(each, people + 1).usual,
        )
