"""The guide as it ships: chapters with one picture, whose first paragraph stands for the rest."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from markdown_it import MarkdownIt
from markupsafe import Markup
from PIL import Image

FOLDER = Path(__file__).parent / "guide"
PICTURES = FOLDER / "pictures"
_HEADING = re.compile(r"^## (.+)$", re.MULTILINE)
_PICTURE = re.compile(r"!\[([^\]]*)\]\(pictures/([\w-]+)\.webp\)")


@dataclass(frozen=True, kw_only=True)
class Chapter:
    """A chapter of a guide."""

    guide: str
    name: str  # in an address
    title: str
    short: Markup  # its first paragraph
    picture: str  # its file's name, without its ending
    picture_said: str
    picture_px: tuple[int, int]  # width and height
    rest: Markup  # what follows the picture
    words: str  # all of it, for finding


@cache
def guides() -> dict[str, tuple[Chapter, ...]]:
    """Give every guide's chapters, by the guide's name."""
    return {
        path.stem: tuple(_chapters(path.stem, path.read_text(encoding="utf-8")))
        for path in sorted(FOLDER.glob("*.md"))
    }


def chapter_of(guide: str, name: str) -> Chapter | None:
    """Give one chapter."""
    return next((one for one in guides().get(guide, ()) if one.name == name), None)


def _size_of(name: str) -> tuple[int, int]:
    with Image.open(PICTURES / f"{name}.webp") as picture:
        return picture.size


def _chapters(guide: str, text: str) -> Iterator[Chapter]:
    # The files are ours: no markup of others comes through here.
    render = MarkdownIt("commonmark", {"html": False}).render
    _, *parts = _HEADING.split(text)
    for title, body in zip(parts[::2], parts[1::2], strict=True):
        picture = _PICTURE.search(body)
        assert picture is not None  # every chapter has one
        yield Chapter(
            guide=guide,
            name=re.sub(r"\W+", "-", title.lower()),
            title=title,
            short=Markup(render(body[: picture.start()].strip())),  # noqa: S704
            picture=picture[2],
            picture_said=picture[1],
            picture_px=_size_of(picture[2]),
            rest=Markup(render(body[picture.end() :].strip())),  # noqa: S704
            words=body,
        )
