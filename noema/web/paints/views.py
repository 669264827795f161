"""The paint shelf: sets, their tubes, and putting a set together."""

from dataclasses import dataclass

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.datastructures import MultiDict
from werkzeug.wrappers import Response as Answer
from wtforms import Form

from noema.actions.keep_paint_set import NewSet, change_set, keep_paint_set, remove_set
from noema.core.colour.names import temperature
from noema.core.errors import BadPaint, Refused
from noema.core.language import N_, gettext
from noema.core.pigments.cautions import cautions_of, pigment_caution
from noema.core.pigments.drying import Binder
from noema.core.pigments.qualities import Qualities, qualities
from noema.core.pigments.shelf import PLUS_BLACK, SETS, PaintSet
from noema.core.pigments.tube import Role, Tube
from noema.formats.set_json import set_to_json
from noema.store.paints import (
    HueWords,
    OwnTube,
    all_tubes,
    hue_words,
    own_sets,
    own_tubes,
    paint_set,
)
from noema.web.drawings.tube import Swatches, masstones, swatch_rows, tint_words
from noema.web.frame.forms import Exactly, Many, OneOf, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me

paints = Blueprint("paints", __name__)


@dataclass(frozen=True, kw_only=True)
class SetCard:
    """A set on the shelf."""

    paints: PaintSet
    fills: tuple[str, ...]  # masstones in order
    own: bool
    with_black: str  # reference of the same with black; empty for own sets


@dataclass(frozen=True, kw_only=True)
class ShelfPage:
    """Every set and every tube of the school's own."""

    frame: Frame
    built_in: tuple[SetCard, ...]
    own: tuple[SetCard, ...]
    own_tubes: tuple[tuple[OwnTube, str], ...]  # tube, masstone fill


@dataclass(frozen=True, kw_only=True)
class TubeRow:
    """A tube as the shelf shows it."""

    tube: Tube
    seen: Qualities
    swatches: Swatches
    lean: str
    temperature: str  # warm, cool, or empty
    caution: str


@dataclass(frozen=True, kw_only=True)
class SetPage:
    """One set, tube by tube."""

    frame: Frame
    paints: PaintSet
    ref: str
    own: bool
    rows: tuple[TubeRow, ...]
    tint_words: tuple[str, ...]
    cautions: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class TubeChoice:
    """A tube that may be put into a set."""

    tube: Tube
    fill: str
    chosen: bool
    lean: str


@dataclass(frozen=True, kw_only=True)
class MakingPage:
    """Putting a set together."""

    frame: Frame
    ref: str  # of the set that is changed; empty for a new one
    name: str
    binder: Binder
    choices: tuple[TubeChoice, ...]
    rows: tuple[TubeRow, ...]
    tint_words: tuple[str, ...]
    cautions: tuple[str, ...]
    sentence: str = ""
    binders: tuple[Binder, ...] = tuple(Binder)


class SetForm(Form):
    """A paint set: its name, its medium and its tubes."""

    name_ = Exactly(name="name")
    medium = OneOf(
        Binder, N_("The medium isn't on the list: choose it again."), usual=Binder.ACRYLIC
    )
    tube = Many()


@paints.get("/paints")
def shelf() -> str:
    """Show all sets and own tubes."""
    own = own_tubes(db(), me().school_id)
    fills = masstones([one.fitted.tube for one in own.values()]) if own else []
    page = ShelfPage(
        frame=frame(Stage.PLAN),
        built_in=tuple(_card(one, own=False) for one in SETS.values()),
        own=tuple(_card(one, own=True) for one in own_sets(db(), me().school_id)),
        own_tubes=tuple(zip(own.values(), fills, strict=True)),
    )
    return render_template("paints/shelf.html", page=page)


@paints.get("/paints/sets/<set_ref>")
def of_set(set_ref: str) -> str:
    """Show a set tube by tube."""
    chosen = paint_set(db(), me().school_id, set_ref)
    page = SetPage(
        frame=frame(Stage.PLAN),
        paints=chosen,
        ref=set_ref,
        own=set_ref.isdigit(),
        rows=tube_rows(chosen.tubes, chosen.binder),
        tint_words=tint_words(chosen.binder),
        cautions=cautions_of(chosen.tubes, chosen.binder),
    )
    return render_template("paints/set.html", page=page)


@paints.get("/paints/sets/<set_ref>/file")
def file(set_ref: str) -> Response:
    """Give a set as a file other programs can read."""
    chosen = paint_set(db(), me().school_id, set_ref)
    answer = Response(set_to_json(chosen), mimetype="application/json")
    answer.headers["Content-Disposition"] = f'attachment; filename="set-{set_ref}.json"'
    return answer


