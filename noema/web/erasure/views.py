"""Students who move, merge or leave for good, archived classes, and how long pictures are kept."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.archive_class import archive_class, name_term
from noema.actions.erase_student import Erased, erase_student
from noema.actions.move_student import merge_students, move_student
from noema.actions.set_retention import WouldGo, keep_for, keep_originals, remove_old, would_go
from noema.store.classes import (
    ClassRow,
    StudentName,
    class_of_school,
    classes_found,
    classes_of_school,
    student_of_class,
    students_of_class,
)
from noema.store.erasure import leaving_count
from noema.store.people import keep_months_of, keeps_originals
from noema.web.frame.clock import here
from noema.web.frame.forms import Exactly, Said, TextLine, Whole, read_form
from noema.web.frame.leaf import MOST_CLASSES, LeafPlace, leaf_place, wanted_leaf
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me, outbox

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
class LeavingPage:
    """How many files are on their way out of the file store."""

    leaving: int


@dataclass(frozen=True, kw_only=True)
class ErasedPage(LeavingPage):
    """What went, and what was found afterwards."""

    frame: Frame
    erased: Erased
    class_id: int


@dataclass(frozen=True, kw_only=True)
class KeepingPage:
    """Archived classes and how long pictures are kept."""

    frame: Frame
    archived: tuple[ClassRow, ...]
    leaf: LeafPlace
    months: int | None
    looked: WouldGo | None
    before: datetime | None  # as looked at, at the school
    removed: int | None
    originals: bool  # pictures are kept as cameras wrote them
    left: LeavingPage


class MoveForm(Form):
    """The class a student moves to."""

    class_ = Whole(name="class")


class MergeForm(Form):
    """The other record of the same student."""

    other = Whole()


class EraseForm(Form):
    """The name, typed to make sure."""

    name_ = Exactly(name="name")


class ArchiveForm(Form):
    """Whether a class comes back."""

    back = Said("bring-back", name="do")


class TermForm(Form):
    """The term a class is in."""

    term = TextLine()


class OriginalsForm(Form):
    """Whether pictures are kept as cameras wrote them."""

    keeps = Said("all", name="keeps")


class KeepForm(Form):
    """For how many months pictures are kept; none: without end."""

    months = Whole()


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
    to_class = read_form(MoveForm).class_.data or 0
    move_student(db(), me().school_id, student_id, class_id, to_class)
    return redirect(url_for("progress.of_student", class_id=to_class, student_id=student_id), 303)


@erasure.post("/classes/<int:class_id>/students/<int:student_id>/merge")
def merge(class_id: int, student_id: int) -> Response:
    """Make another record of the class one with this."""
    row = class_of_school(db(), me().school_id, class_id)
    student_of_class(db(), row.id, student_id)
    other = read_form(MergeForm).other.data or 0
    merge_students(db(), me().school_id, student_id, other)
    return redirect(url_for("progress.of_student", class_id=class_id, student_id=student_id), 303)


@erasure.post("/classes/<int:class_id>/students/<int:student_id>/erase")
def erase(class_id: int, student_id: int) -> str:
    """Erase the student, and say what a search found afterwards."""
    class_of_school(db(), me().school_id, class_id)
    student_of_class(db(), class_id, student_id)
    typed = read_form(EraseForm).name_.data
    erased = erase_student(db(), outbox(), me().school_id, student_id, typed_name=typed)
    page = ErasedPage(
        frame=frame(Stage.PROGRESS), erased=erased, class_id=class_id, leaving=erased.files
    )
    return render_template("erasure/erased.html", page=page)


@erasure.get("/keeping/leaving")
def leaving() -> str:
    """Say how many files are on their way out; asked for until all have left."""
    page = LeavingPage(leaving=leaving_count(db(), me().school_id))
    return render_template("erasure/leaving.html", page=page)


@erasure.post("/classes/<int:class_id>/archive")
def archive(class_id: int) -> Response:
    """Archive a class, or bring it back."""
    back = read_form(ArchiveForm).back.data
    archive_class(db(), me().school_id, class_id, None if back else datetime.now(UTC))
    return redirect(url_for("erasure.keeping" if not back else "classes.plan"), 303)


@erasure.post("/classes/<int:class_id>/term")
def term(class_id: int) -> Response:
    """Say in which term a class is."""
    name_term(db(), me().school_id, class_id, read_form(TermForm).term.data)
    return redirect(url_for("class_settings.of_settings", class_id=class_id), 303)


@erasure.get("/keeping")
def keeping() -> str:
    """Show archived classes and how long pictures are kept; with months, what would go."""
    months = request.args.get("months", type=int)
    looked = None if months is None else would_go(db(), me().school_id, months, datetime.now(UTC))
    return render_template("erasure/keeping.html", page=_keeping(looked, None))


@erasure.post("/keeping")
def keep() -> Response:
    """Choose how long pictures are kept."""
    months = read_form(KeepForm).months.data
    keep_for(db(), me().school_id, months)
    return redirect(url_for("erasure.keeping", months=months), 303)


@erasure.post("/keeping/originals")
def originals() -> Response:
    """Choose whether all that cameras write beside pictures is kept."""
    keep_originals(db(), me().school_id, keeps=read_form(OriginalsForm).keeps.data)
    return redirect(url_for("erasure.keeping"), 303)


@erasure.post("/keeping/remove")
def remove() -> str:
    """Remove the pictures that are older than the school keeps them."""
    removed = remove_old(db(), me().school_id, datetime.now(UTC))
    return render_template("erasure/keeping.html", page=_keeping(None, removed))


def _keeping(looked: WouldGo | None, removed: int | None) -> KeepingPage:
    wanted = wanted_leaf(MOST_CLASSES)
    leaf = classes_found(db(), me().school_id, wanted, archived=True)
    return KeepingPage(
        frame=frame(Stage.PLAN),
        archived=leaf.shown,
        leaf=leaf_place(wanted, leaf),
        months=keep_months_of(db(), me().school_id),
        looked=looked,
        before=None if looked is None else here(looked.before),
        removed=removed,
        originals=keeps_originals(db(), me().school_id),
        left=LeavingPage(leaving=leaving_count(db(), me().school_id)),
    )
