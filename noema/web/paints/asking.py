"""What an exercise would ask with a set of paints, before anything is assigned."""

from dataclasses import dataclass

from flask import Blueprint, Response, render_template, request, url_for
from werkzeug.datastructures import MultiDict

from noema.core.errors import BadExercise, Refused
from noema.core.exercises.asked import Arrangement, Asked, Concern, Ground, SheetKey, Wanted
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.kind import Kind
from noema.core.pigments.says import say_parts
from noema.core.pigments.shelf import PaintSet
from noema.core.sheet.drawn_worksheet import draw_key_sheet
from noema.core.sheet.paper import Paper
from noema.formats.sheet_pdf import sheets_pdf
from noema.store.paints import hue_words, paint_set
from noema.web.drawings.asked_sheet import AskedSheet, make_asked_sheet
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

asking = Blueprint("asking", __name__)

_RINGS = ("tint-in", "tint-out", "shade", "grey", "neutral-1", "neutral-2", "neutral-3")


@dataclass(frozen=True, kw_only=True)
class Mix:
    """A cell in words."""

    label: str
    parts: str
    note: str
    limit: str


@dataclass(frozen=True, kw_only=True)
class Answer:
    """The exercise, or why it can't be."""

    kind: Kind
    key_url: str  # of the key sheet for the same choices
    title: str = ""
    sheet: AskedSheet | None = None
    wheel: bool = False
    concerns: tuple[Concern, ...] = ()
    how_to: tuple[str, ...] = ()
    mixes: tuple[Mix, ...] = ()
    refusal: str = ""


@dataclass(frozen=True, kw_only=True)
class AskingPage:
    """The form and the answer."""

    frame: Frame
    paints: PaintSet
    ref: str
    steps: str  # as typed
    wanted: Wanted
    named: bool
    answer: Answer
    kinds: tuple[Kind, ...] = tuple(KINDS.values())
    ring_choices: tuple[str, ...] = _RINGS


@dataclass(frozen=True, kw_only=True)
class AnswerPage:
    """The answer alone."""

    answer: Answer


@asking.get("/paints/sets/<set_ref>/exercises")
def exercises(set_ref: str) -> str:
    """Show the form and the exercise."""
    paints = paint_set(db(), me().school_id, set_ref)
    page = AskingPage(
        frame=frame(Stage.PLAN),
        paints=paints,
        ref=set_ref,
        steps=request.args.get("steps", "")[:4],
        wanted=_choices(),
        named=request.args.get("key") == SheetKey.NAMED.value,
        answer=_answer(paints, set_ref),
    )
    return render_template("paints/asking.html", page=page)


@asking.get("/paints/sets/<set_ref>/exercises/asked")
def asked(set_ref: str) -> str:
    """Show the exercise for the choices so far."""
    paints = paint_set(db(), me().school_id, set_ref)
    return render_template("paints/asked.html", page=AnswerPage(answer=_answer(paints, set_ref)))


@asking.get("/paints/sets/<set_ref>/exercises/key.pdf")
def key_sheet(set_ref: str) -> Response:
    """Give the key sheet for the wall."""
    paints = paint_set(db(), me().school_id, set_ref)
    drawing = draw_key_sheet(_worked_out(paints), Paper.A4, paints.label)
    return Response(sheets_pdf([drawing], drawing.title), mimetype="application/pdf")


def _choices() -> Wanted:
    """Give the choices so far, or none where one of them makes no sense."""
    try:
        return _wanted(request.args, _kind(request.args))
    except BadExercise:
        return Wanted()


def _answer(paints: PaintSet, set_ref: str) -> Answer:
    kind = _kind(request.args)
    key_url = f"{url_for('asking.key_sheet', set_ref=set_ref)}?{request.query_string.decode()}"
    try:
        found = _worked_out(paints)
        sheet = make_asked_sheet(found, Paper.A4)
    except Refused as refusal:
        return Answer(kind=kind, key_url=key_url, refusal=str(refusal))
    return Answer(
        kind=kind,
        key_url=key_url,
        title=found.title,
        sheet=sheet,
        wheel=found.arrangement is Arrangement.WHEEL,
        concerns=found.concerns,
        how_to=found.how_to,
        mixes=tuple(
            Mix(label=c.label or c.id, parts=say_parts(c.parts), note=c.note, limit=c.limit)
            for c in found.cells
        ),
    )


def _worked_out(paints: PaintSet) -> Asked:
    kind = _kind(request.args)
    words = hue_words(db(), me().school_id)
    named = request.args.get("key") == SheetKey.NAMED.value
    key = SheetKey.NAMED if named else SheetKey.PAINTS
    ground = Ground(paints=paints, table=words.table, key=key)
    return kind.asked(_wanted(request.args, kind), ground)


def _kind(form: MultiDict[str, str]) -> Kind:
    return kind_of(form.get("kind", "colour-wheel"))


def _wanted(form: MultiDict[str, str], kind: Kind) -> Wanted:
    """Read the choices this kind has; what belongs to another kind is passed over."""
    takes = kind.takes

    def number(name: str) -> int | None:
        text = form.get(name, "").strip()
        if name not in takes or not text:
            return None
        if not text.isdigit() or len(text) > 4:
            raise BadExercise(f"{name}: “{text[:20]}” is not a whole number.")
        return int(text)

    return Wanted(
        steps=number("steps"),
        hues=number("hues"),
        primaries=number("primaries"),
        count=number("count"),
        rings=tuple(form.getlist("ring")) if "rings" in takes else (),
        tubes=tuple(form.getlist("tube")) if "tubes" in takes else (),
        tints="tints" in takes and form.get("tints") == "1",
        sides="sides" in takes and form.get("sides") == "1",
    )
