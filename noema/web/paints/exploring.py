"""Two tubes, or three, and everything between them."""

from dataclasses import dataclass

from flask import Blueprint, render_template, request
from wtforms import Form

from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.bridge import (
    FEWEST_STEPS,
    MOST_STEPS,
    Step,
    Thinned,
    bridge,
    triangle,
    triangle_rows,
)
from noema.core.pigments.drying import Binder
from noema.core.pigments.says import say_balance, say_neutral
from noema.core.pigments.shelf import TUBES, WHITE, PaintSet
from noema.core.pigments.tube import Tube
from noema.store.paints import hue_words, paint_set
from noema.web.drawings.wheel import MIDDLE, SIZE, path_of, point
from noema.web.frame.forms import Said, TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

exploring = Blueprint("exploring", __name__)

_WHITES = {"none": 0.0, "some": 2.0, "much": 8.0}  # volumes of white to one of the mix
_COATS = {"none": None, "some": 0.15, "much": 0.04}  # of a wash
_STEPS = (5, 7, 9, 11, 13)
_TRIANGLE = 560.0


@dataclass(frozen=True, kw_only=True)
class ExploreChoices:
    """What is explored."""

    tubes: tuple[Tube, ...]  # two or three
    steps: int
    down: str  # none, some or much white or water
    wet: bool  # also show it as the brush leaves it


@dataclass(frozen=True, kw_only=True)
class ExploredStep:
    """One step of the bridge."""

    x: float
    fill: str
    wet_fill: str  # empty unless asked for
    parts: str
    numbers: str
    words: str
    place: tuple[float, float]  # on the disc


@dataclass(frozen=True, kw_only=True)
class Walk:
    """The bridge between two tubes, drawn."""

    stops: tuple[ExploredStep, ...]
    width: float
    way: str  # SVG path on the disc
    neutral: str
    neutral_place: tuple[float, float]
    size: float = SIZE
    middle: float = MIDDLE


@dataclass(frozen=True, kw_only=True)
class Spot:
    """One mix of the triangle."""

    x: float
    y: float
    fill: str
    wet_fill: str  # empty unless asked for
    said: str


@dataclass(frozen=True, kw_only=True)
class Exploration:
    """What comes of it: a bridge for two tubes, a triangle for three."""

    asked: ExploreChoices
    walk: Walk | None
    spots: tuple[Spot, ...]
    drying: str


@dataclass(frozen=True, kw_only=True)
class ExplorePage:
    """The form and what comes of it."""

    frame: Frame
    paints: PaintSet
    ref: str
    found: Exploration
    water: bool  # lightened with water
    step_choices: tuple[int, ...] = _STEPS


@dataclass(frozen=True, kw_only=True)
class ExploredPage:
    """The fragment alone."""

    found: Exploration


_USUAL_STEPS = 9


class ExploreForm(Form):
    """Two or three tubes, and how mixes of them are shown."""

    one = TextLine()
    other = TextLine()
    third = TextLine()
    steps = Whole()
    down = TextLine()
    wet = Said("1")


@exploring.get("/paints/sets/<set_ref>/explore")
def explore(set_ref: str) -> str:
    """Show the form and the bridge."""
    paints = paint_set(db(), me().school_id, set_ref)
    page = ExplorePage(
        frame=frame(Stage.PLAN),
        paints=paints,
        ref=set_ref,
        found=_explored(paints, _asked(paints)),
        water=paints.binder is Binder.WATERCOLOUR,
    )
    return render_template("paints/explore.html", page=page)


@exploring.get("/paints/sets/<set_ref>/explore/found")
def found(set_ref: str) -> str:
    """Draw the bridge or triangle for the choices so far."""
    paints = paint_set(db(), me().school_id, set_ref)
    page = ExploredPage(found=_explored(paints, _asked(paints)))
    return render_template("paints/found.html", page=page)


