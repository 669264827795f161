"""Two tubes or mixes, or three tubes, and everything between them."""

import textwrap
from dataclasses import dataclass

from flask import Blueprint, render_template, request
from wtforms import Form

from noema.core.colour.hvc import lab_of
from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import BadPaint
from noema.core.language import N_, gettext
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
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.pairs import premixed
from noema.core.pigments.partners import partner
from noema.core.pigments.qualities import qualities
from noema.core.pigments.says import say_balance, say_neutral, say_parts, say_step
from noema.core.pigments.shelf import TUBES, WHITE, PaintSet
from noema.core.pigments.tube import Role, Tube
from noema.core.words.amounts import listed, opening
from noema.store.paints import hue_words, paint_set
from noema.web.drawings.wheel import MIDDLE, SIZE, path_of, point
from noema.web.frame.forms import Number, Said, TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

exploring = Blueprint("exploring", __name__)

_WHITES = {"none": 0.0, "some": 2.0, "much": 8.0}  # volumes of white to one of the mix
_COATS = {"none": None, "some": 0.15, "much": 0.04}  # of a wash
_STEPS = (5, 7, 9, 11, 13)
_TRIANGLE = 560.0
_MOST_VOLUMES = 100.0
_LETTERS_A_LINE = 12  # under a step


@dataclass(frozen=True, kw_only=True)
class ChosenEnd:
    """A tube, or a mix of two, that is gone from or to."""

    tube: Tube
    beside: Tube | None = None  # with which it is mixed
    volumes: tuple[float, float] = (1.0, 1.0)

    @property
    def parts(self) -> tuple[Part, ...]:
        """What is in it."""
        own = Part(tube=self.tube, amount=self.volumes[0])
        if self.beside is None:
            return (own,)
        return (own, Part(tube=self.beside, amount=self.volumes[1]))

    @property
    def as_tube(self) -> Tube:
        """It, as one paint."""
        return premixed(self.parts, self.called)

    @property
    def called(self) -> str:
        """What it is called beside the other end."""
        if self.beside is None:
            return self.tube.label
        if {self.tube.role, self.beside.role} == {Role.COLOUR}:
            return gettext(
                "the %(one)s and %(other)s mix",
                one=self.tube.short,
                other=self.beside.short,
            )
        return gettext("the mix")


@dataclass(frozen=True, kw_only=True)
class ExploreChoices:
    """What is explored."""

    ends: tuple[ChosenEnd, ...]  # two or three
    steps: int
    down: str  # none, some or much white or water
    wet: bool  # also show it as the brush leaves it

    @property
    def tubes(self) -> tuple[Tube, ...]:
        """The ends as paints."""
        return tuple(end.as_tube for end in self.ends)


@dataclass(frozen=True, kw_only=True)
class ExploredStep:
    """One step of the bridge."""

    x: float
    fill: str
    wet_fill: str  # empty unless asked for
    parts: tuple[str, ...]  # a line or two
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
class Greyed:
    """What greys an end most."""

    fill: str  # of the end
    grey_fill: str  # of the greyest mix, let down so that its lean shows
    words: str


@dataclass(frozen=True, kw_only=True)
class Exploration:
    """What comes of it: a bridge for two ends, a triangle for three."""

    asked: ExploreChoices
    piles: tuple[str, ...]  # what each end is of
    greyed: tuple[Greyed, ...]
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


_USUAL_STEPS = 9


class ExploreForm(Form):
    """Two ends, each a tube or a mix of two, or three tubes; and how mixes of them are shown."""

    one = TextLine()
    one_with = TextLine()
    one_first = Number(what=N_("volumes"))
    one_second = Number(what=N_("volumes"))
    other = TextLine()
    other_with = TextLine()
    other_first = Number(what=N_("volumes"))
    other_second = Number(what=N_("volumes"))
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


