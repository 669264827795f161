"""Schemes from one colour of a picture outwards."""

from collections.abc import Sequence
from dataclasses import dataclass

from flask import request
from wtforms import Form

from noema.actions.log_colours import amounts_of
from noema.actions.paint_from import colours_of_kept, said_of, spot_name
from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import NEAR_NEUTRAL_BELOW
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import Refused
from noema.core.language import N_, gettext
from noema.core.logbook.entry import Entry, EntryKind
from noema.core.pictures.colours import shares_of_colours
from noema.core.pictures.schemes import (
    USUAL_SHARES,
    Scheme,
    SchemeKind,
    scheme_fits,
    scheme_from,
)
from noema.core.pigments.says import say_left, say_parts
from noema.formats.scenes import SCENES
from noema.formats.spots import CarriedColour
from noema.store.pictures import KeptPicture, KeptSpot, spots_of
from noema.web.frame.forms import OneOf, TextLine, Whole, read_form
from noema.web.frame.page import Frame
from noema.web.frame.request import db, files
from noema.web.paint_from.desk import PictureDesk

_BAR = 100.0


class SchemeForm(Form):
    """Which scheme, from which spot, in which shares, seen on which picture."""

    spot = Whole()
    kind = OneOf(SchemeKind, N_("Choose one of the schemes shown."), usual=SchemeKind.COMPLEMENT)
    shares = TextLine(most=20)
    on = TextLine(most=20)


@dataclass(frozen=True, kw_only=True)
class SchemeAsked:
    """A scheme and what it was asked with."""

    spot: KeptSpot
    kind: SchemeKind
    shares: tuple[int, ...]
    scheme: Scheme


@dataclass(frozen=True, kw_only=True)
class SchemeLine:
    """A colour of a scheme as it is shown."""

    hue: str
    fill: str
    said: str
    percent: str
    start: float  # of its part of the bar
    width: float
    parts: str
    left: str  # what the tubes can't reach


@dataclass(frozen=True, kw_only=True)
class FitLine:
    """How much of a picture lies on a scheme."""

    label: str
    base: str
    percent: str


@dataclass(frozen=True, kw_only=True)
class SchemesPage:
    """Schemes from a spot of a picture."""

    frame: Frame | None
    desk: PictureDesk
    name: str
    picture: KeptPicture
    tab: str
    bases: tuple[tuple[int, str], ...]  # spots that have a hue
    asked: SchemeAsked | None
    lines: tuple[SchemeLine, ...]
    fits: tuple[FitLine, ...]
    kinds: tuple[tuple[str, str], ...]
    scenes: tuple[tuple[str, str], ...]  # it can be seen on
    on: str  # a scene; empty: the picture itself
    query: str


def scheme_asked(desk: PictureDesk, picture: KeptPicture) -> SchemeAsked:
    """Build the scheme that an address asks for."""
    form = read_form(SchemeForm, request.args)
    spots = _with_hue(spots_of(db(), picture.id))
    spot = next((one for one in spots if one.id == form.spot.data), spots[0] if spots else None)
    if spot is None:
        raise Refused(gettext("Point at a colour that isn't grey first: a scheme begins with it."))
    shares = _shares(form.shares.data)
    kind: SchemeKind = form.kind.data
    return SchemeAsked(
        spot=spot,
        kind=kind,
        shares=shares,
        scheme=scheme_from(spot.lab, kind, desk.paints, desk.table, shares),
    )


def schemes_page(desk: PictureDesk, picture: KeptPicture) -> SchemesPage:
    """Show a scheme, and how close the picture is to each."""
    spots = _with_hue(spots_of(db(), picture.id))
    asked = scheme_asked(desk, picture) if spots else None
    shares = shares_of_colours(colours_of_kept(files(), picture))
    return SchemesPage(
        frame=desk.frame,
        desk=desk,
        name=desk.name,
        picture=picture,
        tab="schemes",
        bases=tuple((one.id, spot_name(one)) for one in spots),
        asked=asked,
        lines=() if asked is None else _lines(asked.scheme, desk),
        fits=tuple(
            FitLine(label=gettext(one.kind.label), base=one.base, percent=f"{one.share:.0%}")
            for one in scheme_fits(shares, desk.table)
        ),
        kinds=tuple((kind.value, gettext(kind.label)) for kind in SchemeKind),
        scenes=tuple((name, gettext(label)) for name, label in SCENES.items()),
        on=scene_asked(),
        query="" if asked is None else query_of(asked),
    )


def scene_asked() -> str:
    """Give the scene on which an address wants a scheme seen; empty: the picture itself."""
    asked: str = read_form(SchemeForm, request.args).on.data
    return asked if asked in SCENES else ""


def query_of(asked: SchemeAsked) -> str:
    """Give the address's part that asks for the same scheme."""
    shares = "%3A".join(str(one) for one in asked.shares)
    return f"spot={asked.spot.id}&kind={asked.kind.value}&shares={shares}"


def carried_scheme(asked: SchemeAsked, desk: PictureDesk) -> tuple[CarriedColour, ...]:
    """Give a scheme's colours to carry along."""
    return tuple(
        CarriedColour(
            entry=Entry(
                kind=EntryKind.SPOT,
                title=one.hue,
                lab=one.lab,
                parts=amounts_of(one.recipe.parts),
                words=said_of(hvc_of(one.lab), desk.table),
            ),
            share=round(one.share, 4),
        )
        for one in asked.scheme.colours
    )


def _lines(scheme: Scheme, desk: PictureDesk) -> tuple[SchemeLine, ...]:
    fills = lab_to_hex([one.lab for one in scheme.colours])
    lines, start = [], 0.0
    for one, fill in zip(scheme.colours, fills, strict=True):
        lines.append(
            SchemeLine(
                hue=one.hue,
                fill=fill,
                said=said_of(hvc_of(one.lab), desk.table),
                percent=f"{one.share:.0%}",
                start=round(start, 2),
                width=round(_BAR * one.share, 2),
                parts=say_parts(one.recipe.parts),
                left=say_left(one.recipe, desk.table),
            )
        )
        start += _BAR * one.share
    return tuple(lines)


def _with_hue(spots: Sequence[KeptSpot]) -> list[KeptSpot]:
    return [one for one in spots if hvc_of(one.lab).chroma >= NEAR_NEUTRAL_BELOW]


def _shares(text: str) -> tuple[int, ...]:
    if not text:
        return USUAL_SHARES
    try:
        return tuple(int(one) for one in text.replace(",", ":").split(":"))
    except ValueError as wrong:
        raise Refused(gettext("Write shares as whole numbers, such as 6:3:1.")) from wrong
