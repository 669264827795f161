"""A picture's spots as they are shown: what is there, and how to mix it."""

from dataclasses import dataclass, replace
from typing import Any

from flask import request, url_for
from wtforms import Form

from noema.actions.paint_from import (
    recipe_for,
    said_of,
    spot_entry,
    spot_name,
)
from noema.core.bench.says import how_near
from noema.core.colour.hvc import hvc_of
from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.catalogue import KINDS
from noema.core.exercises.from_picture import PictureFacts
from noema.core.language import N_, gettext, written
from noema.core.pictures.spots import (
    LEAST_RADIUS,
    MOST_RADIUS,
    USUAL_RADIUS,
    SpotPart,
    contrast_words,
    degree_of_neutral,
    degree_words,
    light_and_shadow,
)
from noema.core.pictures.way import way_of
from noema.core.pigments.says import say_left, say_parts
from noema.formats.spots import CarriedColour
from noema.store.pictures import KeptPicture, KeptSpot, spots_of
from noema.web.exercises.options import form_of
from noema.web.frame.forms import Number, OneOf, TextLine, Whole, read_form
from noema.web.frame.page import Frame
from noema.web.frame.request import db
from noema.web.paint_from.desk import PictureDesk

SIZES = (
    (LEAST_RADIUS, N_("small")),
    (USUAL_RADIUS, N_("a brush's tip")),
    (2.5 * USUAL_RADIUS, N_("large")),
    (MOST_RADIUS, N_("a broad patch")),
)


class SpotForm(Form):
    """Where somebody points; places as shares of a hundred."""

    x = Number(what=N_("a place"))
    y = Number(what=N_("a place"))
    radius = Number(what=N_("a size"))
    name = TextLine(most=60)
    part = OneOf(SpotPart, N_("Choose what of the thing it is."), usual=SpotPart.WHOLE)
    spot = Whole()


class SpotLookForm(Form):
    """Which spot is looked at, and how."""

    spot = Whole()
    look = TextLine(most=10)


@dataclass(frozen=True, kw_only=True)
class SpotMark:
    """A spot as a ring over the picture and a line beside it."""

    id: int
    number: int
    name: str
    x: float  # in the picture's pixels
    y: float
    radius: float
    fill: str
    chosen: bool


@dataclass(frozen=True, kw_only=True)
class WayLine:
    """A step towards a colour."""

    said: str
    fill: str


@dataclass(frozen=True, kw_only=True)
class SpotLook:
    """Everything about the spot that is looked at."""

    spot: KeptSpot
    name: str
    fill: str
    around_fill: str
    mix_fill: str
    said: str
    hue: str
    value: str
    chroma: str
    degree: str
    parts: str
    near: str
    left: str
    way: tuple[WayLine, ...]
    contrast: str
    tied: str  # light and shadow of one thing
    logbook: str  # address: how was it mixed before?


@dataclass(frozen=True, kw_only=True)
class ExerciseLink:
    """An exercise a teacher can make from the picture."""

    label: str
    address: str


@dataclass(frozen=True, kw_only=True)
class SpotsPage:
    """A picture with its spots."""

    frame: Frame | None
    desk: PictureDesk
    name: str
    picture: KeptPicture
    tab: str
    look: str
    may_change: bool
    marks: tuple[SpotMark, ...]
    chosen: SpotLook | None
    sizes: tuple[tuple[float, str], ...]
    parts: tuple[tuple[str, str], ...]
    exercises: tuple[ExerciseLink, ...]


def spots_page(desk: PictureDesk, picture: KeptPicture, looks: tuple[str, ...]) -> SpotsPage:
    """Show a picture's spots, and one of them closely."""
    form = read_form(SpotLookForm, request.args)
    spots = spots_of(db(), picture.id)
    chosen = next((one for one in spots if one.id == form.spot.data), None)
    chosen = chosen or (spots[-1] if spots else None)
    return SpotsPage(
        frame=desk.frame,
        desk=desk,
        name=desk.name,
        picture=picture,
        tab="spots",
        look=form.look.data if form.look.data in looks else looks[0],
        may_change=desk.may_change(picture),
        marks=marks_of(picture, spots, chosen),
        chosen=None if chosen is None else look_of(chosen, spots, desk),
        sizes=tuple((round(size, 4), gettext(words)) for size, words in SIZES),
        parts=tuple((part.value, gettext(part.label)) for part in SpotPart),
        exercises=_exercises(desk, picture, spots, chosen),
    )


