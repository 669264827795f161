"""Records in and out: rosters, grade books, measurements, due dates, keys, archives."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from io import BytesIO
from random import SystemRandom

from flask import Blueprint, Response, redirect, render_template, request, send_file, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.archive_school import Packed, archive_school
from noema.actions.assign_exercise import assign_exercise
from noema.actions.give_package import give_package, sourced_numbers
from noema.actions.keep_paint_set import NewSet, keep_paint_set
from noema.actions.take_package import Changes, changes_of, take_package
from noema.actions.work_out_exercise import Chosen, exercise_of
from noema.core.errors import BadRoster, Refused
from noema.core.exercises.catalogue import kind_of
from noema.core.language import gettext, ngettext
from noema.formats.class_measurements import (
    measurements_cgats,
    measurements_csv,
    measurements_json,
)
from noema.formats.due_dates import Due, calendar_of
from noema.formats.grade_book import grade_book_csv, results_package
from noema.formats.key_json import MOST_BYTES as MOST_KEY_BYTES
from noema.formats.key_json import KeyFile, key_from_json, key_to_json
from noema.formats.oneroster import read_package
from noema.formats.options_json import options_from_json
from noema.formats.set_json import set_from_json
from noema.store.assignments import assignment_of_school, assignments_of_class
from noema.store.classes import ClassRow, class_of_school
from noema.store.paints import hue_words
from noema.web.frame.clock import today
from noema.web.frame.forms import Said, SentFile, Whole, read_form
from noema.web.frame.once import do_once
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, files, me, sessions
from noema.web.records.grid import grid_page
from noema.web.records.papers import grade_book_of, measured_of

records = Blueprint("records", __name__)

_MOST_PACKAGE_BYTES = 16 * 2**20


@dataclass(frozen=True, kw_only=True)
class ClassRecordsPage:
    """What can be carried away of a class."""

    frame: Frame
    row: ClassRow


@dataclass(frozen=True, kw_only=True)
class RostersPage:
    """Rosters of the whole school, in and out."""

    frame: Frame
    changes: Changes | None = None  # looked at, or made
    done: bool = False
    sentence: str = ""


class KeyFileForm(Form):
    """A key file, and the week it is due."""

    key = SentFile(MOST_KEY_BYTES)
    week = Whole()


class SetFileForm(Form):
    """The file of a paint set."""

    set = SentFile(MOST_KEY_BYTES)


class PackageForm(Form):
    """A package of rosters, and whether it is taken."""

    package = SentFile(_MOST_PACKAGE_BYTES)
    take = Said("take", name="do")


@records.get("/classes/<int:class_id>/records")
def of_class(class_id: int) -> str:
    """Show what can be carried away."""
    row = class_of_school(db(), me().school_id, class_id)
    page = ClassRecordsPage(frame=frame(Stage.PROGRESS), row=row)
    return render_template("records/class.html", page=page)


@records.get("/classes/<int:class_id>/grades")
def grade_grid(class_id: int) -> str:
    """Show the grade book: students by exercise, by mark or by one skill."""
    row = class_of_school(db(), me().school_id, class_id)
    page = grid_page(row, request.args.get("by", ""))
    return render_template("records/grid.html", page=page)


@records.get("/classes/<int:class_id>/grades.csv")
def grades(class_id: int) -> Response:
    """Give the grade book for a spreadsheet."""
    row = class_of_school(db(), me().school_id, class_id)
    return _file(grade_book_csv(grade_book_of(row)), "text/csv", f"{row.name} grades.csv")


@records.get("/classes/<int:class_id>/results.zip")
def results(class_id: int) -> Response:
    """Give the grade book for the school's system."""
    row = class_of_school(db(), me().school_id, class_id)
    own, students = sourced_numbers(db(), me().school_id, class_id)
    data = results_package(grade_book_of(row), own, students, datetime.now(UTC))
    return _file(data, "application/zip", f"{row.name} results.zip")


@records.get("/classes/<int:class_id>/measurements.<form>")
def measurements(class_id: int, form: str) -> Response:
    """Give every read cell, as csv, json or CGATS.17 text."""
    row = class_of_school(db(), me().school_id, class_id)
    sheets = measured_of(row)
    name = f"{row.name} measurements.{form}"
    if form == "csv":
        return _file(measurements_csv(sheets), "text/csv", name)
    if form == "json":
        return _file(measurements_json(sheets), "application/json", name)
    if form == "txt":
        return _file(measurements_cgats(sheets, datetime.now(UTC)), "text/plain", name)
    raise Refused(gettext("Measurements come as csv, json or txt: choose one of these."))


@records.get("/classes/<int:class_id>/due.ics")
def due(class_id: int) -> Response:
    """Give the due dates for calendars."""
    row = class_of_school(db(), me().school_id, class_id)
    dues = [
        Due(
            uid=f"exercise-{one.id}@noema",
            title=f"{row.name}: {one.title}",
            words=gettext(
                "%(medium)s, week %(due_week)s of %(unit_weeks)s",
                medium=gettext(one.medium.value),
                due_week=one.due_week,
                unit_weeks=one.unit.weeks,
            ),
            day=one.due_day,
        )
        for one in assignments_of_class(db(), class_id)
    ]
    return _file(calendar_of(row.name, dues, datetime.now(UTC)), "text/calendar", "due.ics")


