"""An assignment's key: what its cells are held against, by its paints or a teacher's sheet."""

from dataclasses import dataclass

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions import approve_key as approving
from noema.actions.hold_against import Holding, hold_against
from noema.actions.learn_tubes import TubesKnown, follow_tubes, tubes_known
from noema.actions.print_sheets import print_own_sheet
from noema.actions.work_out_exercise import exercise_of
from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.naming import cell_names
from noema.core.language import N_, gettext
from noema.core.pigments.shelf import SETS
from noema.core.sheet.key_sheet import draw_key_sheets
from noema.core.words.known_tubes import tubes_learned
from noema.formats.reading_json import reading_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school
from noema.store.paints import hue_words, own_sets, paint_set
from noema.store.readings import teachers_readings
from noema.store.revisions import Progress, progress_of
from noema.web.drawings.strip import PlainJoint, plain_joints
from noema.web.exercises.fields import Select, select
from noema.web.exercises.key_words import KEY_WORDS
from noema.web.exercises.showing import Shown, show
from noema.web.frame.forms import OneOf, TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.printing.sizes import KEY_SIZES, drawings_pdf

keys = Blueprint("keys", __name__)


@dataclass(frozen=True, kw_only=True)
class OwnSheet:
    """A photograph of the teacher's own sheet."""

    photograph_id: int
    joints: tuple[PlainJoint, ...]
    is_key: bool


@dataclass(frozen=True, kw_only=True)
class TubeSwatch:
    """A tube as it is described beside what the class's sheets show it to be."""

    words: str
    described: str  # fills
    learned: str


@dataclass(frozen=True, kw_only=True)
class KeyPage:
    """What an assignment is held against."""

    frame: Frame
    row: AssignmentRow
    shown: Shown
    sizes: tuple[tuple[str, str], ...]  # of the key sheet
    held: str  # what against, in words
    meanwhile: str  # what against until a sheet of the teacher's is the key; empty: it is
    tolerances: str  # the tolerances in words
    by_teacher: bool
    own: tuple[OwnSheet, ...]
    fields: tuple[Select, ...]  # key, level and, where it is painted from one, set
    tubes: tuple[TubeSwatch, ...]  # that the class's sheets show to be others than described
    learned: bool  # whether anything is known of its tubes
    follows: bool  # whether the key follows it
    progress: Progress  # of judging by what it is held against now
    changed: bool  # just now


@dataclass(frozen=True, kw_only=True)
class JudgingPage:
    """How far judging has come."""

    row: AssignmentRow
    progress: Progress
    changed: bool


_CHOOSE = N_("Choose a key and a level.")


class HoldingForm(Form):
    """What an assignment is held against, at which level, with which set."""

    key = OneOf(Key, _CHOOSE)
    level = OneOf(Level, _CHOOSE)
    set = TextLine()


class TubesForm(Form):
    """Whether the key follows what was learned of the tubes."""

    follow = TextLine()


class ApprovalForm(Form):
    """The photograph of the teacher's own sheet."""

    photograph = Whole()


@keys.get("/assignments/<int:assignment_id>/key")
def key(assignment_id: int) -> str:
    """Show what is expected, and the teacher's own sheets where they are the key."""
    row = assignment_of_school(db(), me().school_id, assignment_id)
    exercise = exercise_of(db(), row)
    table = hue_words(db(), me().school_id).table
    url = url_for("keys.key_sheet", assignment_id=row.id)
    names = cell_names(exercise.asked)
    names |= {cell.id: cell.label for cell in exercise.asked.tubes}
    expected = {cell.id: cell.lab for cell in exercise.asked.on_paper}
    own = []
    for one in teachers_readings(db(), row.id):
        cells = reading_from_json(one.body).cells
        joints = plain_joints([(names[c.id], c.lab, expected[c.id]) for c in cells])
        is_key = one.photograph_id == exercise.key_photograph_id
        own.append(OwnSheet(photograph_id=one.photograph_id, joints=joints, is_key=is_key))
    tubes = tubes_known(db(), row.id)
    page = KeyPage(
        frame=frame(Stage.PLAN),
        row=row,
        sizes=KEY_SIZES,
        shown=show(exercise.expected, exercise.paints, row.medium, row.paper, table, url),
        held=gettext(KEY_WORDS[row.key]),
        meanwhile="" if exercise.key is row.key else gettext(KEY_WORDS[exercise.key]),
        tolerances=row.tolerance.said,
        by_teacher=row.key is Key.TEACHER,
        own=tuple(own),
        fields=_fields(row, exercise.paints is not None),
        tubes=_swatches(tubes, table),
        learned=tubes is not None,
        follows=tubes is not None and tubes.followed,
        progress=progress_of(db(), row.id),
        changed="changed" in request.args,
    )
    return render_template("keys/key.html", page=page)


