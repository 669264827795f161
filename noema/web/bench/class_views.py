"""A class's bench: its teacher shows on it, gives tasks and sees who came how near."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import partial
from io import BytesIO
from random import SystemRandom

from flask import Blueprint, redirect, render_template, send_file, url_for
from numpy.random import default_rng
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.eye_on_paper import print_eye_paper
from noema.actions.practise import (
    begin,
    paints_from_json,
    paints_of,
    paints_to_json,
    practice_from,
    task_named,
)
from noema.core.bench.making import match_of
from noema.core.bench.seen import colours_of
from noema.core.bench.task import THERE
from noema.core.colour.names import HueTable
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.formats.bench_task_json import task_from_json, task_to_json
from noema.store.assignments import assignments_of_class
from noema.store.bench import (
    GivenTask,
    KeptPractice,
    Practiser,
    best_by_task,
    give_task,
    practice_of_class,
    practices_of_teacher,
    take_task_back,
    task_of_class,
    tasks_of_classes,
)
from noema.store.classes import ClassRow, class_of_school, set_names_colours, students_of_class
from noema.store.paints import hue_words
from noema.store.printers import printers_of_school
from noema.web.bench.chosen import GoLine, TaskChoices, choices_of, go_lines, title_of
from noema.web.bench.page import Around
from noema.web.bench.working import Answer, ended, shown, worked
from noema.web.frame.forms import Said, TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

class_bench = Blueprint("class_bench", __name__)


class TaskForm(Form):
    """Which task of the set is begun or given, what it is called, until when."""

    task = TextLine(most=120)
    title = TextLine(most=80)
    due = TextLine(most=10)


class PaperOfForm(Form):
    """Which printer a page is made for."""

    printer = Whole()


class NamesForm(Form):
    """Whether colours are named beside them."""

    on = Said("on")


@dataclass(frozen=True, kw_only=True)
class ClassTask:
    """A task that was given, and how far the class came."""

    id: int
    title: str
    due: date | None
    there: tuple[str, ...]  # students who came there
    near: tuple[str, ...]  # who did it and aren't there yet
    waiting: int  # who haven't done it


@dataclass(frozen=True, kw_only=True)
class ClassBenchPage:
    """A class's bench."""

    frame: Frame
    row: ClassRow
    choices: TaskChoices
    tasks: tuple[ClassTask, ...]
    goes: tuple[GoLine, ...]
    printers: tuple[tuple[int, str], ...]  # that are calibrated


@class_bench.get("/classes/<int:class_id>/bench")
def of_class(class_id: int) -> str:
    """Show what may be shown or given, and what was."""
    row = class_of_school(db(), me().school_id, class_id)
    given = tasks_of_classes(db(), [class_id])
    goes = practices_of_teacher(db(), class_id, me().id)
    paints = paints_of(db(), assignments_of_class(db(), class_id))
    page = ClassBenchPage(
        frame=frame(Stage.PLAN),
        row=row,
        choices=choices_of(paints, _table(), given, (), goes),
        tasks=_class_tasks(class_id, given),
        goes=go_lines(goes, partial(_address, class_id)),
        printers=tuple(
            (one.id, one.name) for one in printers_of_school(db(), me().school_id) if one.looks
        ),
    )
    return render_template("bench/class.html", page=page)


@class_bench.post("/classes/<int:class_id>/bench/begin")
def begin_one(class_id: int) -> Response:
    """Begin a go of the teacher's own."""
    class_of_school(db(), me().school_id, class_id)
    name = read_form(TaskForm).task.data
    who = Practiser(school_id=me().school_id, class_id=class_id, teacher_id=me().id)
    paints = paints_of(db(), assignments_of_class(db(), class_id))
    task_id = None
    if name.startswith("given:"):
        given = task_of_class(db(), class_id, _number(name.removeprefix("given:")))
        paints, task, task_id = paints_from_json(given.paints), task_from_json(given.task), given.id
    else:
        task = task_named(name, paints.bench.paints, _table(), default_rng())
    number = begin(db(), who, paints, task, task_id)
    return redirect(_address(class_id, number), 303)


@class_bench.get("/classes/<int:class_id>/bench/<int:practice_id>")
def of_one(class_id: int, practice_id: int) -> str:
    """Show a go of the teacher's, or of somebody in the class."""
    kept = _kept(class_id, practice_id)
    return shown(kept, _around(kept), me().school_id)


@class_bench.post("/classes/<int:class_id>/bench/<int:practice_id>/do")
def do_one(class_id: int, practice_id: int) -> Answer:
    """Do an act, or answer."""
    kept = _own(class_id, practice_id)
    return worked(practice_id, lambda: _own(class_id, practice_id), _around(kept), me().school_id)


@class_bench.post("/classes/<int:class_id>/bench/<int:practice_id>/end")
def end_one(class_id: int, practice_id: int) -> Answer:
    """End a go."""
    kept = _own(class_id, practice_id)
    return ended(kept, _around(kept), me().school_id)


