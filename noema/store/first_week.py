"""What a teacher has done of what one does first."""

from dataclasses import dataclass

from sqlalchemy import exists, func, select, update
from sqlalchemy.orm import Session

from noema.store.paint_tables import PrinterRow
from noema.store.tables import (
    Assignment,
    DecisionRow,
    Enrolment,
    Photograph,
    SchoolClass,
    Sheet,
    Teacher,
)
from noema.store.trial_tables import TrialRow


@dataclass(frozen=True, kw_only=True)
class FirstWeek:
    """Each thing, and whether it is done."""

    tried: bool  # one sheet photographed, before any class
    made_class: bool
    has_students: bool
    assigned: bool
    printed: bool
    photographed: bool
    reviewed: bool
    calibrated: bool
    hidden: bool  # the teacher needs the list no more

    @property
    def is_shown(self) -> bool:
        """Whether the list still helps: something is left, and it wasn't put away."""
        done = (
            self.made_class,
            self.has_students,
            self.assigned,
            self.printed,
            self.photographed,
            self.reviewed,
            self.calibrated,
        )
        return not self.hidden and not all(done)


def first_week_of(session: Session, school_id: int, teacher_id: int) -> FirstWeek:
    """What is done of it in what a teacher sees?"""
    classes = select(SchoolClass.id).where(SchoolClass.school_id == school_id)
    given = select(Assignment.id).where(Assignment.class_id.in_(classes))
    teacher = session.get_one(Teacher, teacher_id)
    things = {
        "tried": select(TrialRow.id).where(TrialRow.teacher_id == teacher_id),
        "made_class": classes,
        "has_students": select(Enrolment.student_id).where(Enrolment.class_id.in_(classes)),
        "assigned": given,
        "printed": select(Sheet.id).where(Sheet.assignment_id.in_(given)),
        "photographed": select(Photograph.id).where(Photograph.school_id == school_id),
        "reviewed": select(DecisionRow.id)
        .join(Photograph, Photograph.id == DecisionRow.photograph_id)
        .where(Photograph.school_id == school_id),
        "calibrated": select(PrinterRow.id).where(
            PrinterRow.school_id == school_id, func.jsonb_array_length(PrinterRow.measured) > 0
        ),
    }
    row = session.execute(
        select(*(exists(question).label(name) for name, question in things.items()))
    ).one()
    return FirstWeek(**row._asdict(), hidden=teacher.hides_first_week)


def hide_first_week(session: Session, teacher_id: int) -> None:
    """Put the list away for a teacher."""
    session.execute(update(Teacher).where(Teacher.id == teacher_id).values(hides_first_week=True))
