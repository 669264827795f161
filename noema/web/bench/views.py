"""A student's own bench: what they may practise, and their goes."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, url_for
from numpy.random import default_rng
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.practise import (
    BenchPaints,
    begin,
    paints_from_json,
    paints_of,
    task_named,
    task_of_cell,
)
from noema.core.bench.task import BenchTask
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.formats.bench_task_json import task_from_json
from noema.store.bench import (
    GivenTask,
    KeptPractice,
    Practiser,
    practice_of_student,
    practices_of_student,
    tasks_of_classes,
)
from noema.store.paints import hue_words
from noema.store.student_work import classes_of_student, given_one_to_student, given_to_student
from noema.web.bench.chosen import GoLine, TaskChoices, choices_of, go_lines, own_cells
from noema.web.bench.page import Around
from noema.web.bench.working import Answer, ended, shown, worked
from noema.web.frame.forms import TextLine, read_form
from noema.web.frame.request import db, the_student
from noema.web.painting.attempts import attempts_seen

bench = Blueprint("bench", __name__)


class BeginForm(Form):
    """Which task: one of the set, one that was given, or a cell of an exercise."""

    task = TextLine(most=120)


@dataclass(frozen=True, kw_only=True)
class OwnBenchPage:
    """What a student may practise."""

    frame: None = None
    name: str
    choices: TaskChoices
    goes: tuple[GoLine, ...]


@bench.get("/me/bench")
def of_mine() -> str:
    """Show what may be practised, and what was."""
    me = the_student()
    classes = [one.id for one in classes_of_student(db(), me.id)]
    goes = practices_of_student(db(), me.id)
    paints = paints_of(db(), given_to_student(db(), me.id))
    table = hue_words(db(), me.school_id).table
    cells = own_cells(me.id, attempts_seen(me.id))
    page = OwnBenchPage(
        name=me.display_name,
        choices=choices_of(
            paints,
            table,
            tasks_of_classes(db(), classes),
            cells,
            goes,
        ),
        goes=go_lines(goes, lambda one: url_for("bench.of_one", practice_id=one)),
    )
    return render_template("bench/own.html", page=page)


@bench.post("/me/bench/begin")
def begin_one() -> Response:
    """Begin a go at a task."""
    me, name = the_student(), read_form(BeginForm).task.data
    classes = classes_of_student(db(), me.id)
    if not classes:
        raise NotFound(gettext("You are in no class now: ask your teacher."))
    paints, task, class_id, task_id = _chosen(name, [one.id for one in classes])
    who = Practiser(school_id=me.school_id, class_id=class_id, student_id=me.id)
    number = begin(db(), who, paints, task, task_id)
    return redirect(url_for("bench.of_one", practice_id=number), 303)


@bench.get("/me/bench/<int:practice_id>")
def of_one(practice_id: int) -> str:
    """Show a go."""
    kept = practice_of_student(db(), the_student().id, practice_id)
    return shown(kept, _around(kept), the_student().school_id)


@bench.post("/me/bench/<int:practice_id>/do")
def do_one(practice_id: int) -> Answer:
    """Do an act, or answer."""
    me = the_student()
    kept = practice_of_student(db(), me.id, practice_id)
    return worked(
        practice_id,
        lambda: practice_of_student(db(), me.id, practice_id),
        _around(kept),
        me.school_id,
    )


@bench.post("/me/bench/<int:practice_id>/end")
def end_one(practice_id: int) -> Answer:
    """End a go."""
    kept = practice_of_student(db(), the_student().id, practice_id)
    return ended(kept, _around(kept), the_student().school_id)


def _chosen(name: str, class_ids: list[int]) -> tuple[BenchPaints, BenchTask, int, int | None]:
    """Find the task that a button names: given:12, cell:34:c5, or one of the set."""
    me = the_student()
    given = given_to_student(db(), me.id)
    if name.startswith("given:"):
        one = _given(name, class_ids)
        return paints_from_json(one.paints), task_from_json(one.task), one.class_id, one.id
    if name.startswith("cell:"):
        _, number, cell = (name.split(":", 2) + ["", ""])[:3]
        if not number.isdigit() or len(number) > 9:
            raise Refused(gettext("Choose one of the tasks shown."))
        row = given_one_to_student(db(), me.id, int(number))
        return paints_of(db(), [row]), task_of_cell(db(), row, cell), row.class_id, None
    paints = paints_of(db(), given)
    table = hue_words(db(), me.school_id).table
    task = task_named(name, paints.bench.paints, table, default_rng())
    return paints, task, class_ids[0], None


def _given(name: str, class_ids: list[int]) -> GivenTask:
    number = name.removeprefix("given:")
    for task in tasks_of_classes(db(), class_ids):
        if str(task.id) == number:
            return task
    raise NotFound(gettext("There is no such task of yours."))


def _around(kept: KeptPractice) -> Around:
    classes = {one.id: one for one in classes_of_student(db(), the_student().id)}
    of_class = classes.get(kept.class_id)
    return Around(
        frame=None,
        name=the_student().display_name,
        here=url_for("bench.of_one", practice_id=kept.id),
        back=url_for("bench.of_mine"),
        names_colours=of_class is not None and of_class.names_colours,
    )
