"""What a set of paints can do: its reach, best pairs, dead zones, true partners, mixed darks."""

from dataclasses import dataclass

from flask import Blueprint, render_template

from noema.core.colour.hvc import lab_of
from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.language import gettext
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.pairs import mend_for
from noema.core.pigments.partners import Dark, Partner, darks, partners
from noema.core.pigments.reach import Ceiling, ceilings, reach
from noema.core.pigments.says import say_ceiling, say_parts
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Role, Tube
from noema.core.words.amounts import opening
from noema.store.paints import all_tubes, hue_words, paint_set
from noema.web.drawings.wheel import Wheel, make_wheel
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

reaching = Blueprint("reaching", __name__)


@dataclass(frozen=True, kw_only=True)
class HueLine:
    """The best mix of a named hue."""

    ceiling: Ceiling
    fill: str
    parts: str
    secondary: bool


@dataclass(frozen=True, kw_only=True)
class PartnerLine:
    """What greys a tube."""

    partner: Partner
    by: str
    parts: str
    fill: str
    left: str  # what the mix leans to, or that it is neutral
    named: str  # the wheel's complement, and whether the set has it


@dataclass(frozen=True, kw_only=True)
class DarkLine:
    """A mixed dark."""

    dark: Dark
    parts: str
    fill: str
    tint_fill: str
    leans: str


@dataclass(frozen=True, kw_only=True)
class ReachPage:
    """Everything a teacher asks of a set before assigning."""

    frame: Frame
    paints: PaintSet
    ref: str
    wheel: Wheel
    hues: tuple[HueLine, ...]
    limits: tuple[str, ...]  # dead and muted zones, in sentences
    partners: tuple[PartnerLine, ...]
    darks: tuple[DarkLine, ...]


@reaching.get("/paints/sets/<set_ref>/reach")
def reach_page(set_ref: str) -> str:
    """Show what a set can do."""
    paints = paint_set(db(), me().school_id, set_ref)
    table = hue_words(db(), me().school_id).table
    tubes = paints.tubes
    found = ceilings(tubes, table)
    shelf = tuple(all_tubes(db(), me().school_id).values())
    page = ReachPage(
        frame=frame(Stage.PLAN),
        paints=paints,
        ref=set_ref,
        wheel=make_wheel(tubes, reach(tubes), table),
        hues=tuple(_hue_line(one, place % 2 == 0) for place, one in enumerate(found)),
        limits=tuple(_limit(one, tubes, shelf) for one in found if one.word != "clean"),
        partners=tuple(_partner_line(one, table) for one in partners(tubes, table)),
        darks=tuple(_dark_line(one, table) for one in darks(tubes)),
    )
    return render_template("paints/reach.html", page=page)


def _limit(one: Ceiling, tubes: tuple[Tube, ...], shelf: tuple[Tube, ...]) -> str:
    """Say what holds a hue back, and which tube of the shelf would mend it."""
    said = opening(say_ceiling(one))
    used = tuple(part.tube for part in one.parts) or tubes
    white = tuple(tube for tube in tubes if tube.role is Role.WHITE and tube not in used)
    others = tuple(tube for tube in shelf if tube not in tubes)
    mend = mend_for((*used, *white), others, one.hue.hue100, one.hvc.chroma)
    if mend is None:
        return f"{said}."
    reached = format(mend.chroma, ".0f")
    if mend.beside is None:
        return gettext(
            "%(said)s. A tube of %(tube)s reaches %(chroma)s by itself.",
            said=said,
            tube=mend.tube.label,
            chroma=reached,
        )
    return gettext(
        "%(said)s. With %(tube)s beside %(beside)s it would reach %(chroma)s.",
        said=said,
        tube=mend.tube.label,
        beside=mend.beside.label,
        chroma=reached,
    )


def _hue_line(one: Ceiling, secondary: bool) -> HueLine:
    fill = lab_to_hex(lab_of_parts(one.parts)[None])[0] if one.parts else ""
    return HueLine(ceiling=one, fill=fill, parts=say_parts(one.parts), secondary=secondary)


def _partner_line(one: Partner, table: HueTable) -> PartnerLine:
    left, nothing = one.left, gettext("no tube of the set")
    by = ""
    for tube in one.by:
        by = gettext("%(tube)s with %(other)s", tube=by, other=tube.label) if by else tube.label
    named = ", ".join(gettext(tube.label) for tube in one.named_tubes)
    return PartnerLine(
        partner=one,
        by=by,
        parts=say_parts(one.parts),
        fill=lab_to_hex(lab_of([left]))[0],
        left=gettext("neutral") if one.goes_neutral else table.lean(left).words,
        named=f"{one.named}: {named or nothing}" if one.named else "",
    )


def _dark_line(one: Dark, table: HueTable) -> DarkLine:
    tint = one.let_down
    fill, tint_fill = lab_to_hex([lab_of_parts(one.parts), lab_of([tint])[0]])
    return DarkLine(
        dark=one,
        parts=say_parts(one.parts),
        fill=fill,
        tint_fill=tint_fill,
        leans=table.lean(tint).words,
    )
