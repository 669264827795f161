"""Pairs of a set's tubes side by side: which gives the best of a hue."""

from dataclasses import dataclass

from flask import Blueprint, render_template
from flask import request as asked

from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.pigments.bridge import bridge
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.pairs import Pair, pairs_for
from noema.core.pigments.reach import CLEAN_FROM, DEAD_BELOW
from noema.core.pigments.says import say_parts
from noema.core.pigments.shelf import PaintSet
from noema.store.paints import hue_words, paint_set
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

pairing = Blueprint("pairing", __name__)

_STEPS = 9
_USUAL_HUE = "violet"


@dataclass(frozen=True, kw_only=True)
class PairLine:
    """A pair, the way between its tubes, and its best mix of the hue."""

    pair: Pair
    way: tuple[str, ...]  # fills from the first tube to the second
    fill: str
    parts: str
    chroma: float
    value: float
    lean: str


@dataclass(frozen=True, kw_only=True)
class PairsPage:
    """Pairs for one hue, the most intense first."""

    frame: Frame
    paints: PaintSet
    ref: str
    hue: str
    hues: tuple[str, ...]
    lines: tuple[PairLine, ...]
    clean_from: float = CLEAN_FROM
    dead_below: float = DEAD_BELOW


@pairing.get("/paints/sets/<set_ref>/pairs")
def pairs(set_ref: str) -> str:
    """Show every pair that gives a hue."""
    paints = paint_set(db(), me().school_id, set_ref)
    table = hue_words(db(), me().school_id).table
    names = tuple(hue.name for hue in table.hues(12))
    wanted = asked.args.get("hue", _USUAL_HUE)
    hue = wanted if wanted in names else _USUAL_HUE
    page = PairsPage(
        frame=frame(Stage.PLAN),
        paints=paints,
        ref=set_ref,
        hue=hue,
        hues=names,
        lines=tuple(
            _line(pair, paints, table) for pair in pairs_for(paints.tubes, table.of(hue).hue100)
        ),
    )
    return render_template("paints/pairs.html", page=page)


def _line(pair: Pair, paints: PaintSet, table: HueTable) -> PairLine:
    way = bridge(*pair.tubes, _STEPS, surface=paints.binder.dry)
    return PairLine(
        pair=pair,
        way=tuple(lab_to_hex([step.lab for step in way.steps])),
        fill=lab_to_hex([lab_of_parts(pair.parts)])[0],
        parts=say_parts(pair.parts),
        chroma=pair.hvc.chroma,
        value=pair.hvc.value,
        lean=table.lean(pair.hvc).words,
    )