@keys.get("/assignments/<int:assignment_id>/key/progress")
def progress(assignment_id: int) -> str:
    """Say how many sheets are judged by what holds now; asked for until all are."""
    row = assignment_of_school(db(), me().school_id, assignment_id)
    page = JudgingPage(row=row, progress=progress_of(db(), row.id), changed=True)
    return render_template("keys/progress.html", page=page)


@keys.post("/assignments/<int:assignment_id>/tubes")
def tubes(assignment_id: int) -> AnyResponse:
    """Let the class's keys follow its tubes, or not; the worker judges all work anew."""
    follow = bool(read_form(TubesForm).follow.data)
    follow_tubes(db(), me().school_id, assignment_id, me().id, follow=follow)
    return redirect(url_for("keys.key", assignment_id=assignment_id, changed=1), 303)


def _swatches(tubes: TubesKnown | None, table: HueTable) -> tuple[TubeSwatch, ...]:
    if tubes is None:
        return ()
    return tuple(
        TubeSwatch(words=one.words, described=described, learned=learned)
        for one in tubes_learned(tubes.known, tubes.paints, table)
        for described, learned in [lab_to_hex([one.described, one.learned])]
    )


def _fields(row: AssignmentRow, has_paints: bool) -> tuple[Select, ...]:
    keys = ((key.value, KEY_WORDS[key]) for key in Key if has_paints or key is not Key.PAINTS)
    levels = ((level.value, level.value) for level in Level)
    always = (
        select("key", gettext("Hold it against"), keys, row.key.value),
        select("level", gettext("for"), levels, row.level.value),
    )
    if not has_paints:
        return always
    own = ((one.name, one.label) for one in own_sets(db(), me().school_id))
    built_in = ((name, one.label) for name, one in SETS.items())
    as_they_were = ("", gettext("its paints as they were"))
    return (*always, select("set", gettext("with"), (as_they_were, *own, *built_in), ""))


@keys.get("/assignments/<int:assignment_id>/key.pdf")
def key_sheet(assignment_id: int) -> Response:
    """Give the key sheet for the wall."""
    row = assignment_of_school(db(), me().school_id, assignment_id)
    drawings = draw_key_sheets(exercise_of(db(), row).expected, row.paper, row.class_name)
    return drawings_pdf(drawings, drawings[0].title)


@keys.post("/assignments/<int:assignment_id>/key/sheet")
def own_sheet(assignment_id: int) -> AnyResponse:
    """Make the teacher's own sheet, and give its PDF."""
    sheet = print_own_sheet(db(), me().school_id, assignment_id)
    url = url_for("printing.pdf", assignment_id=assignment_id, sheet=sheet.id)
    return redirect(url, 303)


@keys.post("/assignments/<int:assignment_id>/held")
def hold(assignment_id: int) -> AnyResponse:
    """Hold an assignment against another key, at another level; the worker judges all work anew."""
    given = read_form(HoldingForm)
    ref = given.set.data or None
    paints = None if ref is None else paint_set(db(), me().school_id, ref)
    wanted = Holding(key=given.key.data, level=given.level.data, paints=paints, set_ref=ref)
    hold_against(db(), me().school_id, assignment_id, me().id, wanted)
    return redirect(url_for("keys.key", assignment_id=assignment_id, changed=1), 303)


@keys.post("/assignments/<int:assignment_id>/key")
def approve(assignment_id: int) -> AnyResponse:
    """Take a photographed sheet of the teacher's as key; all work is judged anew."""
    photograph_id = read_form(ApprovalForm).photograph.data or 0
    approving.approve_key(db(), me().school_id, assignment_id, me().id, photograph_id)
    return redirect(url_for("keys.key", assignment_id=assignment_id, changed=1), 303)
