"""The register of a lesson, by one tap a student."""

from dataclasses import dataclass

from flask import Blueprint, redirect, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.lesson_facts import lesson_key
from noema.actions.mark_student import mark_student
from noema.core.language import N_
from noema.core.planning.register import RegisterMark
from noema.core.planning.timeline import PlannedLesson
from noema.store.classes import StudentName, students_of_class
from noema.store.register import marks_of_lesson
from noema.web.frame.forms import OneOrNone, read_form
from noema.web.frame.request import db, me
from noema.web.unit.finding import find_lesson

register = Blueprint("register", __name__)


@dataclass(frozen=True, kw_only=True)
class RegisterLine:
    """A student in a lesson."""

    student: StudentName
    mark: RegisterMark | None


class MarkForm(Form):
    """What is noted; nothing: they were there."""

    mark = OneOrNone(RegisterMark, N_("Choose away, late or left early."))


def register_of(class_id: int, one: PlannedLesson) -> tuple[RegisterLine, ...]:
    """Give everybody of a class, with what is noted of them."""
    marks = marks_of_lesson(db(), class_id, lesson_key(one))
    students = students_of_class(db(), class_id)
    return tuple(RegisterLine(student=s, mark=marks.get(s.id)) for s in students)


@register.post("/classes/<int:class_id>/lessons/<at>/students/<int:student_id>")
def mark(class_id: int, at: str, student_id: int) -> Response:
    """Note that somebody was away, late, left early, or was there."""
    _, plan, place = find_lesson(class_id, at)
    lesson, said = lesson_key(plan.lessons[place]), read_form(MarkForm).mark.data
    mark_student(db(), me().school_id, class_id, lesson, student_id, said)
    address = url_for("lesson.of_class", class_id=class_id, at=at)
    return redirect(f"{address}#register", 303)
