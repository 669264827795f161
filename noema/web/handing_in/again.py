"""Reading again: old photographs under today's reader, and what that changed."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.datastructures import MultiDict
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.read_again import read_again
from noema.actions.read_photograph import try_these_again
from noema.core.judging.tally import Tally
from noema.core.photo.reading import READER_VERSION
from noema.formats.judgement_json import tally_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school
from noema.store.rereadings import Readers, ReadTwice, read_twice, readers_of_school
from noema.web.drawings.strip import TinyStrip, make_tiny_strips
from noema.web.frame.forms import Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

again = Blueprint("again", __name__)


@dataclass(frozen=True, kw_only=True)
class Change:
    """One attempt that reads differently now."""

    row: ReadTwice
    before: str
    after: str
    strip: TinyStrip
    cells: int  # whose verdict is another


@dataclass(frozen=True, kw_only=True)
class AgainPage:
    """How far reading again is, and what it changed."""

    frame: Frame
    row: AssignmentRow | None  # of one assignment alone
    readers: Readers
    same: int  # read again without another verdict
    changes: tuple[Change, ...]


class OneExerciseForm(Form):
    """The assignment whose photographs alone are read again; none: all."""

    exercise = Whole()


@again.get("/photograph/again")
def page() -> str:
    """Show what reading again changed."""
    chosen = _chosen(request.args)
    row = None if chosen is None else assignment_of_school(db(), me().school_id, chosen)
    rows = read_twice(db(), me().school_id, chosen)
    pairs = [(tally_from_json(row.before), tally_from_json(row.after)) for row in rows]
    strips = make_tiny_strips([after for _, after in pairs])
    changes = tuple(
        Change(row=row, before=before.said, after=after.said, strip=strip, cells=cells)
        for row, (before, after), strip in zip(rows, pairs, strips, strict=True)
        if (cells := _other_verdicts(before, after))
    )
    shown = AgainPage(
        frame=frame(Stage.PHOTOGRAPH),
        row=row,
        readers=readers_of_school(db(), me().school_id, READER_VERSION, chosen),
        same=len(rows) - len(changes),
        changes=changes,
    )
    part = "HX-Request" in request.headers
    name = "again_changes" if part else "again"
    return render_template(f"handing_in/{name}.html", page=shown)


@again.post("/photograph/again")
def start() -> Response:
    """Queue everything that was read, or what was read of one assignment."""
    chosen = _chosen(request.form)
    read_again(db(), me().school_id, chosen)
    return redirect(url_for("again.page", exercise=chosen), 303)


@again.post("/photograph/tray/again")
def tray() -> Response:
    """Read again what Noema stumbled over."""
    try_these_again(db(), me().school_id)
    return redirect(f"{url_for('handing_in.photograph')}#tray", 303)


def _chosen(given: MultiDict[str, str]) -> int | None:
    return read_form(OneExerciseForm, given).exercise.data


def _other_verdicts(before: Tally, after: Tally) -> int:
    earlier = dict(zip(before.ids, before.verdicts, strict=True))
    return sum(
        earlier.get(name) is not verdict
        for name, verdict in zip(after.ids, after.verdicts, strict=True)
    )