def marks_of(
    picture: KeptPicture, spots: tuple[KeptSpot, ...], chosen: KeptSpot | None
) -> tuple[SpotMark, ...]:
    """Place spots over a picture."""
    if not spots:
        return ()
    longer = max(picture.width_px, picture.height_px)
    fills = lab_to_hex([one.lab for one in spots])
    return tuple(
        SpotMark(
            id=one.id,
            number=n,
            name=spot_name(one),
            x=round(one.x * picture.width_px, 1),
            y=round(one.y * picture.height_px, 1),
            radius=round(one.radius * longer, 1),
            fill=fill,
            chosen=one == chosen,
        )
        for n, (one, fill) in enumerate(zip(spots, fills, strict=True), start=1)
    )


def look_of(spot: KeptSpot, spots: tuple[KeptSpot, ...], desk: PictureDesk) -> SpotLook:
    """Look at one spot closely."""
    made, hvc = recipe_for(spot.lab, desk.paints), hvc_of(spot.lab)
    steps = way_of(made, desk.table, desk.paints.binder.dry)
    way_fills = lab_to_hex([one.lab for one in steps])
    fill, around, mix = lab_to_hex([spot.lab, spot.around, made.lab])
    lightness, a, b = spot.lab
    return SpotLook(
        spot=spot,
        name=spot_name(spot),
        fill=fill,
        around_fill=around,
        mix_fill=mix,
        said=said_of(hvc, desk.table),
        hue=hvc.notation.split()[0] if hvc.hue100 is not None else gettext("none"),
        value=written(hvc.value, ".1f"),
        chroma=written(hvc.chroma, ".1f"),
        degree=degree_words(degree_of_neutral(hvc, desk.paints)),
        parts=say_parts(made.parts),
        near=how_near(made.away),
        left=say_left(made, desk.table),
        way=tuple(
            WayLine(said=step.said, fill=one) for step, one in zip(steps, way_fills, strict=True)
        ),
        contrast=contrast_words(hvc, hvc_of(spot.around), desk.table),
        tied=_tied(spot, spots, desk),
        logbook=desk.logbook_url(lightness=f"{lightness:.2f}", a=f"{a:.2f}", b=f"{b:.2f}"),
    )


def carried_spots(
    desk: PictureDesk, picture: KeptPicture, spots: tuple[KeptSpot, ...]
) -> tuple[CarriedColour, ...]:
    """Give spots to carry along: the colours that were pointed at, with their mixes."""
    carried = []
    for spot in spots:
        entry = spot_entry(spot, picture.title, desk.paints, desk.table)
        own = replace(entry, title=spot_name(spot), lab=spot.lab, asked=None)
        place = round(spot.x, 4), round(spot.y, 4)
        carried.append(CarriedColour(entry=own, place=place))
    return tuple(carried)


def exercise_links(desk: PictureDesk, facts: PictureFacts) -> tuple[ExerciseLink, ...]:
    """Give the exercises that what is known of a picture allows, for a teacher."""
    if not desk.teaches:
        return ()
    links = []
    for kind in KINDS.values():
        chosen = None if kind.from_picture is None else kind.from_picture(facts)
        if chosen is None:
            continue
        fields: dict[str, Any] = {"kind": [kind.name], "set": [desk.given.paints.name]}
        for name, value in form_of(chosen):
            fields.setdefault(name, []).append(value)
        address = url_for("assigning.assign", class_id=desk.owner.class_id, **fields)
        links.append(ExerciseLink(label=gettext(kind.label), address=address))
    return tuple(links)


def _exercises(
    desk: PictureDesk,
    picture: KeptPicture,
    spots: tuple[KeptSpot, ...],
    chosen: KeptSpot | None,
) -> tuple[ExerciseLink, ...]:
    if not desk.teaches or not spots:
        return ()
    facts = PictureFacts(
        spots=tuple(one.lab for one in spots), spot=None if chosen is None else chosen.lab
    )
    return exercise_links(desk, facts)


def _tied(spot: KeptSpot, spots: tuple[KeptSpot, ...], desk: PictureDesk) -> str:
    """Say how light and shadow of a spot's thing differ, where both were pointed at."""
    same = {one.part: one for one in spots if one.name == spot.name}
    if SpotPart.LIGHT not in same or SpotPart.SHADOW not in same:
        return ""
    return light_and_shadow(same[SpotPart.LIGHT].lab, same[SpotPart.SHADOW].lab, desk.table)
