"""Papers for parents' evening: a student's report, their colour notebook, the class's report."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from io import BytesIO

from flask import Blueprint, Response, redirect, render_template, send_file, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.say_to import sentence_of
from noema.actions.work_out_exercise import exercise_of
from noema.core.exercises.naming import cell_names
from noema.core.exercises.piles import say_mixes
from noema.core.language import gettext
from noema.core.progress.skill_courses import SkillCourse
from noema.devices.mail import Enclosure, Letter, Sent
from noema.formats.days import day
from noema.formats.judgement_json import tally_from_json
from noema.formats.report_pdf import (
    ClassPaper,
    PaperAttempt,
    PaperCourse,
    PaperJoint,
    StudentPaper,
    class_report,
    notebook,
    student_report,
)
from noema.store.assignments import AssignmentRow, assignments_of_school
from noema.store.classes import ClassRow, StudentName, class_of_school, student_of_class
from noema.store.reviews import AttemptRow
from noema.store.student_work import attempts_of_student
from noema.web.frame.clock import here
from noema.web.frame.forms import TextLine, read_form
from noema.web.frame.once import do_once
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me, outbox
from noema.web.frame.weeks import week_words
from noema.web.progress.shown_courses import shown_courses
from noema.web.progress.skills_page import skills_page

reports = Blueprint("reports", __name__)


@dataclass(frozen=True, kw_only=True)
class OutboxPage:
    """What was sent by mail."""

    frame: Frame
    letters: tuple[Sent, ...]
    sends: bool  # letters really go out


class LetterForm(Form):
    """Whom a report is sent to."""

    to = TextLine()


@reports.get("/progress/classes/<int:class_id>/students/<int:student_id>/report.pdf")
def of_student(class_id: int, student_id: int) -> Response:
    """Give a student's report."""
    row = class_of_school(db(), me().school_id, class_id)
    student = student_of_class(db(), class_id, student_id)
    return _pdf(_report(row, student), f"{student.display_name} report.pdf")


@reports.post("/progress/classes/<int:class_id>/students/<int:student_id>/report/mail")
def mail(class_id: int, student_id: int) -> AnyResponse:
    """Send a student's report to an address."""
    row = class_of_school(db(), me().school_id, class_id)
    student = student_of_class(db(), class_id, student_id)
    do_once()
    paper = Enclosure(name="report.pdf", mimetype="application/pdf", data=_report(row, student))
    outbox().send(
        Letter(
            sender=me().email,
            to=read_form(LetterForm).to.data,
            subject=f"{student.display_name}: {row.name}",
            words=gettext(
                "Here is the report of %(student)s in %(class_name)s.\n\n%(teacher)s, %(school)s\n",
                student=student.display_name,
                class_name=row.name,
                teacher=me().display_name,
                school=me().school_name,
            ),
            written_at=datetime.now(UTC),
            enclosures=(paper,),
        )
    )
    return redirect(url_for("reports.sent"), 303)


@reports.get("/outbox")
def sent() -> str:
    """Show what this teacher sent by mail."""
    page = OutboxPage(
        frame=frame(Stage.PROGRESS), letters=outbox().sent_by(me().email), sends=outbox().sends
    )
    return render_template("reports/outbox.html", page=page)


@reports.get("/progress/classes/<int:class_id>/students/<int:student_id>/notebook.pdf")
def notebook_of(class_id: int, student_id: int) -> Response:
    """Give a student's colour notebook: the newest chart of every exercise, with its mixes."""
    row = class_of_school(db(), me().school_id, class_id)
    student = student_of_class(db(), class_id, student_id)
    newest = {one.assignment_id: one for one in attempts_of_student(db(), student.id)}
    given = assignments_of_school(db(), me().school_id, newest)
    charts = [_chart(one, given[number]) for number, one in newest.items()]
    data = notebook(student.display_name, row.name, charts)
    return _pdf(data, gettext("%(name)s, colour notebook", name=student.display_name) + ".pdf")


@reports.get("/progress/classes/<int:class_id>/report.pdf")
def of_class(class_id: int) -> Response:
    """Give a class's report."""
    page = skills_page(class_id)
    lines = []
    for one in page.students:
        stuck = gettext("Stuck on %(stuck)s.", stuck=one.stuck) if one.stuck else ""
        owes = gettext("Owes %(owing)s.", owing="; ".join(one.owing)) if one.owing else ""
        overall = None if one.overall is None else _course(one.overall)
        words = overall.words if overall else gettext("Nothing read yet")
        coming = gettext("Next: %(next)s, %(reason)s.", next=one.next, reason=one.reason)
        said = " ".join(part for part in (f"{words}.", stuck, coming, owes) if part)
        lines.append((one.row.display_name, overall, said))
    paper = ClassPaper(
        name=page.row.name,
        where=f"{me().school_name} · {page.week}",
        says=page.says,
        students=tuple(lines),
    )
    return _pdf(class_report(paper), f"{page.row.name} report.pdf")


def _report(row: ClassRow, student: StudentName) -> bytes:
    attempts = attempts_of_student(db(), student.id)
    given = assignments_of_school(db(), me().school_id, {one.assignment_id for one in attempts})
    shown = shown_courses(me().school_id, attempts, given, row.unit.weeks)
    newest = {one.assignment_id: one for one in attempts}
    return student_report(
        StudentPaper(
            name=student.display_name,
            where=f"{me().school_name} · {row.name} · {week_words(row)}",
            says=tuple(words for words in (shown.redone, shown.eye, shown.next) if words),
            courses=tuple(_course(one) for one in shown.courses if one.is_told),
            attempts=tuple(_attempt(one, given[n]) for n, one in newest.items()),
        )
    )


def _course(found: SkillCourse) -> PaperCourse:
    words = found.words[:1].upper() + found.words[1:]
    return PaperCourse(words=words, points=found.points, course=found.course)


def _attempt(one: AttemptRow, row: AssignmentRow) -> PaperAttempt:
    return PaperAttempt(
        title=row.title,
        when=f"{_when(one, row)} · {gettext(one.review.state.value)}",
        words=one.review.sentence or sentence_of(one),
        joints=_joints(one, {}, {}),
    )


def _when(one: AttemptRow, row: AssignmentRow) -> str:
    return f"{gettext(row.medium.value)} · {day(here(one.received_at))}"


def _chart(one: AttemptRow, row: AssignmentRow) -> PaperAttempt:
    asked = exercise_of(db(), row).asked
    mixes = say_mixes(asked)
    return PaperAttempt(
        title=row.title,
        when=_when(one, row),
        words="",
        joints=_joints(one, cell_names(asked), mixes),
    )


def _joints(
    one: AttemptRow, names: dict[str, str], mixes: dict[str, str]
) -> tuple[PaperJoint, ...]:
    tally = tally_from_json(one.tally)
    cells: Sequence[str] = tally.ids
    return tuple(
        PaperJoint(
            label=names.get(cell, cell), painted=painted, expected=expected, mix=mixes.get(cell, "")
        )
        for cell, painted, expected in zip(
            cells, tally.painted_labs, tally.expected_labs, strict=True
        )
    )


def _pdf(data: bytes, name: str) -> Response:
    return send_file(BytesIO(data), mimetype="application/pdf", download_name=name)
