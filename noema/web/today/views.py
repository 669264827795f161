"""The first page: what waits, and where the classes are in their unit."""

from dataclasses import dataclass

from flask import (
    Blueprint,
    Response,
    current_app,
    redirect,
    render_template,
    request,
    url_for,
)
from werkzeug.wrappers import Response as AnyResponse

from noema.store.classes import classes_found
from noema.store.first_week import FirstWeek, first_week_of, hide_first_week
from noema.store.leaves import LeafWanted
from noema.store.under_way import UnderWay, under_way
from noema.store.waiting import first_question
from noema.web.frame.leaf import MOST_CLASSES
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import ClassLine, class_lines
from noema.web.today.lessons import ComingLesson, coming_lessons

today = Blueprint("today", __name__)


@dataclass(frozen=True, kw_only=True)
class StagesPage:
    """The stages alone; the part that is fetched again."""

    frame: Frame


@dataclass(frozen=True, kw_only=True)
class UnderWayPage:
    """What fills the school just now; the part that is fetched again."""

    under_way: UnderWay | None


@dataclass(frozen=True, kw_only=True)
class TodayPage(UnderWayPage):
    """What waits for the teacher."""

    frame: Frame
    quiet: bool  # nothing waits
    first: FirstWeek  # what one does first
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
        first=first_week_of(db(), me().school_id, me().id),
        question=first_question(db(), me().school_id) if around.waiting.questions else None,
        under_way=under_way(db(), me().school_id),
        classes=class_lines(classes.shown),
        more_classes=classes.goes_on,
        lessons=coming_lessons(classes.shown),
    )
    return render_template("today/home.html", page=page)


@today.post("/first-week")
def put_away() -> AnyResponse:
    """Put the list of what one does first away."""
    hide_first_week(db(), me().id)
    return redirect(url_for("today.home"), 303)


@today.get("/stages")
def stages() -> str:
    """Show the stages with what waits at each; pages ask for it by themselves."""
    at = request.args.get("at", "")
    current = Stage[at] if at in Stage.__members__ else Stage.NONE
    return render_template("frame/stages.html", page=StagesPage(frame=frame(current)))


@today.get("/under-way")
def how_far() -> str:
    """Say how far what fills the school is; asked for until it is over."""
    page = UnderWayPage(under_way=under_way(db(), me().school_id))
    return render_template("today/under_way.html", page=page)


@today.get("/favicon.ico")
def favicon() -> Response:
    """Give the mark to browsers that ask for it where a page can't name it, as beside a PDF."""
    return current_app.send_static_file("icon.svg")
