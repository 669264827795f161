"""Students who move, merge or leave for good, archived classes, and how long pictures are kept."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from noema.actions.archive_class import archive_class, name_term
from noema.actions.erase_student import Erased, erase_student
from noema.actions.move_student import merge_students, move_student
from noema.actions.set_retention import WouldGo, keep_for, remove_old, would_go
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.store.classes import (
    ClassRow,
    StudentName,
    class_of_school,
    classes_of_school,
    student_of_class,
    students_of_class,
)
from noema.store.people import keep_months_of
from noema.web.frame.clock import here
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, files, me, pieces

erasure = Blueprint("erasure", __name__)


@dataclass(frozen=True, kw_only=True)
class RecordPage:
    """What can become of one student's record."""

    frame: Frame
    row: ClassRow
    student: StudentName
    classes: tuple[ClassRow, ...]  # others
    others: tuple[StudentName, ...]  # of the class


@dataclass(frozen=True, kw_only=True)
class ErasedPage:
    """What went, and what was found afterwards."""

    frame: Frame
    erased: Erased
    class_id: int


@dataclass(frozen=True, kw_only=True)
class KeepingPage:
    """Archived classes and how long pictures are kept."""

    frame: Frame
    archived: tuple[ClassRow, ...]
    months: int | None
    looked: WouldGo | None
    before: datetime | None  # as looked at, at the school
    removed: int | None


@erasure.get("/classes/<int:class_id>/students/<int:student_id>/record")
def of_student(class_id: int, student_id: int) -> str:
    """Show what can become of a student's record."""
    row = class_of_school(db(), me().school_id, class_id)
    page = RecordPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        student=student_of_class(db(), class_id, student_id),
        classes=tuple(o for o in classes_of_school(db(), me().school_id) if o.id != class_id),
        others=tuple(o for o in students_of_class(db(), class_id) if o.id != student_id),
    )
    return render_template("erasure/student.html", page=page)


@erasure.post("/classes/<int:class_id>/students/<int:student_id>/move")
def move(class_id: int, student_id: int) -> Response:
    """Put the student into another class."""
    to_class = request.form.get("class", 0, type=int)
    move_student(db(), me().school_id, student_id, class_id, to_class)
    return redirect(url_for("progress.of_student", class_id=to_class, student_id=student_id), 303)


@erasure.post("/classes/<int:class_id>/students/<int:student_id>/merge")
def merge(class_id: int, student_id: int) -> Response:
    """Make another record of the class one with this."""
    row = class_of_school(db(), me().school_id, class_id)
    student_of_class(db(), row.id, student_id)
    merge_students(db(), me().school_id, student_id, request.form.get("other", 0, type=int))
    return redirect(url_for("progress.of_student", class_id=class_id, student_id=student_id), 303)


@erasure.post("/classes/<int:class_id>/students/<int:student_id>/erase")
def erase(class_id: int, student_id: int) -> str:
    """Erase the student, and say what a search found afterwards."""
    class_of_school(db(), me().school_id, class_id)
    student_of_class(db(), class_id, student_id)
    typed = request.form.get("name", "")
    erased = erase_student(db(), files(), pieces(), me().school_id, student_id, typed_name=typed)
    page = ErasedPage(frame=frame(Stage.PROGRESS), erased=erased, class_id=class_id)
    return render_template("erasure/erased.html", page=page)


@erasure.post("/classes/<int:class_id>/archive")
def archive(class_id: int) -> Response:
    """Archive a class, or bring it back."""
    back = request.form.get("do") == "bring-back"
    archive_class(db(), me().school_id, class_id, None if back else datetime.now(UTC))
    return redirect(url_for("erasure.keeping" if not back else "classes.plan"), 303)


@erasure.post("/classes/<int:class_id>/term")
def term(class_id: int) -> Response:
    """Say in which term a class is."""
    name_term(db(), me().school_id, class_id, request.form.get("term", ""))
    return redirect(url_for("classes.of_class", class_id=class_id), 303)


@erasure.get("/keeping")
def keeping() -> str:
    """Show archived classes and how long pictures are kept; with months, what would go."""
    months = request.args.get("months", type=int)
    looked = None if months is None else would_go(db(), me().school_id, months, datetime.now(UTC))
    return render_template("erasure/keeping.html", page=_keeping(looked, None))


@erasure.post("/keeping")
def keep() -> Response:
    """Choose how long pictures are kept."""
    given = request.form.get("months", "")
    if given and not given.isdigit():
        raise Refused(
            gettext("Give the months as a whole number, or none to keep pictures without end.")
        )
    keep_for(db(), me().school_id, int(given) if given else None)
    return redirect(url_for("erasure.keeping", months=given or None), 303)


@erasure.post("/keeping/remove")
def remove() -> str:
    """Remove the pictures that are older than the school keeps them."""
    removed = remove_old(db(), files(), me().school_id, datetime.now(UTC))
    return render_template("erasure/keeping.html", page=_keeping(None, removed))


def _keeping(looked: WouldGo | None, removed: int | None) -> KeepingPage:
    return KeepingPage(
        frame=frame(Stage.PLAN),
        archived=classes_of_school(db(), me().school_id, archived=True),
        months=keep_months_of(db(), me().school_id),
        looked=looked,
        before=None if looked is None else here(looked.before),
        removed=removed,
    )
