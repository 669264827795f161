"""The first page: what waits, and where the classes are in their unit."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from flask import Blueprint, Response, current_app, render_template
from sqlalchemy import text

from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.classes import ClassRow, classes_found
from noema.store.leaves import LeafWanted
from noema.store.units import units_of_school
from noema.store.waiting import first_question
from noema.web.frame.clock import here, lesson_address
from noema.web.frame.leaf import MOST_CLASSES
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import ClassLine, class_lines

today = Blueprint("today", __name__)


_MOST_LESSONS = 6
_GOES_ON = timedelta(minutes=50)  # a lesson that has just begun is still shown


@dataclass(frozen=True, kw_only=True)
class ComingLesson:
    """A lesson that is next."""

    at: datetime  # at the school's clock
    named: str  # as it stands in an address
    class_id: int
    class_name: str
    words: str  # what is done in it


@dataclass(frozen=True, kw_only=True)
class TodayPage:
    """What waits for the teacher."""

    frame: Frame
    quiet: bool  # nothing waits
    classes: tuple[ClassLine, ...]  # the first of them
    more_classes: bool
    lessons: tuple[ComingLesson, ...]  # the next of each class, soonest first
    question: int | None  # the assignment of the oldest question about a class


@today.get("/")
def home() -> str:
    """Show what waits."""
    around = frame(Stage.NONE)
    classes = classes_found(db(), me().school_id, LeafWanted(most=MOST_CLASSES))
    page = TodayPage(
        frame=around,
        quiet=not any(vars(around.waiting).values()),
        question=first_question(db(), me().school_id) if around.waiting.questions else None,
        classes=class_lines(classes.shown),
        more_classes=classes.goes_on,
        lessons=_coming(classes.shown),
    )
    return render_template("today/home.html", page=page)


def _coming(rows: Sequence[ClassRow]) -> tuple[ComingLesson, ...]:
    """Find the next lesson with something planned of some classes."""
    now, names = here(datetime.now(UTC)).replace(tzinfo=None), {row.id: row.name for row in rows}
    found = []
    for unit in units_of_school(db(), me().school_id):
        if unit.class_id not in names or unit.plan is None:
            continue
        plan = kept_plan_from_json(unit.plan)
        coming = [at for some in plan.times.values() for at in some if at >= now - _GOES_ON]
        if coming:
            at = min(coming)
            begun = sorted((some[0], wish) for wish, some in plan.times.items() if at in some)
            wishes = [wish for _, wish in begun]
            found.append(
                ComingLesson(
                    at=at,
                    named=lesson_address(at),
                    class_id=unit.class_id,
                    class_name=names[unit.class_id],
                    words=", ".join(plan.works[wish].title for wish in wishes),
                )
            )
    return tuple(sorted(found, key=lambda one: (one.at, one.class_name))[:_MOST_LESSONS])


@today.get("/health")
def health() -> tuple[str, int]:
    """Say whether the pages and the database answer."""
    db().execute(text("SELECT 1"))
    return "ok\n", 200


@today.get("/favicon.ico")
def favicon() -> Response:
    """Give the mark to browsers that ask for it where a page can't name it, as beside a PDF."""
    return current_app.send_static_file("icon.svg")
