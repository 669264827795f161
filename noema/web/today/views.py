"""The first page: what waits, and where the classes are in their unit."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, Response, current_app, render_template
from sqlalchemy import text

from noema.store.classes import classes_of_school
from noema.store.waiting import Waiting, waiting_for_teacher
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

today = Blueprint("today", __name__)


@dataclass(frozen=True, kw_only=True)
class ClassToday:
    """A class and its week."""

    id: int
    name: str
    students: int
    week: str


@dataclass(frozen=True, kw_only=True)
class TodayPage:
    """What waits for the teacher."""

    frame: Frame
    waiting: Waiting
    quiet: bool  # nothing waits
    classes: tuple[ClassToday, ...]


@today.get("/")
def home() -> str:
    """Show what waits."""
    waiting = waiting_for_teacher(db(), me().school_id)
    page = TodayPage(
        frame=frame(Stage.NONE),
        waiting=waiting,
        quiet=not any(vars(waiting).values()),
        classes=tuple(
            ClassToday(
                id=c.id,
                name=c.name,
                students=c.students,
                week=week_words(c.week_on(datetime.now(UTC).date()), c.unit_weeks),
            )
            for c in classes_of_school(db(), me().school_id)
        ),
    )
    return render_template("today/home.html", page=page)


@today.get("/health")
def health() -> tuple[str, int]:
    """Say whether the pages and the database answer."""
    db().execute(text("SELECT 1"))
    return "ok\n", 200


@today.get("/favicon.ico")
def favicon() -> Response:
    """Give the mark to browsers that ask for it where a page can't name it, as beside a PDF."""
    return current_app.send_static_file("icon.svg")


def week_words(week: int, of_weeks: int) -> str:
    """Say where a class is in its unit."""
    if week < 1:
        return f"unit of {of_weeks} weeks, not begun"
    if week > of_weeks:
        return f"unit of {of_weeks} weeks, over"
    return f"week {week} of {of_weeks}"
