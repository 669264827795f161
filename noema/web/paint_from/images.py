"""A picture seen in the ways painters look at it, as files for a page."""

from collections.abc import Callable
from functools import lru_cache, partial

from flask import Response, request
from wtforms import Form

from noema.actions.paint_from import colours_of_kept
from noema.actions.practise import paints_from_json
from noema.core.colour.value import value_to_lab
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.core.pictures.colours import PictureColours, colours_of_picture
from noema.core.pictures.redraw import Bytes, as_bytes, redrawn
from noema.core.pictures.schemes import in_scheme
from noema.core.pictures.values import STEPS, in_grey, middle_values, posterised
from noema.core.pigments.shelf import TUBES, WHITE
from noema.core.pigments.tube import Tube
from noema.formats.photo_file import open_photo
from noema.formats.picture_files import png_bytes, rgb_from
from noema.formats.scenes import SCENES, scene_bytes
from noema.store.pictures import KeptPicture, rankings_of
from noema.web.frame.forms import Many, read_form
from noema.web.frame.private_file import privately
from noema.web.frame.request import db, files
from noema.web.paint_from.desk import PictureDesk
from noema.web.paint_from.scheming import scene_asked, scheme_asked

LOOKS = ("colour", "grey", "squint")
_PREVIEW_PX = 800
_MOST_TUBES = 6


class RedrawForm(Form):
    """Which tubes a picture is redrawn in."""

    tubes = Many()


def image_of(desk: PictureDesk, picture: KeptPicture, look: str) -> Response:
    """Give a picture in one of the ways."""
    if look == "colour":
        return privately(files().get(picture.shown_sha256), "image/jpeg")
    makers: dict[str, Callable[[KeptPicture], Bytes]] = {
        "grey": lambda one: in_grey(_preview(one)),
        "small": _small,
        "tubes": lambda one: _in_tubes(desk, one),
        "scheme": lambda one: _in_scheme(desk, one),
        **{f"values-{steps}": partial(_plan, steps=steps) for steps in STEPS},
    }
    if look not in makers:
        raise NotFound(gettext("A picture isn't looked at like that."))
    return privately(png_bytes(makers[look](picture)), "image/png")


def plan_png(picture: KeptPicture, steps: int) -> bytes:
    """Give a value plan to print."""
    return png_bytes(_plan(picture, steps))


def _tubes_named(
    desk: PictureDesk, picture: KeptPicture, names: tuple[str, ...]
) -> tuple[Tube, ...]:
    """Give tubes by name: of those looked through, of the class's as learned, or any that ship."""
    if not 1 <= len(names) <= _MOST_TUBES:
        raise Refused(gettext("Choose one to six tubes."))
    own = {tube.name: tube for tube in desk.paints.tubes}
    for one in rankings_of(db(), picture.id)[:1]:
        own |= {tube.name: tube for tube in paints_from_json(one.paints).bench.paints.tubes}
    found = [own.get(name) or TUBES.get(name) for name in dict.fromkeys(names)]
    if any(tube is None for tube in found):
        raise Refused(gettext("One of these tubes isn't known here: choose among those shown."))
    return tuple(tube for tube in found if tube is not None)


def _preview(picture: KeptPicture) -> Bytes:
    """Give a picture's pixels at the size of a preview."""
    return rgb_from(files().get(picture.shown_sha256), _PREVIEW_PX)


def _small(picture: KeptPicture) -> Bytes:
    """Give it for a list: averaged, as it is thought about."""
    return as_bytes(colours_of_kept(files(), picture).lab[::2, ::2])


def _plan(picture: KeptPicture, steps: int) -> Bytes:
    which = posterised(colours_of_kept(files(), picture), steps)
    return as_bytes(value_to_lab(list(middle_values(steps))))[which]


def _in_tubes(desk: PictureDesk, picture: KeptPicture) -> Bytes:
    tubes = _tubes_named(desk, picture, read_form(RedrawForm, request.args).tubes.data)
    white = desk.paints.white or TUBES[WHITE]
    return redrawn(_preview(picture), tubes, white, desk.paints.binder.dry)


def _in_scheme(desk: PictureDesk, picture: KeptPicture) -> Bytes:
    asked, scene = scheme_asked(desk, picture), scene_asked()
    colours = _scene(scene) if scene else colours_of_kept(files(), picture)
    return as_bytes(in_scheme(colours, asked.scheme))


@lru_cache(maxsize=len(SCENES))
def _scene(name: str) -> PictureColours:
    return colours_of_picture(open_photo(scene_bytes(name)))