def _asked(paints: PaintSet) -> ExploreChoices:
    form, row = read_form(ExploreForm, request.args), paints.colours or paints.tubes
    names = [form.one.data or row[0].name, form.other.data or row[-1].name, form.third.data]
    steps = _USUAL_STEPS if form.steps.data is None else form.steps.data
    down = form.down.data or "none"
    if not FEWEST_STEPS <= steps <= MOST_STEPS or down not in _WHITES:
        raise BadPaint(gettext("One of the choices isn't on the list: choose it again."))
    return ExploreChoices(
        tubes=tuple(paints.tube(name) for name in names if name),
        steps=steps,
        down=down,
        wet=form.wet.data,
    )


def _explored(paints: PaintSet, asked: ExploreChoices) -> Exploration:
    thinned = _thinned(paints, asked.down)
    table = hue_words(db(), me().school_id).table
    distinct = len(set(asked.tubes)) == len(asked.tubes)
    walk: Walk | None = None
    spots: tuple[Spot, ...] = ()
    if distinct and len(asked.tubes) == 3:
        spots = _spots(asked, thinned, paints.binder, table)
    elif distinct:
        walk = _walk(asked, thinned, paints.binder, table)
    return Exploration(asked=asked, walk=walk, spots=spots, drying=paints.binder.drying)


def _thinned(paints: PaintSet, down: str) -> Thinned:
    if paints.binder is Binder.WATERCOLOUR:
        return Thinned(coats=_COATS[down])
    return Thinned(white=paints.white or TUBES[WHITE], white_volumes=_WHITES[down])


def _walk(asked: ExploreChoices, thinned: Thinned, binder: Binder, table: HueTable) -> Walk:
    one, other = asked.tubes
    dry = bridge(one, other, asked.steps, thinned, binder.dry)
    wet_fills = [""] * asked.steps
    if asked.wet:
        wet_fills = lab_to_hex(dry.seen(thinned, binder.wet))
    width = 1100.0 / asked.steps
    stops = tuple(
        ExploredStep(
            x=round(place * width, 1),
            fill=fill,
            wet_fill=wet_fill,
            parts=say_balance(step.amounts),
            numbers=_numbers(step),
            words=table.lean(step.hvc).words,
            place=point(step.hvc.hue100, step.hvc.chroma),
        )
        for place, (step, fill, wet_fill) in enumerate(
            zip(dry.steps, lab_to_hex([s.lab for s in dry.steps]), wet_fills, strict=True)
        )
    )
    return Walk(
        stops=stops,
        width=round(width, 2),
        way=path_of(dry.path),
        neutral=say_neutral(dry, table),
        neutral_place=point(dry.neutral.hvc.hue100, dry.neutral.hvc.chroma),
    )


def _spots(
    asked: ExploreChoices, thinned: Thinned, binder: Binder, table: HueTable
) -> tuple[Spot, ...]:
    one, other, third = asked.tubes
    steps = triangle((one, other, third), thinned, binder.dry)
    fills = lab_to_hex([step.lab for step in steps])
    wet_fills = [""] * len(steps)
    if asked.wet:
        wet = triangle((one, other, third), thinned, binder.wet)
        wet_fills = lab_to_hex([step.lab for step in wet])
    places = [
        (_TRIANGLE / 2 + (place - row / 2) * 82, 50 + row * 72)
        for row, cells in enumerate(triangle_rows(steps))
        for place in range(len(cells))
    ]
    return tuple(
        Spot(
            x=x,
            y=y,
            fill=fill,
            wet_fill=wet_fill,
            said=f"{say_balance(step.amounts)}: {table.lean(step.hvc).words}, {_numbers(step)}",
        )
        for step, fill, wet_fill, (x, y) in zip(steps, fills, wet_fills, places, strict=True)
    )


def _numbers(step: Step) -> str:
    return f"{step.hvc.notation} {step.hvc.value:.1f}/{step.hvc.chroma:.1f}"
