"""A student's eye: the screen is checked, a series is asked, and it says what it found."""

from dataclasses import dataclass
from datetime import UTC, datetime
from math import comb

from flask import Blueprint, redirect, render_template, request, url_for
from numpy.random import default_rng
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.train_eye import answer_question, begin_asking, known_screen
from noema.core.colour.names import HueTable
from noema.core.errors import Refused
from noema.core.language import N_, gettext
from noema.core.seeing.question import Ask
from noema.core.seeing.says import (
    ASKS_WORDS,
    SERIES_WORDS,
    colours_said,
    names_of,
    places_words,
    screen_words,
    sees_words,
)
from noema.core.seeing.series import LONG, SCREEN_STEPS, Screen, SeriesKind, answer_order
from noema.formats.series_json import (
    AskedOnce,
    answered_of,
    asked_from_json,
    found_from_json,
    screen_from_json,
)
from noema.store.eye import KeptSeries, series_of_student
from noema.store.paints import hue_words
from noema.web.bench.chosen import own_cells
from noema.web.eye import on_paper
from noema.web.eye.how_you_see import HowYouSee, how_you_see
from noema.web.frame.forms import OneOf, Said, TextLine, Whole, read_form
from noema.web.frame.request import db, the_student
from noema.web.painting.attempts import attempts_seen
from noema.web.progress.tried import seen_by_eye

eye = Blueprint("eye", __name__)
on_paper.add_routes(eye)

_CHOOSE = N_("Choose one of the series shown.")
_GREY_STEPS = 12  # of 255, from square to square near black and near white


class SeriesForm(Form):
    """Which series."""

    kind = OneOf(SeriesKind, _CHOOSE)


class ScreenForm(SeriesForm):
    """What the screen shows."""

    dark = Whole()
    light = Whole()
    on_it = Said("yes")


class EyeAnswerForm(Form):
    """An answer, and whether the colours were said in words before it."""

    number = Whole()
    choice = Whole()
    told = TextLine(most=1)


@dataclass(frozen=True, kw_only=True)
class EyePage:
    """What may be trained, and how one sees."""

    frame: None = None
    name: str
    kinds: tuple[tuple[SeriesKind, str, int], ...]  # with words and length
    see: HowYouSee


@dataclass(frozen=True, kw_only=True)
class ScreenPage:
    """Two steps before a series: what the screen shows, what lies on it."""

    frame: None = None
    name: str
    kind: SeriesKind
    dark: tuple[str, ...]
    light: tuple[str, ...]
    counts: tuple[int, ...] = tuple(range(SCREEN_STEPS + 1))


@dataclass(frozen=True, kw_only=True)
class EyeQuestionPage:
    """One question of a series, or its end."""

    frame: None = None
    name: str
    id: int
    title: str
    number: int  # of the question, from 1
    count: int
    asks: str
    fills: tuple[str, ...]
    edge_to_edge: bool  # a row's steps touch
    choices: tuple[str, ...]
    picks: bool  # the colours themselves are chosen
    placed: tuple[str, ...]  # those that have their place, from dark to light
    left: tuple[int, ...]  # and the others, by number
    before: str  # whether the last answer was right
    said: tuple[str, ...]  # every colour in words, when asked for
    is_over: bool
    results: tuple[str, ...]
    screen: str


@eye.get("/me/eye")
def of_mine() -> str:
    """Show the series, and how one sees."""
    me = the_student()
    seen = attempts_seen(me.id)
    page = EyePage(
        name=me.display_name,
        kinds=tuple((kind, gettext(words), LONG[kind]) for kind, words in SERIES_WORDS.items()),
        see=how_you_see(me.id, seen_by_eye(seen), drifted=bool(own_cells(me.id, seen))),
    )
    return render_template("eye/own.html", page=page)


@eye.post("/me/eye/begin")
def begin() -> Response:
    """Begin a series; the screen is looked at first, once a day."""
    kind, now = read_form(SeriesForm).kind.data, datetime.now(UTC)
    screen = known_screen(db(), the_student().id, now)
    if screen is None:
        return redirect(url_for("eye.screen", kind=kind.value), 303)
    return _begun(kind, screen)


