"""The school's words for hues: where each name lies, and which blue is called warm."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.name_hues import name_hues
from noema.core.colour.hvc import HVC, hvc_to_lab
from noema.core.colour.names import TWELVE_NAMES, USUAL_HUES, HueTable, WarmBlue
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import BadHueTable, Refused
from noema.core.language import N_, gettext
from noema.store.paints import hue_words
from noema.web.frame.forms import Exactly, OneOf, Said, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me

naming = Blueprint("naming", __name__)

_SHOWN_VALUE, _SHOWN_CHROMA = 6.0, 8.0  # every name at the same value and chroma


@dataclass(frozen=True, kw_only=True)
class NameLine:
    """One name and the hue it stands for."""

    name: str
    hue100: str
    notation: str
    fill: str
    usual: float


@dataclass(frozen=True, kw_only=True)
class HuesPage:
    """The table of names."""

    frame: Frame
    lines: tuple[NameLine, ...]
    warm_blue: WarmBlue
    sentence: str = ""


class HuesForm(Form):
    """Where each name lies on the circle, and which blue is warm; or back to the usual."""

    warm_blue = OneOf(WarmBlue, N_("Choose which blue is warm."), usual=WarmBlue.VIOLET)
    usual = Said("1")


for _name in TWELVE_NAMES:
    setattr(HuesForm, _name, Exactly())


@naming.get("/paints/hues")
def hues() -> str:
    """Show the table."""
    words = hue_words(db(), me().school_id)
    return render_template("paints/hues.html", page=_page(words.table, words.warm_blue))


@naming.post("/paints/hues")
def name_now() -> Response | tuple[str, int]:
    """Change the table, or bring the usual one back."""
    form = read_form(HuesForm)
    warm = form.warm_blue.data
    try:
        name_hues(db(), me().school_id, _given(form), warm)
    except Refused as refusal:
        page = _page(hue_words(db(), me().school_id).table, warm, form, str(refusal))
        return render_template("paints/hues.html", page=page), status_of(refusal)
    return redirect(url_for("naming.hues"))


def _given(form: HuesForm) -> dict[str, float]:
    if form.usual.data:
        return {hue.name: hue.hue100 for hue in USUAL_HUES.twelve}
    numbers = {}
    for name in TWELVE_NAMES:
        text = form[name].data.strip().replace(",", ".")
        try:
            numbers[name] = float(text)
        except ValueError as wrong:
            raise BadHueTable(
                gettext("%(name)s: “%(text)s” is not a number from 0 to 100.", name=name, text=text)
            ) from wrong
        if not 0.0 <= numbers[name] <= 100.0:
            raise BadHueTable(
                gettext("%(name)s: “%(text)s” is not a number from 0 to 100.", name=name, text=text)
            )
    return numbers


def _page(
    table: HueTable, warm_blue: WarmBlue, form: HuesForm | None = None, sentence: str = ""
) -> HuesPage:
    twelve = table.twelve
    labs = hvc_to_lab([(hue.hue100, _SHOWN_VALUE, _SHOWN_CHROMA) for hue in twelve])
    lines = tuple(
        NameLine(
            name=hue.name,
            hue100=f"{hue.hue100:g}" if form is None else form[hue.name].data,
            notation=HVC(hue100=hue.hue100, value=5.0, chroma=8.0).notation,
            fill=fill,
            usual=usual.hue100,
        )
        for hue, fill, usual in zip(twelve, lab_to_hex(labs), USUAL_HUES.twelve, strict=True)
    )
    return HuesPage(frame=frame(Stage.PLAN), lines=lines, warm_blue=warm_blue, sentence=sentence)