@paints.get("/paints/new")
def new_set() -> str:
    """Show the form, beginning with a copy of a set."""
    base = paint_set(db(), me().school_id, request.args.get("base", "split-six"))
    name = request.args.get("name", "")
    page = _making("", name, base.binder, tuple(tube.name for tube in base.tubes))
    return render_template("paints/make.html", page=page)


@paints.get("/paints/preview")
def preview() -> str:
    """Show the tubes of the set as it is chosen so far."""
    new = _choices(request.args)
    page = _making("", new.name, new.binder, new.tubes)
    return render_template("paints/tubes.html", page=page)


@paints.post("/paints/new")
def keep() -> Answer | tuple[str, int]:
    """Keep a new set."""
    new = _choices()
    try:
        ref = keep_paint_set(db(), me().school_id, new)
    except Refused as refusal:
        page = _making("", new.name, new.binder, new.tubes, str(refusal))
        return render_template("paints/make.html", page=page), status_of(refusal)
    return redirect(url_for("paints.of_set", set_ref=ref))


@paints.get("/paints/sets/<set_ref>/change")
def change(set_ref: str) -> str:
    """Show the form of one of the school's sets."""
    chosen = _own(set_ref)
    names = tuple(tube.name for tube in chosen.tubes)
    page = _making(set_ref, chosen.label, chosen.binder, names)
    return render_template("paints/make.html", page=page)


@paints.post("/paints/sets/<set_ref>/change")
def change_now(set_ref: str) -> Answer | tuple[str, int]:
    """Change one of the school's sets."""
    _own(set_ref)
    new = _choices()
    try:
        change_set(db(), me().school_id, set_ref, new)
    except Refused as refusal:
        page = _making(set_ref, new.name, new.binder, new.tubes, str(refusal))
        return render_template("paints/make.html", page=page), status_of(refusal)
    return redirect(url_for("paints.of_set", set_ref=set_ref))


@paints.post("/paints/sets/<set_ref>/remove")
def remove(set_ref: str) -> Answer:
    """Take one of the school's sets off the shelf."""
    _own(set_ref)
    remove_set(db(), me().school_id, set_ref)
    return redirect(url_for("paints.shelf"))


def tube_rows(tubes: tuple[Tube, ...], binder: Binder) -> tuple[TubeRow, ...]:
    """Look at each tube as the school names hues."""
    words = hue_words(db(), me().school_id)
    return tuple(
        _row(tube, swatches, words)
        for tube, swatches in zip(tubes, swatch_rows(tubes, binder), strict=True)
    )


def _row(tube: Tube, swatches: Swatches, words: HueWords) -> TubeRow:
    seen = qualities(tube)
    lean = words.table.lean(seen.shown)
    return TubeRow(
        tube=tube,
        seen=seen,
        swatches=swatches,
        lean=gettext(tube.role.value) if tube.role is not Role.COLOUR else lean.words,
        temperature=temperature(lean, words.warm_blue) or "",
        caution=pigment_caution(tube),
    )


def _card(chosen: PaintSet, *, own: bool) -> SetCard:
    return SetCard(
        paints=chosen,
        fills=tuple(masstones(chosen.tubes, chosen.binder)),
        own=own,
        with_black="" if own else f"{chosen.name}{PLUS_BLACK}",
    )


def _own(set_ref: str) -> PaintSet:
    """Find a set that may be changed: one of the school's own."""
    chosen = paint_set(db(), me().school_id, set_ref)
    if not set_ref.isdigit():
        raise BadPaint(gettext("A built-in set stays as it is: make a copy of it and change that."))
    return chosen


def _choices(given: MultiDict[str, str] | None = None) -> NewSet:
    form = read_form(SetForm, given)
    return NewSet(name=form.name_.data, binder=form.medium.data, tubes=form.tube.data)


def _making(
    ref: str, name: str, binder: Binder, names: tuple[str, ...], sentence: str = ""
) -> MakingPage:
    every = all_tubes(db(), me().school_id)
    words = hue_words(db(), me().school_id)
    fills = masstones(list(every.values()), binder)
    chosen = tuple(every[one] for one in names if one in every)
    return MakingPage(
        frame=frame(Stage.PLAN),
        ref=ref,
        name=name,
        binder=binder,
        choices=tuple(
            TubeChoice(
                tube=tube,
                fill=fill,
                chosen=tube in chosen,
                lean=words.table.lean(qualities(tube).shown).words,
            )
            for tube, fill in zip(every.values(), fills, strict=True)
        ),
        rows=tube_rows(chosen, binder),
        tint_words=tint_words(binder),
        cautions=cautions_of(chosen, binder),
        sentence=sentence,
    )
