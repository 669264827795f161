"""One search over all a school has: students, sheets, classes, exercises, paints, mixes, help."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from flask import Blueprint, render_template, request, url_for

from noema.core.language import N_, gettext
from noema.core.pigments.shelf import SETS, TUBES
from noema.formats.days import short_day
from noema.store.assignments import assignments_found
from noema.store.classes import classes_found
from noema.store.leaves import LeafWanted
from noema.store.logbook import LogScope, latest_entries
from noema.store.paints import all_tubes, own_sets
from noema.store.sheets import find_sheets
from noema.store.students import students_by_words
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.rights import may
from noema.web.frame.weeks import due_said
from noema.web.help.guides import guides

search = Blueprint("search", __name__)

_MOST_EACH = 6
_MOST_LETTERS = 80


@dataclass(frozen=True, kw_only=True)
class FoundThing:
    """Something that was found."""

    label: str
    detail: str  # what tells it from others of its name
    address: str
    is_name: bool = False  # somebody gave it: it isn't translated


@dataclass(frozen=True, kw_only=True)
class FoundGroup:
    """What was found of one sort."""

    heading: str
    things: tuple[FoundThing, ...]


@dataclass(frozen=True, kw_only=True)
class SearchPage:
    """What was looked for, and what was found; the part that is fetched again while one types."""

    words: str
    groups: tuple[FoundGroup, ...]


@dataclass(frozen=True, kw_only=True)
class WholeSearchPage(SearchPage):
    """The whole page."""

    frame: Frame


@search.get("/find")
def find() -> str:
    """Find what has all of some words."""
    words = request.args.get("words", "")[:_MOST_LETTERS].strip()
    groups = tuple(_groups(words)) if words else ()
    if "HX-Request" in request.headers:
        return render_template("search/found.html", page=SearchPage(words=words, groups=groups))
    page = WholeSearchPage(frame=frame(Stage.NONE), words=words, groups=groups)
    return render_template("search/find.html", page=page)


def _groups(words: str) -> Iterator[FoundGroup]:
    """Look in every sort of thing that who asks may see, with one question each."""
    sorts = (
        (N_("Students"), "progress.of_student", _students),
        (N_("Classes"), "classes.of_class", _classes),
        (N_("Exercises"), "keys.key", _exercises),
        (N_("Sheets"), "printing.sheets", _sheets),
        (N_("Paints"), "paints.of_set", _paints),
        (N_("Mixes"), "class_logbook.of_class", _mixes),
        (N_("Pages"), "today.home", _pages),
        (N_("Help"), "helping.guide", _help),
    )
    for heading, endpoint, look in sorts:
        things = tuple(look(words)) if may(endpoint) else ()
        if things:
            yield FoundGroup(heading=gettext(heading), things=things[:_MOST_EACH])


def _students(words: str) -> Iterator[FoundThing]:
    for one in students_by_words(db(), me().school_id, words, _MOST_EACH):
        yield FoundThing(
            label=one.name,
            detail=one.class_name,
            address=url_for("progress.of_student", class_id=one.class_id, student_id=one.id),
            is_name=True,
        )


def _classes(words: str) -> Iterator[FoundThing]:
    found = classes_found(db(), me().school_id, LeafWanted(words=words, most=_MOST_EACH))
    for one in found.shown:
        address = url_for("classes.of_class", class_id=one.id)
        yield FoundThing(label=one.name, detail=one.term, address=address, is_name=True)


def _exercises(words: str) -> Iterator[FoundThing]:
    wanted = LeafWanted(words=words, most=_MOST_EACH)
    for one in assignments_found(db(), me().school_id, wanted).shown:
        yield FoundThing(
            label=one.title,
            detail=f"{one.class_name}, {due_said(one)}",
            address=url_for("keys.key", assignment_id=one.id),
        )


def _sheets(words: str) -> Iterator[FoundThing]:
    for one in find_sheets(db(), me().school_id, words, _MOST_EACH):
        read = one.photograph_id is not None and may("reviewing.desk")
        yield FoundThing(
            label=f"{one.sheet.code} · {one.sheet.student}",
            detail=f"{one.class_name}, {one.title}",
            address=url_for("reviewing.desk", photograph_id=one.photograph_id)
            if read
            else url_for("printing.sheets", assignment_id=one.sheet.assignment_id),
            is_name=True,
        )


def _paints(words: str) -> Iterator[FoundThing]:
    own = own_sets(db(), me().school_id)
    for paints in (*own, *SETS.values()):
        if _has(words, gettext(paints.label)):
            yield FoundThing(
                label=paints.label,
                detail=gettext("set"),
                address=url_for("paints.of_set", set_ref=paints.name),
            )
    for name, tube in all_tubes(db(), me().school_id).items():
        if _has(words, gettext(tube.label), *tube.pigments):
            holding = next((one for one in (*own, *SETS.values()) if tube in one.tubes), None)
            if name not in TUBES:
                address = url_for("swatching.tube", tube_name=name)
            elif holding is not None:
                address = url_for("paints.of_set", set_ref=holding.name)
            else:
                address = url_for("paints.shelf")
            detail = " + ".join(tube.pigments)
            yield FoundThing(label=tube.label, detail=detail, address=address)


def _mixes(words: str) -> Iterator[FoundThing]:
    for one in latest_entries(db(), LogScope(school_id=me().school_id), words, _MOST_EACH):
        whose = f"{one.student}, " if one.student else ""
        if one.photograph_id is not None:
            address = url_for("reviewing.desk", photograph_id=one.photograph_id)
        elif one.class_id is not None:
            address = url_for("class_logbook.of_class", class_id=one.class_id, words=words)
        else:
            continue
        yield FoundThing(
            label=one.entry.title, detail=f"{whose}{short_day(one.made_at)}", address=address
        )


def _pages(words: str) -> Iterator[FoundThing]:
    for label, endpoint in _PAGES:
        if may(endpoint) and _has(words, gettext(label)):
            yield FoundThing(label=gettext(label), detail="", address=url_for(endpoint))


def _help(words: str) -> Iterator[FoundThing]:
    for guide, chapters in guides().items():
        for one in chapters:
            if _has(words, one.title, one.words):
                address = f"{url_for('helping.guide', guide=guide)}#{one.name}"
                yield FoundThing(label=one.title, detail=gettext("guide"), address=address)


def _has(words: str, *said: str) -> bool:
    text = " ".join(said).casefold()
    return all(word in text for word in words.casefold().split())


_PAGES: Sequence[tuple[str, str]] = (
    (N_("Paint shelf: sets and tubes"), "paints.shelf"),
    (N_("Names of hues"), "naming.hues"),
    (N_("Printers and calibration"), "printers.overview"),
    (N_("Skills and marks: the rubric"), "rubrics.rubric"),
    (N_("Camera: photograph sheets here"), "aiming.camera"),
    (N_("Cupboard and orders"), "cupboard.of_school"),
    (N_("Days, holidays, rooms and time zone"), "school.of_school"),
    (N_("People and their rights"), "people.of_school"),
    (N_("Rosters and archive of the school"), "records.rosters"),
    (N_("What is kept, archived classes"), "erasure.keeping"),
    (N_("Read photographs again"), "again.page"),
    (N_("Letters that were sent"), "reports.sent"),
    (N_("Your account and password"), "account.of_mine"),
)
