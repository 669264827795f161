"""The guide as it ships: chapters with one picture, whose first paragraph stands for the rest."""

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path

from markdown_it import MarkdownIt
from markupsafe import Markup
from PIL import Image

from noema.core.language import ENGLISH, current_language

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


def guides() -> dict[str, tuple[Chapter, ...]]:
    """Give every guide's chapters, by the guide's name, in the language of who reads."""
    return _guides_in(said_in())


def said_in() -> str:
    """Give the language the guides are read in: the reader's, or English where there are none."""
    return current_language() if (FOLDER / current_language()).is_dir() else ENGLISH


@cache
def _guides_in(code: str) -> dict[str, tuple[Chapter, ...]]:
    first = {path.stem: tuple(_chapters(path)) for path in sorted(FOLDER.glob("*.md"))}
    if code == ENGLISH:
        return first
    # A chapter has one address in every language.
    return {
        guide: tuple(
            replace(said, name=chapter.name)
            for chapter, said in zip(
                chapters, _chapters(FOLDER / code / f"{guide}.md"), strict=True
            )
        )
        for guide, chapters in first.items()
    }


def chapter_of(guide: str, name: str) -> Chapter | None:
    """Give one chapter."""
    return next((one for one in guides().get(guide, ()) if one.name == name), None)


def _size_of(name: str) -> tuple[int, int]:
    with Image.open(PICTURES / f"{name}.webp") as picture:
        return picture.size


def _chapters(path: Path) -> Iterator[Chapter]:
    # The files are ours: no markup of others comes through here.
    render = MarkdownIt("commonmark", {"html": False}).render
    _, *parts = _HEADING.split(path.read_text(encoding="utf-8"))
    for title, body in zip(parts[::2], parts[1::2], strict=True):
        picture = _PICTURE.search(body)
        assert picture is not None  # every chapter has one
        yield Chapter(
            guide=path.stem,
            name=re.sub(r"\W+", "-", title.lower()),
            title=title,
            short=Markup(render(body[: picture.start()].strip())),  # noqa: S704
            picture=picture[2],
            picture_said=picture[1],
            picture_px=_size_of(picture[2]),
            rest=Markup(render(body[picture.end() :].strip())),  # noqa: S704
            words=body,
        )
