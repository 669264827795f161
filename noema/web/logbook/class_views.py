"""The logbook of a class, or of one of its students, before their teacher."""

from dataclasses import dataclass

from flask import Blueprint, Response, render_template, request
from wtforms import Form

from noema.actions.practise import paints_of
from noema.store.assignments import assignments_of_class
from noema.store.classes import ClassRow, StudentName, class_of_school, students_of_class
from noema.store.logbook import LogScope, all_entries
from noema.store.paints import hue_words
from noema.web.frame.forms import Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.logbook.finding import LogbookFound, found, labels_of
from noema.web.logbook.giving import FORMS, given

class_logbook = Blueprint("class_logbook", __name__)


class LogbookOfForm(Form):
    """Whose entries: a student's; nobody named: the class's."""

    student = Whole()


@dataclass(frozen=True, kw_only=True)
class ClassLogbookPage:
    """Everything a class mixed."""

    frame: Frame
    row: ClassRow
    students: tuple[StudentName, ...]
    student_id: int | None
    found: LogbookFound
    forms: tuple[str, ...] = FORMS


@class_logbook.get("/classes/<int:class_id>/logbook")
def of_class(class_id: int) -> str:
    """Show what comes near a colour, or what was put in last."""
    row = class_of_school(db(), me().school_id, class_id)
    students = students_of_class(db(), class_id)
    scope = _scope(class_id, students)
    paints = paints_of(db(), assignments_of_class(db(), class_id))
    page = ClassLogbookPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        students=students,
        student_id=scope.student_id,
        found=found(scope, paints, hue_words(db(), me().school_id).table),
    )
    return render_template("logbook/class.html", page=page)


@class_logbook.get("/classes/<int:class_id>/logbook.<form>")
def carry(class_id: int, form: str) -> Response:
    """Give the class's logbook, or a student's, as a file."""
    row = class_of_school(db(), me().school_id, class_id)
    students = students_of_class(db(), class_id)
    scope = _scope(class_id, students)
    names = {one.id: one.display_name for one in students}
    name = row.name if scope.student_id is None else names[scope.student_id]
    paints = paints_of(db(), assignments_of_class(db(), class_id))
    return given(form, all_entries(db(), scope), name, labels_of(paints))


def _scope(class_id: int, students: tuple[StudentName, ...]) -> LogScope:
    wanted = read_form(LogbookOfForm, request.args).student.data
    known = {one.id for one in students}
    return LogScope(
        school_id=me().school_id,
        class_id=class_id,
        student_id=wanted if wanted in known else None,
    )
