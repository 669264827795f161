"""The key sheet for the wall: every colour large, its name and mix under it, read from a metre.

It carries no marks and no code, so that nobody hands it in by mistake.
"""

import textwrap
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import ceil

from noema.core.colour.srgb import lab_to_bytes
from noema.core.exercises.asked import Arrangement, Asked, AskedCell
from noema.core.exercises.naming import cell_names
from noema.core.exercises.piles import say_mixes
from noema.core.language import gettext
from noema.core.sheet.drawing import Anchor, Drawing, Item, Shape, Words
from noema.core.sheet.layout import box
from noema.core.sheet.paper import LANDSCAPE, Paper, PaperFrame
from noema.core.sheet.wheel_names import names_round
from noema.core.sheet.worksheet import TUBES_NAME, plan_of

LEAST_LETTERS_MM = 4.2
"""Height of the em of the smallest letters: 12 points, read from a metre."""

_LETTERS_MM = (6.5, 5.6, 4.8, LEAST_LETTERS_MM)
_MARGIN_MM, _TITLE_MM, _TOP_MM = 12.0, 8.0, 30.0
_MOST_ACROSS = 7  # cells in a row
_SWATCH_MM, _APART_MM, _UNDER_MM = 26.0, 5.0, 7.0
_NAME_MM, _WIDEST_MM = 36.0, 70.0  # for a row's name before it; of a swatch
_LETTER_WIDE, _LEADING = 0.53, 1.22  # of an em
_STANDS_OUT = 1.25  # times the letters of a line that one word may have
_RIM_MM = 4.0


@dataclass(frozen=True, kw_only=True)
class _Entry:
    """One colour and what is said of it."""

    cell: AskedCell
    name: str
    mix: str


@dataclass(frozen=True, kw_only=True)
class _Line:
    """Some cells of a band, side by side."""

    name: str
    entries: tuple[_Entry, ...]


def rgb_of(lab: tuple[float, float, float]) -> tuple[int, int, int]:
    """Give a colour as printers are sent it."""
    red, green, blue = lab_to_bytes(lab).tolist()
    return red, green, blue


def draw_key_sheets(asked: Asked, paper: Paper, school_class: str) -> tuple[Drawing, ...]:
    """Draw the expected exercise with names and mixes, on as many pages as that takes.

    A wheel comes as a wheel first. Letters are as large as they can be without another page.
    """
    frame = LANDSCAPE[paper]
    lines = tuple(_lines(asked))
    tables = [_Table(frame=frame, lines=lines, letters_mm=size) for size in _LETTERS_MM]
    fewest = len(tables[-1].pages)
    table = next(one for one in tables if len(one.pages) == fewest)
    pages = [tuple(table.drawn(page)) for page in table.pages]
    if asked.arrangement is Arrangement.WHEEL:
        pages.insert(0, tuple(_wheel(asked, paper)))
    return tuple(
        Drawing(
            width_mm=frame.width_mm,
            height_mm=frame.height_mm,
            title=gettext("Key: %(title)s", title=asked.title),
            items=(*_heading(asked, school_class, n, len(pages), frame), *items),
        )
        for n, items in enumerate(pages, start=1)
    )


def _lines(asked: Asked) -> Iterator[_Line]:
    names, mixes = cell_names(asked), say_mixes(asked)
    in_rows = asked.arrangement is not Arrangement.WHEEL
    for band in asked.bands:
        entries = [
            _Entry(
                cell=cell,
                name=gettext((cell.label if in_rows and band.label else "") or names[cell.id]),
                mix=mixes.get(cell.id, ""),
            )
            for cell in band.cells
        ]
        across = ceil(len(entries) / ceil(len(entries) / _MOST_ACROSS))
        for start in range(0, len(entries), across):
            name = gettext(band.label) if in_rows else ""
            yield _Line(name=name, entries=tuple(entries[start : start + across]))
    if asked.tubes:
        tubes = tuple(_Entry(cell=cell, name=gettext(cell.label), mix="") for cell in asked.tubes)
        yield _Line(name=gettext(TUBES_NAME), entries=tubes)


