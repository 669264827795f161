"""One exercise of a unit: its choices, what comes before it, how it is painted."""

from dataclasses import dataclass, replace
from datetime import date

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.datastructures import MultiDict
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.change_unit import change_unit
from noema.actions.frames import frame_of_class
from noema.actions.school_days import day_of
from noema.core.errors import NotFound, Refused
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Level
from noema.core.exercises.media import Medium
from noema.core.language import N_, gettext
from noema.core.pigments.shelf import PaintSet
from noema.core.planning.asking import USUAL_PAINTS
from noema.core.planning.changes import instead
from noema.core.planning.frame import MOST_GOES, Wish
from noema.formats.options_json import options_from_json, options_to_json
from noema.store.classes import ClassRow, class_of_school
from noema.store.paints import hue_words, paint_set
from noema.web.exercises.options import Given, OptionFields, chosen_in, fields_of_kind, form_of
from noema.web.frame.forms import Many, OneOf, Said, TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.unit.page import sets_to_choose

wish = Blueprint("wish", __name__)

LEVEL = Level.BEGINNER


@dataclass(frozen=True, kw_only=True)
class WishPage:
    """One exercise of a unit."""

    frame: Frame
    row: ClassRow
    wish: Wish
    title: str
    options: OptionFields
    sets: tuple[tuple[str, str], ...]
    media: tuple[Medium, ...]
    before: tuple[tuple[str, str, bool], ...]  # wishes before it, and whether it comes after them
    most_goes: int
    sentence: str = ""


class ChoicesForm(Form):
    """What is chosen beside a kind's own options."""

    set_ = TextLine(name="set")
    medium = OneOf(Medium, N_("Choose a medium."))
    redo = Said("redo", name="redo")
    goes = Whole()
    pinned = TextLine()
    after = Many()


@wish.get("/classes/<int:class_id>/unit/wishes/<wish_id>")
def of_class(class_id: int, wish_id: str) -> str:
    """Show its choices."""
    return render_template("unit/wish.html", page=_page(class_id, wish_id))


@wish.post("/classes/<int:class_id>/unit/wishes/<wish_id>/choices")
def choose(class_id: int, wish_id: str) -> Response | tuple[str, int]:
    """Keep what was chosen; the unit is planned anew."""
    try:
        _, one = _wish(class_id, wish_id)
        change_unit(db(), me().school_id, class_id, instead(_chosen(one, request.form)))
    except Refused as refusal:
        page = _page(class_id, wish_id, request.form, str(refusal))
        return render_template("unit/wish.html", page=page), status_of(refusal)
    return redirect(url_for("unit.of_class", class_id=class_id), 303)


def _chosen(one: Wish, form: Given) -> Wish:
    given = read_form(ChoicesForm, form)
    kind, ref = kind_of(one.kind), given.set_.data or None
    options = options_to_json(chosen_in(form, kind, _paints(ref), LEVEL))
    goes = min(max(given.goes.data or 1, 1), MOST_GOES)
    pinned: date | None = day_of(given.pinned.data) if given.pinned.data else None
    # Days of later steps are of the exercise as it was cut before.
    is_cut_alike = options == dict(one.options) and goes == one.goes
    return replace(
        one,
        options=options,
        set_ref=ref,
        medium=given.medium.data,
        redo=given.redo.data,
        goes=goes,
        pinned=pinned,
        pins=one.pins if is_cut_alike else {},
        after=tuple(given.after.data),
    )


def _paints(ref: str | None) -> PaintSet:
    return paint_set(db(), me().school_id, ref or USUAL_PAINTS)


def _wish(class_id: int, wish_id: str) -> tuple[tuple[Wish, ...], Wish]:
    """Give what stands before a wish in its unit, and the wish."""
    unit = frame_of_class(db(), me().school_id, class_id).classes[0].unit
    for n, one in enumerate(unit):
        if one.id == wish_id:
            return unit[:n], one
    raise NotFound(gettext("There is no such exercise in this unit: choose one of its list."))


def _page(class_id: int, wish_id: str, form: Given | None = None, sentence: str = "") -> WishPage:
    row = class_of_school(db(), me().school_id, class_id)
    before, one = _wish(class_id, wish_id)
    kind = kind_of(one.kind)
    given = MultiDict(form_of(options_from_json(kind, one.options))) if form is None else form
    try:
        paints = _paints(one.set_ref)
    except NotFound:  # it is gone from the shelf: another is chosen here
        paints = _paints(None)
    return WishPage(
        frame=frame(Stage.PLAN),
        row=row,
        wish=one,
        title=gettext(kind.label),
        options=fields_of_kind(kind, given, paints, hue_words(db(), me().school_id).table),
        sets=sets_to_choose(),
        media=tuple(Medium),
        before=tuple(
            (other.id, gettext(kind_of(other.kind).label), other.id in one.after)
            for other in before
        ),
        most_goes=MOST_GOES,
        sentence=sentence,
    )
