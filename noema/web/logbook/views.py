"""A student's own logbook."""

from dataclasses import dataclass

from flask import Blueprint, Response, redirect, render_template, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.log_colours import add_note, bring_in, own_source
from noema.actions.practise import BenchPaints, paints_of
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.store.logbook import LogScope, all_entries, drop_note
from noema.store.paints import hue_words
from noema.store.student_work import classes_of_student, given_to_student
from noema.web.frame.forms import SentFile, TextLine, read_form
from noema.web.frame.once import do_once
from noema.web.frame.request import db, the_student
from noema.web.logbook.finding import LogbookFound, found, labels_of
from noema.web.logbook.giving import FORMS, given

logbook = Blueprint("logbook", __name__)

_MOST_FILE_BYTES = 4 * 2**20


class NoteForm(Form):
    """A colour one writes down."""

    title = TextLine(most=200)
    parts = TextLine(most=300)
    words = TextLine(most=400)


class LogFileForm(Form):
    """A logbook as CSV."""

    file = SentFile(_MOST_FILE_BYTES)


@dataclass(frozen=True, kw_only=True)
class OwnLogbookPage:
    """Everything a student mixed."""

    frame: None = None
    name: str
    found: LogbookFound
    tubes: tuple[str, ...]  # as parts name them
    forms: tuple[str, ...] = FORMS


@logbook.get("/me/logbook")
def of_mine() -> str:
    """Show what comes near a colour, or what was put in last."""
    me, paints = the_student(), _paints()
    page = OwnLogbookPage(
        name=me.display_name,
        found=found(_scope(), paints, hue_words(db(), me.school_id).table),
        tubes=tuple(tube.name for tube in paints.paints.tubes),
    )
    return render_template("logbook/own.html", page=page)


@logbook.post("/me/logbook/notes")
def note() -> AnyResponse:
    """Write a colour down."""
    do_once()
    form = read_form(NoteForm)
    add_note(
        db(),
        own_source(the_student(), _class_id()),
        title=form.title.data,
        parts=form.parts.data,
        words=form.words.data,
        lab=None,
        paints=_paints().bench.paints,
    )
    return redirect(url_for("logbook.of_mine"), 303)


@logbook.post("/me/logbook/notes/<int:entry_id>/remove")
def remove(entry_id: int) -> AnyResponse:
    """Take a note out."""
    drop_note(db(), the_student().id, entry_id)
    return redirect(url_for("logbook.of_mine"), 303)


@logbook.post("/me/logbook/in")
def take() -> AnyResponse:
    """Take in a logbook's CSV."""
    do_once()
    data = read_form(LogFileForm).file.bytes
    if len(data) > _MOST_FILE_BYTES:
        raise Refused(gettext("The file is too large for a logbook: at most 4 MB."))
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as wrong:
        raise Refused(gettext("The logbook isn't text: export it as CSV in UTF-8.")) from wrong
    bring_in(db(), own_source(the_student(), _class_id()), text)
    return redirect(url_for("logbook.of_mine"), 303)


@logbook.get("/me/logbook.<form>")
def carry(form: str) -> Response:
    """Give the logbook to carry along."""
    me = the_student()
    own = LogScope(school_id=me.school_id, student_id=me.id, for_painter=True)
    return given(form, all_entries(db(), own), me.display_name, labels_of(_paints()))


def _paints() -> BenchPaints:
    return paints_of(db(), given_to_student(db(), the_student().id))


def _class_id() -> int | None:
    classes = classes_of_student(db(), the_student().id)
    return classes[0].id if classes else None


def _scope() -> LogScope:
    me = the_student()
    return LogScope(
        school_id=me.school_id,
        class_id=_class_id(),
        student_id=me.id,
        with_shared=True,
        for_painter=True,
    )
