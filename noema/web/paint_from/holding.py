"""Paint held against a spot, or photographed for the logbook, as it is shown."""

from dataclasses import dataclass

from wtforms import Form

from noema.actions.paint_from import recipe_for, said_of
from noema.actions.read_held import outline_to_begin, paint_in
from noema.core.colour.hvc import hvc_of
from noema.core.colour.srgb import lab_to_hex
from noema.core.language import written
from noema.core.pictures.held import say_held
from noema.core.sheet.strip import strip_layout
from noema.store.pictures import KeptHeld, KeptPicture, KeptSpot
from noema.web.frame.forms import SentFile, TextLine, Whole
from noema.web.frame.outlining import OutlineForm, Outlining, outlining
from noema.web.frame.page import Frame
from noema.web.frame.request import files
from noema.web.paint_from.desk import PictureDesk
from noema.web.paint_from.spotting import SpotLook, SpotMark

MOST_PHOTO_BYTES = 30 * 2**20


class PaintForm(Form):
    """A photograph of paint."""

    photo = SentFile(MOST_PHOTO_BYTES)
    spot = Whole()


class WriteDownForm(Form):
    """What a colour that was read is called in the logbook."""

    title = TextLine(most=200)
    parts = TextLine(most=300)
    words = TextLine(most=400)


@dataclass(frozen=True, kw_only=True)
class HeldShown:
    """What came of a photograph of paint."""

    id: int
    waits: bool
    said: str  # why nothing was read, or what makes it doubtful
    fill: str  # empty: nothing was read
    colour: str
    doubt: str
    off: tuple[str, ...]
    move: str
    by_hand: str  # address where its outline is placed
    photo: str
    page: str


@dataclass(frozen=True, kw_only=True)
class EaselPage:
    """The picture beside the easel."""

    frame: Frame | None
    desk: PictureDesk
    name: str
    picture: KeptPicture
    tab: str
    marks: tuple[SpotMark, ...]
    chosen: SpotLook | None
    held: HeldShown | None


@dataclass(frozen=True, kw_only=True)
class HeldPage:
    """A photograph of paint by itself."""

    frame: Frame | None
    desk: PictureDesk
    name: str
    held: HeldShown
    logbook: str
    tubes: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class HeldOutlinePage:
    """A photograph of paint with an outline over it."""

    frame: Frame | None
    desk: PictureDesk
    name: str
    over: Outlining
    sentence: str


def held_shown(desk: PictureDesk, held: KeptHeld, spot: KeptSpot | None) -> HeldShown:
    """Show what was read of paint, beside the spot it was held against."""
    paint = paint_in(held)
    cell = None if paint is None else paint.cell
    off: tuple[str, ...] = ()
    move = ""
    if cell is not None and spot is not None:
        made = recipe_for(spot.lab, desk.paints)
        said = say_held(cell, spot.lab, made, desk.paints, desk.table)
        off, move = said.off, said.move
    return HeldShown(
        id=held.id,
        waits=paint is None,
        said="" if paint is None else paint.said,
        fill="" if cell is None else lab_to_hex([cell.lab])[0],
        colour="" if cell is None else said_of(hvc_of(cell.lab), desk.table),
        doubt="" if cell is None else written(2.0 * cell.sigma_value, ".1f"),
        off=off,
        move=move,
        by_hand=desk.url("place_outline", held_id=held.id) if held.sha256 else "",
        photo=desk.url("held_photo", held_id=held.id) if held.sha256 else "",
        page=desk.url("held", held_id=held.id),
    )


def outline_page(
    desk: PictureDesk, held: KeptHeld, sent: OutlineForm | None = None, sentence: str = ""
) -> HeldOutlinePage:
    """Show a photograph of paint and an outline over it."""
    outline, size_px = outline_to_begin(files(), held)
    photo = desk.url("held_photo", held_id=held.id)
    return HeldOutlinePage(
        frame=desk.frame,
        desk=desk,
        name=desk.name,
        over=outlining(photo, size_px, strip_layout(), outline, sent),
        sentence=sentence,
    )
