"""A lesson on the wall: one part at a time, large enough to be read from the last table."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, timedelta

from flask import Blueprint, render_template, request, url_for

from noema.actions.lesson_facts import lesson_facts
from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.asked import Asked
from noema.core.language import gettext
from noema.core.planning.lesson_sheet import ClockPart, LessonSheet, lesson_sheet
from noema.core.planning.timeline import Doing, LessonPart
from noema.web.frame.request import db, me
from noema.web.unit.finding import find_lesson

wall = Blueprint("wall", __name__)

_WIDTH = 1200.0  # drawing units of a row of swatches


@dataclass(frozen=True, kw_only=True)
class WallSwatch:
    """One cell of the row that is mixed."""

    left: float
    width: float
    fill: str


@dataclass(frozen=True, kw_only=True)
class WallPage:
    """One part of a lesson."""

    frame: None  # nothing stands round it
    title: str
    part: ClockPart | None
    until: str  # the clock when it ends
    lines: tuple[str, ...]
    swatches: tuple[WallSwatch, ...]
    place: str  # such as 3 of 6
    before: str  # addresses; empty at the ends
    after: str
    out: str  # of the wall


@wall.get("/classes/<int:class_id>/lessons/<at>/wall")
def show(class_id: int, at: str) -> str:
    """Show one part of a lesson."""
    row, plan, place = find_lesson(class_id, at)
    planned, facts = plan.lessons[place], lesson_facts(db(), me().school_id, row.id, plan, place)
    asked, sheet = facts.asked, lesson_sheet(planned, facts)
    count = len(sheet.parts)
    step = min(max(request.args.get("step", 0, type=int), 0), max(count - 1, 0))
    part = sheet.parts[step] if sheet.parts else None
    page = WallPage(
        frame=None,
        title=row.name,
        part=part,
        until="" if part is None else _until(part),
        lines=() if part is None else _lines(planned.parts[step], sheet, asked),
        swatches=() if part is None else _swatches(planned.parts[step], asked),
        place=gettext("%(step)s of %(count)s", step=step + 1, count=count),
        before=_address(class_id, at, step - 1) if step > 0 else "",
        after=_address(class_id, at, step + 1) if step + 1 < count else "",
        out=url_for("lesson.of_class", class_id=class_id, at=at),
    )
    return render_template("unit/wall.html", page=page)


def _address(class_id: int, at: str, step: int) -> str:
    return url_for("wall.show", class_id=class_id, at=at, step=step)


def _until(part: ClockPart) -> str:
    ends = part.begins.astimezone(UTC) + timedelta(minutes=part.minutes)
    return f"{ends.astimezone(part.begins.tzinfo):%H:%M}"


def _lines(part: LessonPart, sheet: LessonSheet, asked: Mapping[str, Asked]) -> tuple[str, ...]:
    """Say what the class reads meanwhile."""
    told = next((one for one in sheet.shown if one.wish == part.wish), None)
    if part.doing is Doing.SHOW and told is not None:
        piles = (gettext("Two piles: %(piles)s.", piles=told.piles),) if told.piles else ()
        return (*piles, told.see)
    if part.doing is Doing.PAINT and part.wish is not None and part.wish in asked:
        return asked[part.wish].how_to
    if part.doing is Doing.CLEAN_UP:
        return tuple(dict.fromkeys(one.ask for one in sheet.shown))
    return ()


def _swatches(part: LessonPart, asked: Mapping[str, Asked]) -> tuple[WallSwatch, ...]:
    """Draw the first row that is painted, as a stair of its mixes."""
    exercise = asked.get(part.wish or "")
    if exercise is None or part.doing not in (Doing.SHOW, Doing.PAINT):
        return ()
    bands = exercise.bands
    row = next((b for b in bands if any(cell.id in part.cells for cell in b.cells)), bands[0])
    wide = _WIDTH / len(row.cells)
    return tuple(
        WallSwatch(left=n * wide, width=wide, fill=fill)
        for n, fill in enumerate(lab_to_hex([cell.lab for cell in row.cells]))
    )
