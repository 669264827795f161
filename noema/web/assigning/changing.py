"""Changing what was given: its day and name, terms of single students, withdrawing it."""

from collections.abc import Iterator
from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.datastructures import MultiDict
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import change_assignment as actions
from noema.core.errors import Refused
from noema.core.language import N_, gettext
from noema.core.progress.excuse import Excuse
from noema.store.assignments import AssignmentRow, assignment_of_school
from noema.store.classes import StudentName, students_of_class
from noema.store.terms import USUAL_TERMS, Terms, terms_of_assignment
from noema.web.frame.forms import Day, Exactly, OneOrNone, Said, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

changing = Blueprint("changing", __name__)


@dataclass(frozen=True, kw_only=True)
class TermsLine:
    """One student and what holds for them alone."""

    student: StudentName
    terms: Terms


@dataclass(frozen=True, kw_only=True)
class ChangePage:
    """An assignment that is changed."""

    frame: Frame
    row: AssignmentRow
    lines: tuple[TermsLine, ...]
    excuses: tuple[Excuse, ...]


class ChangeForm(Form):
    """What it is called, and the day it is due on."""

    title = Exactly()
    due_on = Day()


class TermsForm(Form):
    """What holds for one student."""

    due_on = Day()
    excuse = OneOrNone(Excuse, N_("That excuse isn’t on the list: choose it again."))


class WithdrawForm(Form):
    """Whether it is given after all."""

    gives = Said("give", name="do")


@changing.get("/assignments/<int:assignment_id>/change")
def of_assignment(assignment_id: int) -> str:
    """Show what may be changed of an assignment."""
    row = assignment_of_school(db(), me().school_id, assignment_id)
    terms = terms_of_assignment(db(), assignment_id)
    page = ChangePage(
        frame=frame(Stage.PLAN),
        row=row,
        lines=tuple(
            TermsLine(student=one, terms=terms.get(one.id, USUAL_TERMS))
            for one in students_of_class(db(), row.class_id)
        ),
        excuses=tuple(Excuse),
    )
    return render_template("assigning/change.html", page=page)


@changing.post("/assignments/<int:assignment_id>/change")
def change(assignment_id: int) -> Response:
    """Call it otherwise, or let it be due on another day."""
    given = read_form(ChangeForm)
    if given.due_on.data is None:
        raise Refused(gettext("Choose the day it is due on."))
    actions.change_assignment(
        db(), me().school_id, assignment_id, title=given.title.data, due_on=given.due_on.data
    )
    return redirect(url_for("changing.of_assignment", assignment_id=assignment_id), 303)


@changing.post("/assignments/<int:assignment_id>/terms")
def terms(assignment_id: int) -> Response:
    """Keep days and excuses of single students."""
    actions.set_terms(db(), me().school_id, assignment_id, dict(_sent_terms()))
    return redirect(url_for("changing.of_assignment", assignment_id=assignment_id), 303)


@changing.post("/assignments/<int:assignment_id>/withdraw")
def withdraw(assignment_id: int) -> Response:
    """Withdraw it, or give it after all."""
    gives = read_form(WithdrawForm).gives.data
    actions.withdraw(db(), me().school_id, assignment_id, gives=gives)
    return redirect(url_for("changing.of_assignment", assignment_id=assignment_id), 303)


def _sent_terms() -> Iterator[tuple[int, Terms]]:
    for name in request.form:
        number = name.removeprefix("due-")
        if number == name or not number.isdigit():
            continue
        sent = {"due_on": request.form[name], "excuse": request.form.get(f"excuse-{number}", "")}
        given = read_form(TermsForm, MultiDict(sent))
        yield int(number), Terms(due_on=given.due_on.data, excuse=given.excuse.data)
