"""The pictures of a class or a student, and how one is added."""

from dataclasses import dataclass

from noema.core.language import gettext
from noema.formats.scenes import SCENES
from noema.web.frame.page import Frame
from noema.web.paint_from.desk import PictureDesk


@dataclass(frozen=True, kw_only=True)
class PictureCard:
    """A picture in the list."""

    address: str
    image: str
    title: str
    whose: str  # a student's name; empty for the class's
    width: int
    height: int


@dataclass(frozen=True, kw_only=True)
class PicturesPage:
    """All pictures."""

    frame: Frame | None
    desk: PictureDesk
    name: str
    cards: tuple[PictureCard, ...]
    scenes: tuple[tuple[str, str], ...]


def list_page(desk: PictureDesk) -> PicturesPage:
    """Show what there is."""
    return PicturesPage(
        frame=desk.frame,
        desk=desk,
        name=desk.name,
        cards=tuple(
            PictureCard(
                address=desk.url("spots", picture_id=one.id),
                image=desk.url("image", picture_id=one.id, look="small"),
                title=one.title,
                whose=one.student if desk.teaches else "",
                width=one.width_px,
                height=one.height_px,
            )
            for one in desk.pictures()
        ),
        scenes=tuple((name, gettext(label)) for name, label in SCENES.items()),
    )