def _asked(paints: PaintSet) -> ExploreChoices:
    form, row = read_form(ExploreForm, request.args), paints.colours or paints.tubes
    ends = [
        _end(
            paints,
            form.one.data or row[0].name,
            form.one_with.data,
            form.one_first.data,
            form.one_second.data,
        ),
        _end(
            paints,
            form.other.data or row[-1].name,
            form.other_with.data,
            form.other_first.data,
            form.other_second.data,
        ),
    ]
    if form.third.data:
        ends.append(_end(paints, form.third.data, "", None, None))
    steps = _USUAL_STEPS if form.steps.data is None else form.steps.data
    down = form.down.data or "none"
    if not FEWEST_STEPS <= steps <= MOST_STEPS or down not in _WHITES:
        raise BadPaint(gettext("One of the choices isn't on the list: choose it again."))
    return ExploreChoices(
        ends=tuple(ends),
        steps=steps,
        down=down,
        wet=form.wet.data,
    )


def _end(
    paints: PaintSet, name: str, beside: str, first: float | None, second: float | None
) -> ChosenEnd:
    tube = paints.tube(name)
    if not beside or beside == name:
        return ChosenEnd(tube=tube)
    volumes = (1.0 if first is None else first, 1.0 if second is None else second)
    if not all(0.0 < one <= _MOST_VOLUMES for one in volumes):
        raise BadPaint(gettext("Volumes are numbers from 0.01 to 100: write one such as 2."))
    return ChosenEnd(tube=tube, beside=paints.tube(beside), volumes=volumes)


def _explored(paints: PaintSet, asked: ExploreChoices) -> Exploration:
    thinned = _thinned(paints, asked.down)
    table = hue_words(db(), me().school_id).table
    distinct = len(set(asked.tubes)) == len(asked.tubes)
    shown = asked.ends if len(asked.ends) == 2 else ()
    walk: Walk | None = None
    spots: tuple[Spot, ...] = ()
    if distinct and len(asked.tubes) == 3:
        spots = _spots(asked, thinned, paints.binder, table)
    elif distinct:
        walk = _walk(asked, thinned, paints.binder, table)
    return Exploration(
        asked=asked,
        piles=tuple(say_parts(end.parts) for end in asked.ends),
        greyed=tuple(_greyed(end, paints, table) for end in shown if _has_hue(end, table)),
        walk=walk,
        spots=spots,
        drying=paints.binder.drying,
    )


def _has_hue(end: ChosenEnd, table: HueTable) -> bool:
    return end.tube.role is Role.COLOUR and table.lean(qualities(end.as_tube).shown).hue is not None


def _greyed(end: ChosenEnd, paints: PaintSet, table: HueTable) -> Greyed:
    """Say what of the set greys an end most, its own tubes left out."""
    others = tuple(tube for tube in paints.tubes if tube not in {p.tube for p in end.parts})
    found = partner(end.as_tube, others, table)
    fill, grey_fill = lab_to_hex([lab_of_parts(end.parts), lab_of([found.left])[0]])
    name = end.called
    if not found.by:
        words = gettext("Nothing in the set greys %(name)s.", name=name)
    else:
        by = listed([tube.label for tube in found.by])
        left = gettext("neutral") if found.goes_neutral else table.lean(found.left).words
        words = gettext(
            "%(name)s is greyed most by %(by)s: %(parts)s. What is left: %(left)s.",
            name=opening(name),
            by=by,
            parts=say_parts(found.parts),
            left=left,
        )
    return Greyed(fill=fill, grey_fill=grey_fill, words=words)


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
            parts=_in_lines(say_step([_short(end) for end in asked.ends], step.amounts)),
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


def _short(end: ChosenEnd) -> str:
    """Call an end by one word: a tube by its short name, a mix by what it is."""
    return gettext(end.tube.short) if end.beside is None else gettext("the mix")


def _in_lines(words: str) -> tuple[str, ...]:
    return tuple(textwrap.wrap(words, _LETTERS_A_LINE))


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