@eye.get("/me/eye/screen")
def screen() -> str:
    """Ask what the screen shows."""
    steps = [_GREY_STEPS // 2 * n for n in range(1, SCREEN_STEPS + 1)]
    page = ScreenPage(
        name=the_student().display_name,
        kind=read_form(SeriesForm, request.args).kind.data,
        dark=tuple(_grey(step) for step in steps),
        light=tuple(_grey(255 - step) for step in steps),
    )
    return render_template("eye/screen.html", page=page)


@eye.post("/me/eye/screen")
def screen_seen() -> Response:
    """Keep what the screen shows, and begin."""
    form = read_form(ScreenForm)
    seen = Screen(
        dark_steps=_counted(form.dark.data),
        light_steps=_counted(form.light.data),
        light_on_it=form.on_it.data,
    )
    return _begun(form.kind.data, seen)


@eye.get("/me/eye/<int:series_id>")
def of_one(series_id: int) -> str:
    """Show the question that waits, or what the series found."""
    kept = series_of_student(db(), the_student().id, series_id)
    return _shown(kept, says="say" in request.args)


@eye.post("/me/eye/<int:series_id>/answer")
def answer_one(series_id: int) -> Response | str:
    """Keep an answer and ask the next."""
    form = read_form(EyeAnswerForm)
    if form.number.data is None or form.choice.data is None:
        raise Refused(gettext("Choose one of the answers shown."))
    kept = answer_question(
        db(),
        the_student(),
        series_id,
        form.number.data,
        form.choice.data,
        was_told=form.told.data == "1",
        now=datetime.now(UTC),
        rng=default_rng(),
    )
    if request.headers.get("HX-Request"):
        return _shown(kept)
    return redirect(url_for("eye.of_one", series_id=series_id), 303)


def _counted(count: int | None) -> int:
    if count is None or not 0 <= count <= SCREEN_STEPS:
        raise Refused(gettext("Say how many squares you can count in each row."))
    return count


def _begun(kind: SeriesKind, screen: Screen) -> Response:
    number = begin_asking(db(), the_student(), kind, screen, default_rng())
    return redirect(url_for("eye.of_one", series_id=number), 303)


def _shown(kept: KeptSeries, *, says: bool = False) -> str:
    asked = asked_from_json(kept.asked)
    table = hue_words(db(), the_student().school_id).table
    last, is_over = asked[-1].question, kept.ended_at is not None
    page = EyeQuestionPage(
        name=the_student().display_name,
        id=kept.id,
        title=gettext(SERIES_WORDS[kept.kind]),
        number=len(asked),
        count=LONG[kept.kind],
        asks=gettext(ASKS_WORDS[last.ask]),
        fills=last.fills,
        edge_to_edge=last.ask in (Ask.TOGETHER, Ask.UNEVEN),
        choices=names_of(last, table),
        picks=len(last.fills) == last.answers and last.ask is not Ask.PLACE,
        placed=tuple(last.fills[place] for place in asked[-1].placed),
        left=tuple(n for n in range(len(last.fills)) if n not in asked[-1].placed),
        before=_before(asked if is_over else asked[:-1], table),
        said=colours_said(last, table) if says else (),
        is_over=is_over,
        results=_results(kept, asked) if is_over else (),
        screen=_screen_words(kept),
    )
    whole = "eye/asked.html" if request.headers.get("HX-Request") else "eye/series.html"
    return render_template(whole, page=page)


def _before(asked: tuple[AskedOnce, ...], table: HueTable) -> str:
    """Say whether the last answer was right, and which was."""
    if not asked or asked[-1].chosen is None:
        return ""
    last = asked[-1].question
    if last.order:
        off = answer_order(last, asked[-1].placed).off
        if off == 0:
            return gettext("Right.")
        pairs = comb(last.answers, 2)
        return gettext("%(off)s of %(pairs)s pairs turned round.", off=off, pairs=pairs)
    if asked[-1].chosen == last.right:
        return gettext("Right.")
    return gettext("It was %(right)s.", right=names_of(last, table)[last.right])


def _results(kept: KeptSeries, asked: tuple[AskedOnce, ...]) -> tuple[str, ...]:
    answered = answered_of(asked)
    right = sum(one.is_right for one in answered)
    said = [gettext("%(right)s of %(count)s right.", right=right, count=len(answered))]
    for quantity, found in found_from_json(kept.found).items():
        count = sum(one.ask.quantity is quantity for one in answered)
        said.append(sees_words(quantity, found, count))
    return tuple(words for words in (*said, *places_words(answered)) if words)


def _screen_words(kept: KeptSeries) -> str:
    screen = screen_from_json(kept.screen)
    return gettext("On paper.") if screen is None else screen_words(screen)


def _grey(level: int) -> str:
    return f"#{level:02x}{level:02x}{level:02x}"
