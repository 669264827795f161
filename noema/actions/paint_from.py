"""Pictures to paint from come in, are pointed at, and go."""

from dataclasses import dataclass, replace
from functools import lru_cache

from sqlalchemy.orm import Session

from noema.actions.log_colours import amounts_of
from noema.actions.practise import BenchPaints
from noema.actions.read_held import held_layout
from noema.core.bench.seen import Lab
from noema.core.colour.hvc import HVC, hvc_of
from noema.core.colour.names import HueTable, colour_words
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.logbook.entry import Entry, EntryKind
from noema.core.photo.beside import as_it_is
from noema.core.photo.picture import Picture
from noema.core.pictures.colours import PictureColours
from noema.core.pictures.spots import LEAST_RADIUS, MOST_RADIUS, SpotPart, look_at
from noema.core.pigments.recipe import Recipe, recipe
from noema.core.pigments.shelf import PaintSet
from noema.devices.file_store import FileStore, hash_of
from noema.formats.photo_file import check_photo, open_photo
from noema.formats.picture_files import colours_from, made_files
from noema.formats.private_parts import without_private
from noema.formats.scenes import SCENES, scene_bytes
from noema.store.erasure import leave
from noema.store.logbook import LogSource, add_entries
from noema.store.pictures import (
    KeptPicture,
    KeptSpot,
    PictureFiles,
    PictureOwner,
    add_picture,
    count_pictures,
    forget_recipe,
    put_spot,
    remove_pictures,
    spots_of,
)
from noema.store.queue import queue_leaving

MOST_PICTURES, MOST_SPOTS = 60, 24
"""Of one owner; of one picture: more than anybody keeps in view."""

_NAME, _TITLE = 60, 80


@dataclass(frozen=True, kw_only=True)
class NewSpot:
    """Where somebody pointed."""

    name: str
    part: SpotPart
    x: float  # shares of width and height
    y: float
    radius: float  # a share of the longer side


def take_picture_in(
    session: Session, files: FileStore, owner: PictureOwner, title: str, data: bytes
) -> int:
    """Keep a picture from a file or a camera, without its private parts; gives its number.

    Where a strip lies beside it, light and camera are taken off what is shown and thought about.
    """
    check_photo(data)
    kept = without_private(data)
    picture = open_photo(kept)
    undone = as_it_is(picture, held_layout(session, owner.class_id))
    title = title or gettext("Picture")
    return _keep(session, files, owner, title, kept, undone or picture, by_strip=undone is not None)


def take_scene(session: Session, files: FileStore, owner: PictureOwner, name: str) -> int:
    """Keep one of the scenes that ship with Noema; gives its number."""
    data = scene_bytes(name)
    return _keep(session, files, owner, gettext(SCENES[name]), data, open_photo(data))


def copy_picture(session: Session, owner: PictureOwner, picture: KeptPicture) -> int:
    """Take a picture to one's own, without its spots; gives the new one's number."""
    _has_room(session, owner)
    return add_picture(session, owner, picture.title, picture)


def remove(session: Session, owner: PictureOwner, picture: KeptPicture) -> None:
    """Remove a picture for good; the files leave once this is kept."""
    files = remove_pictures(session, [picture.id])
    leave(session, owner.school_id, files)
    queue_leaving(session)


def colours_of_kept(files: FileStore, picture: KeptPicture) -> PictureColours:
    """Give a picture's colours."""
    return colours_from(files.get(picture.small_sha256))


def point(
    session: Session,
    files: FileStore,
    picture: KeptPicture,
    owner: PictureOwner,
    new: NewSpot,
    given: BenchPaints,
    table: HueTable,
    spot_id: int = 0,
) -> int:
    """Keep where somebody pointed, and put its recipe into their logbook; gives its number."""
    known = spots_of(session, picture.id)
    if not spot_id and len(known) >= MOST_SPOTS:
        raise Refused(
            gettext("A picture holds %(most)s spots: take one out first.", most=MOST_SPOTS)
        )
    lab, around = look_at(colours_of_kept(files, picture), new.x, new.y, _bounded(new.radius))
    name = new.name[:_NAME].strip() or gettext("Spot %(number)s", number=len(known) + 1)
    spot = KeptSpot(
        id=spot_id,
        picture_id=picture.id,
        name=name,
        part=new.part,
        x=new.x,
        y=new.y,
        radius=_bounded(new.radius),
        lab=lab,
        around=around,
    )
    number = put_spot(session, spot)
    _log(session, owner, picture, replace(spot, id=number), given.bench.paints, table)
    return number


@lru_cache(maxsize=4096)
def recipe_for(lab: Lab, paints: PaintSet) -> Recipe:
    """Give what a set's tubes need for a colour; remembered."""
    return recipe(lab, paints.tubes, paints.binder.dry)


def spot_entry(spot: KeptSpot, picture: str, paints: PaintSet, table: HueTable) -> Entry:
    """Give a spot as a logbook has it: the mix that comes nearest, beside what was pointed at."""
    made = recipe_for(spot.lab, paints)
    return Entry(
        kind=EntryKind.SPOT,
        title=gettext("%(picture)s, %(name)s", picture=picture, name=spot_name(spot)),
        lab=made.lab,
        parts=amounts_of(made.parts),
        asked=spot.lab,
        words=said_of(hvc_of(spot.lab), table),
    )


def spot_name(spot: KeptSpot) -> str:
    """Give what a spot is called, with the part of the thing it shows."""
    if spot.part is SpotPart.WHOLE:
        return spot.name
    return gettext("%(name)s, %(part)s", name=spot.name, part=gettext(spot.part.label))


def said_of(hvc: HVC, table: HueTable) -> str:
    """Say a colour in words and numbers."""
    numbers = f"{hvc.notation} {hvc.value:.1f}/{hvc.chroma:.1f}" if hvc.hue100 is not None else ""
    return f"{colour_words(hvc, table)} ({numbers or f'N {hvc.value:.1f}'})"


def _log(
    session: Session,
    owner: PictureOwner,
    picture: KeptPicture,
    spot: KeptSpot,
    paints: PaintSet,
    table: HueTable,
) -> None:
    forget_recipe(session, spot.id)
    source = LogSource(
        school_id=owner.school_id,
        class_id=owner.class_id,
        student_id=owner.student_id,
        spot_id=spot.id,
    )
    add_entries(session, source, [spot_entry(spot, picture.title, paints, table)])


def _keep(
    session: Session,
    files: FileStore,
    owner: PictureOwner,
    title: str,
    data: bytes,
    picture: Picture,
    *,
    by_strip: bool = False,
) -> int:
    _has_room(session, owner)
    made = made_files(picture)
    for one in (data, made.shown, made.small):  # before the row that speaks of them
        files.put(one)
    kept = PictureFiles(
        sha256=hash_of(data),
        shown_sha256=hash_of(made.shown),
        small_sha256=hash_of(made.small),
        width_px=made.width_px,
        height_px=made.height_px,
        by_strip=by_strip,
    )
    return add_picture(session, owner, title[:_TITLE], kept)


def _has_room(session: Session, owner: PictureOwner) -> None:
    if count_pictures(session, owner) >= MOST_PICTURES:
        raise Refused(
            gettext("There are %(most)s pictures already: remove one first.", most=MOST_PICTURES)
        )


def _bounded(radius: float) -> float:
    return min(max(radius, LEAST_RADIUS), MOST_RADIUS)