@dataclass(frozen=True, kw_only=True)
class _Table:
    """Lines of colours with letters of one size, on pages."""

    frame: PaperFrame
    lines: tuple[_Line, ...]
    letters_mm: float

    @cached_property
    def pages(self) -> list[list[_Line]]:
        """Lines as they fit on pages, in order."""
        pages: list[list[_Line]] = []
        left = 0.0
        for line in self.lines:
            needed = self._height(line)
            if needed > left:
                pages.append([])
                left = self.frame.height_mm - _TOP_MM - _MARGIN_MM + _UNDER_MM
            pages[-1].append(line)
            left -= needed
        return pages

    def drawn(self, page: Sequence[_Line]) -> Iterator[Item]:
        """Draw one page's lines."""
        size, top = self.letters_mm, _TOP_MM
        for line in page:
            for n, text in enumerate(self._wrapped(line.name, _NAME_MM - 2.0)):
                at = (_MARGIN_MM, top + _SWATCH_MM / 2.0 + n * size * _LEADING)
                yield Words(at_mm=at, text=text, size_mm=size, bold=True)
            for place, one in enumerate(line.entries):
                x = self._left + place * self._pitch
                yield Shape(
                    polygon_mm=box(x, top, self._wide, _SWATCH_MM),
                    fill_rgb=rgb_of(one.cell.lab),
                    name=one.cell.id,
                )
                y = top + _SWATCH_MM + size
                for bold, text in ((True, one.name), (False, one.mix)):
                    for words in self._wrapped(text, self._wide):
                        yield Words(at_mm=(x, y), text=words, size_mm=size, bold=bold)
                        y += size * _LEADING
            top += self._height(line)

    @property
    def _left(self) -> float:
        named = any(line.name for line in self.lines)
        return _MARGIN_MM + (_NAME_MM if named else 0.0)

    @property
    def _pitch(self) -> float:
        across = max(len(line.entries) for line in self.lines)
        return (self.frame.width_mm - _MARGIN_MM - self._left + _APART_MM) / across

    @property
    def _wide(self) -> float:
        return min(self._pitch - _APART_MM, _WIDEST_MM)

    def _height(self, line: _Line) -> float:
        said = max(
            len(self._wrapped(one.name, self._wide)) + len(self._wrapped(one.mix, self._wide))
            for one in line.entries
        )
        return _SWATCH_MM + said * self.letters_mm * _LEADING + _UNDER_MM

    def _wrapped(self, text: str, width_mm: float) -> list[str]:
        return _wrapped(text, width_mm, self.letters_mm)


def _wrapped(text: str, width_mm: float, letters_mm: float) -> list[str]:
    letters = max(4, int(width_mm / (_LETTER_WIDE * letters_mm)))
    longest = max(map(len, text.split()), default=0)
    # A word a little too long stands out; only a longer one is broken.
    return textwrap.wrap(text, longest if letters < longest <= _STANDS_OUT * letters else letters)


def _wheel(asked: Asked, paper: Paper) -> Iterator[Item]:
    plan = plan_of(asked, paper, larger=True)
    for one in plan.placed:
        yield Shape(polygon_mm=one.polygon_mm, fill_rgb=rgb_of(one.cell.lab), name=one.cell.id)
    yield from names_round(plan, _RIM_MM, LEAST_LETTERS_MM, 0)
    if len(asked.bands) > 1:
        rings = ", ".join(gettext(band.label) for band in asked.bands)
        said = gettext("Rings from outside: %(rings)s", rings=rings)
        for n, text in enumerate(_wrapped(said, 58.0, LEAST_LETTERS_MM)):
            at = (_MARGIN_MM, plan.frame.height_mm - 40.0 + n * LEAST_LETTERS_MM * _LEADING)
            yield Words(at_mm=at, text=text, size_mm=LEAST_LETTERS_MM)


def _heading(
    asked: Asked, school_class: str, page: int, pages: int, frame: PaperFrame
) -> Iterator[Item]:
    yield Words(at_mm=(_MARGIN_MM, 20.0), text=asked.title, size_mm=_TITLE_MM, bold=True)
    said = [school_class, gettext("Key sheet, for the wall")]
    if pages > 1:
        said.append(gettext("%(page)s of %(pages)s", page=page, pages=pages))
    yield Words(
        at_mm=(frame.width_mm - _MARGIN_MM, 20.0),
        text=" · ".join(one for one in said if one),
        size_mm=LEAST_LETTERS_MM,
        anchor=Anchor.END,
        grey=60,
    )