@records.get("/classes/<int:class_id>/archive.zip")
def class_archive(class_id: int) -> Response:
    """Give everything of a class."""
    row = class_of_school(db(), me().school_id, class_id)
    return _archive(row.name, archive_school(sessions(), files(), me().school_id, class_id))


@records.get("/assignments/<int:assignment_id>/key.json")
def key_file(assignment_id: int) -> Response:
    """Give an exercise with its key."""
    row = assignment_of_school(db(), me().school_id, assignment_id)
    exercise = exercise_of(db(), row)
    chosen = KeyFile(
        kind=row.kind,
        options=dict(row.options),
        paints=exercise.paints,
        set_ref=row.set_ref,
        medium=row.medium,
        level=row.level,
        key=row.key,
    )
    tolerance = row.tolerance
    data = key_to_json(chosen, row.title, exercise.expected, tolerance)
    return _file(data, "application/json", f"{row.title} key.json")


@records.post("/classes/<int:class_id>/keys")
def assign_key(class_id: int) -> AnyResponse:
    """Give a class the exercise of a key file."""
    class_of_school(db(), me().school_id, class_id)
    do_once()
    given = read_form(KeyFileForm)
    kept = key_from_json(given.key.bytes)
    chosen = Chosen(
        kind=kept.kind,
        options=options_from_json(kind_of(kept.kind), kept.options),
        paints=kept.paints,
        set_ref=kept.set_ref if kept.paints else None,
        medium=kept.medium,
        level=kept.level,
        key=kept.key,
        table=hue_words(db(), me().school_id).table,
    )
    assignment_id = assign_exercise(
        db(),
        chosen,
        school_id=me().school_id,
        class_id=class_id,
        teacher_id=me().id,
        due_week=given.week.data or 0,
        rng=SystemRandom(),
    )
    return redirect(url_for("keys.key", assignment_id=assignment_id), 303)


@records.post("/paints/sets/file")
def take_set() -> AnyResponse:
    """Put a set from a file on the shelf; its own tubes must have been swatched here."""
    do_once()
    paints = set_from_json(read_form(SetFileForm).set.bytes)
    tubes = tuple(tube.name for tube in paints.tubes)
    new = NewSet(name=paints.label or paints.name, binder=paints.binder, tubes=tubes)
    return redirect(
        url_for("paints.of_set", set_ref=keep_paint_set(db(), me().school_id, new)), 303
    )


@records.get("/rosters")
def rosters() -> str:
    """Show how rosters come and go."""
    return render_template("records/rosters.html", page=RostersPage(frame=frame(Stage.PLAN)))


@records.post("/rosters")
def take() -> str | tuple[str, int]:
    """Say what a package would change, or change it."""
    given = read_form(PackageForm)
    done = given.take.data
    try:
        package = read_package(_filled(given.package))
        if done:
            changes = take_package(db(), me().school_id, package, today())
        else:
            changes = changes_of(db(), me().school_id, package)
    except Refused as refusal:
        page = RostersPage(frame=frame(Stage.PLAN), sentence=str(refusal))
        return render_template("records/rosters.html", page=page), status_of(refusal)
    page = RostersPage(frame=frame(Stage.PLAN), changes=changes, done=done)
    return render_template("records/rosters.html", page=page)


@records.get("/rosters.zip")
def give() -> Response:
    """Give the school's rosters as a package."""
    return _file(give_package(db(), me(), datetime.now(UTC)), "application/zip", "rosters.zip")


@records.get("/school-archive.zip")
def school_archive() -> Response:
    """Give everything of the school."""
    return _archive(me().school_name, archive_school(sessions(), files(), me().school_id))


def _filled(given: SentFile) -> bytes:
    data = given.bytes
    if not data:
        raise BadRoster(
            gettext("Choose the package first: a zip with classes, users and enrollments.")
        )
    if len(data) > _MOST_PACKAGE_BYTES:
        raise BadRoster(gettext("The package is over 16 MB: export one school."))
    return data


def _archive(of: str, packed: Packed) -> Response:
    """Send an archive; its very name says where pictures weren't found."""
    without = (
        ngettext(", %(count)s picture missing", ", %(count)s pictures missing", packed.missing)
        if packed.missing
        else ""
    )
    named = gettext("%(of)s, archive%(without)s", of=of, without=without)
    return _streamed(packed.chunks, "application/zip", f"{named}.zip")


def _streamed(chunks: Iterator[bytes], mimetype: str, name: str) -> Response:
    response = Response(chunks, mimetype=mimetype)
    response.headers.set("Content-Disposition", "attachment", filename=name)
    return response


def _file(data: bytes, mimetype: str, name: str) -> Response:
    return send_file(BytesIO(data), mimetype=mimetype, as_attachment=True, download_name=name)
