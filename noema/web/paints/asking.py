"""What an exercise would ask with a set of paints, before anything is assigned."""

from dataclasses import dataclass

from flask import Blueprint, Response, render_template, request, url_for

from noema.core.errors import Refused
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import KINDS, AnyKind, has, kind_of
from noema.core.exercises.kind import Trait
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.language import N_, gettext
from noema.core.pigments.shelf import PaintSet
from noema.core.sheet.key_sheet import draw_key_sheets
from noema.core.sheet.paper import Paper
from noema.store.paints import hue_words, paint_set
from noema.web.exercises.fields import Select, select
from noema.web.exercises.options import OptionFields, chosen_in, fields_of_kind
from noema.web.exercises.showing import Shown, show
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.printing.sizes import drawings_pdf

asking = Blueprint("asking", __name__)

_USUAL_KIND = next(name for name in KINDS if has(name, Trait.OPENS_A_SET))
_KEYS = (
    (Key.PAINTS.value, N_("what these paints give")),
    (Key.NAMED.value, N_("named hues, fixed ends of value")),
)


@dataclass(frozen=True, kw_only=True)
class AskedPage:
    """The form and the exercise; the part that is drawn anew at every choice."""

    ref: str
    kinds: Select
    options: OptionFields
    keys: Select
    shown: Shown | None
    refusal: str


@dataclass(frozen=True, kw_only=True)
class AskingPage(AskedPage):
    """The whole page."""

    frame: Frame
    paints: PaintSet


@asking.get("/paints/sets/<set_ref>/exercises")
def exercises(set_ref: str) -> str:
    """Show the form and the exercise."""
    paints = paint_set(db(), me().school_id, set_ref)
    part = _asked_page(paints, set_ref)
    page = AskingPage(frame=frame(Stage.PLAN), paints=paints, **vars(part))
    return render_template("paints/asking.html", page=page)


@asking.get("/paints/sets/<set_ref>/exercises/asked")
def asked(set_ref: str) -> str:
    """Show the exercise for the choices so far."""
    paints = paint_set(db(), me().school_id, set_ref)
    return render_template("paints/asked.html", page=_asked_page(paints, set_ref))


@asking.get("/paints/sets/<set_ref>/exercises/key.pdf")
def key_sheet(set_ref: str) -> Response:
    """Give the key sheet for the wall."""
    paints = paint_set(db(), me().school_id, set_ref)
    drawings = draw_key_sheets(_worked_out(paints), Paper.A4, paints.label)
    return drawings_pdf(drawings, drawings[0].title)


def _asked_page(paints: PaintSet, set_ref: str) -> AskedPage:
    kind, shown, refusal = _kind(), None, ""
    key_url = f"{url_for('asking.key_sheet', set_ref=set_ref)}?{request.query_string.decode()}"
    table = hue_words(db(), me().school_id).table
    try:
        medium = Medium(paints.binder.value)
        shown = show(_worked_out(paints), paints, medium, Paper.A4, table, key_url)
    except Refused as said:
        refusal = str(said)
    return AskedPage(
        ref=set_ref,
        kinds=select("kind", "Exercise", ((k.name, k.label) for k in KINDS.values()), kind.name),
        options=fields_of_kind(kind, request.args, paints, table),
        keys=select("key", gettext("Held against"), _KEYS, request.args.get("key", "")),
        shown=shown,
        refusal=refusal,
    )


def _worked_out(paints: PaintSet) -> Asked:
    kind = _kind()
    named = request.args.get("key") == Key.NAMED.value
    table = hue_words(db(), me().school_id).table
    ground = Ground(paints=paints, table=table, key=Key.NAMED if named else Key.PAINTS)
    return kind.asked(chosen_in(request.args, kind, paints, Level.INTERMEDIATE), ground)


def _kind() -> AnyKind:
    return kind_of(request.args.get("kind") or _USUAL_KIND)