@class_bench.post("/classes/<int:class_id>/bench/tasks")
def give(class_id: int) -> Response:
    """Give a task of the set to the class."""
    class_of_school(db(), me().school_id, class_id)
    form = read_form(TaskForm)
    paints = paints_of(db(), assignments_of_class(db(), class_id))
    task = task_named(form.task.data, paints.bench.paints, _table(), default_rng())
    if not task.goals:
        raise Refused(gettext("Choose a task that asks for something."))
    new = GivenTask(
        id=0,
        class_id=class_id,
        title=form.title.data,
        task=task_to_json(task),
        paints=paints_to_json(paints),
        due_on=_day(form.due.data),
    )
    give_task(db(), me().school_id, new)
    return redirect(url_for("class_bench.of_class", class_id=class_id), 303)


@class_bench.post("/classes/<int:class_id>/bench/<int:practice_id>/give")
def give_pile(class_id: int, practice_id: int) -> Response:
    """Give a pile that the teacher mixed to the class, to be matched."""
    form, kept = read_form(TaskForm), _own(class_id, practice_id)
    practice = practice_from(kept)
    colour = colours_of(practice.palette, practice.bench.paints).get(form.task.data)
    if colour is None or not form.title.data:
        raise Refused(gettext("Mix a pile and say what it is called, then give it."))
    task = match_of(practice.bench.paints, colour.lab, [form.title.data])
    new = GivenTask(
        id=0,
        class_id=class_id,
        title=form.title.data,
        task=task_to_json(task),
        paints=kept.paints,
        due_on=_day(form.due.data),
    )
    give_task(db(), me().school_id, new)
    return redirect(url_for("class_bench.of_class", class_id=class_id), 303)


@class_bench.post("/classes/<int:class_id>/bench/eye-paper")
def eye_paper(class_id: int) -> Response:
    """Give a page of greys for the eye, made for one printer."""
    class_of_school(db(), me().school_id, class_id)
    printer = read_form(PaperOfForm).printer.data
    if printer is None:
        raise Refused(gettext("Calibrate a printer first: then greys can be printed truly."))
    data = print_eye_paper(db(), me().school_id, printer, default_rng(), SystemRandom())
    return send_file(BytesIO(data), mimetype="application/pdf", download_name="light-and-dark.pdf")


@class_bench.post("/classes/<int:class_id>/bench/names")
def name_colours(class_id: int) -> Response:
    """Say whether colours are named beside them."""
    class_of_school(db(), me().school_id, class_id)
    set_names_colours(db(), class_id, read_form(NamesForm).on.data)
    return redirect(url_for("class_bench.of_class", class_id=class_id), 303)


@class_bench.post("/classes/<int:class_id>/bench/tasks/<int:task_id>/take-back")
def take_back(class_id: int, task_id: int) -> Response:
    """Take a task back."""
    class_of_school(db(), me().school_id, class_id)
    take_task_back(db(), class_id, task_id)
    return redirect(url_for("class_bench.of_class", class_id=class_id), 303)


def _class_tasks(class_id: int, given: Sequence[GivenTask]) -> tuple[ClassTask, ...]:
    students, best = students_of_class(db(), class_id), best_by_task(db(), class_id)
    found = []
    for task in given:
        came = {s.display_name: best[task.id, s.id] for s in students if (task.id, s.id) in best}
        found.append(
            ClassTask(
                id=task.id,
                title=title_of(task),
                due=task.due_on,
                there=tuple(name for name, away in came.items() if away <= THERE),
                near=tuple(name for name, away in came.items() if away > THERE),
                waiting=len(students) - len(came),
            )
        )
    return tuple(found)


def _kept(class_id: int, practice_id: int) -> KeptPractice:
    class_of_school(db(), me().school_id, class_id)
    return practice_of_class(db(), class_id, practice_id)


def _own(class_id: int, practice_id: int) -> KeptPractice:
    kept = _kept(class_id, practice_id)
    if kept.teacher_id != me().id:
        raise NotFound(gettext("There is no such practice of yours."))
    return kept


def _around(kept: KeptPractice) -> Around:
    return Around(
        frame=frame(Stage.PLAN),
        name="",
        here=_address(kept.class_id, kept.id),
        back=url_for("class_bench.of_class", class_id=kept.class_id),
        may_work=kept.teacher_id == me().id,
    )


def _address(class_id: int, practice_id: int) -> str:
    return url_for("class_bench.of_one", class_id=class_id, practice_id=practice_id)


def _table() -> HueTable:
    return hue_words(db(), me().school_id).table


def _number(words: str) -> int:
    if not words.isdigit() or len(words) > 9:
        raise NotFound(gettext("There is no such task in this class."))
    return int(words)


def _day(words: str) -> date | None:
    try:
        return date.fromisoformat(words) if words else None
    except ValueError as wrong:
        raise Refused(gettext("Choose a day, or leave it open.")) from wrong
