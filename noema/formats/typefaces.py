"""The typefaces of paper, and which of them has a letter: names come in every script.

Words are set in Atkinson Hyperlegible. What it has no letter for is set in a Noto Sans that has:
Greek, Cyrillic and Vietnamese in two weights, every other script in one. Letters that join or are
placed by their neighbours are shaped (OpenType, by HarfBuzz), from right to left where their script
runs so.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from unicodedata import bidirectional, category
from xml.sax.saxutils import escape

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import ShapedStr, TTFont, shapeStr

_FONTS = Path(__file__).parent / "fonts"
REGULAR, BOLD = "Atkinson", "Atkinson-Bold"
_OWN_WEIGHT = {REGULAR: "Noto", BOLD: "Noto-Bold"}
_FILES = {
    REGULAR: "atkinson-regular",
    BOLD: "atkinson-bold",
    "Noto": "noto-regular",
    "Noto-Bold": "noto-bold",
}
_SHAPED = (
    *("arabic", "hebrew", "devanagari", "bengali", "gurmukhi", "gujarati", "tamil", "telugu"),
    *("sinhala", "thai", "khmer", "myanmar"),
)
_SET_AS_THEY_ARE = ("georgian", "armenian", "ethiopic", "east-asian")
_PER_EM = 1000.0  # in which advances are given
_JOINED = ("M", "Cf")  # marks and joiners go with the letter before them


@dataclass(frozen=True, kw_only=True)
class Run:
    """Letters one after another that one typeface has."""

    font: str
    text: str


@cache
def register_fonts() -> None:
    """Make the typefaces of the pages known; the others follow when a letter asks for them."""
    for font, file in _FILES.items():
        pdfmetrics.registerFont(TTFont(font, _FONTS / f"{file}.ttf"))


def runs_of(words: str, font: str) -> tuple[Run, ...]:
    """Split words by the typefaces that have their letters, the wanted one first."""
    register_fonts()
    found: list[Run] = []
    for piece in _pieces(words, font):
        before = found[-1].font if found else font
        its = before if _goes_with(piece, before) else _font_with(piece, font)
        if found and its == before:
            found[-1] = Run(font=its, text=found[-1].text + piece)
        else:
            found.append(Run(font=its, text=piece))
    return tuple(found)


def width(words: str, font: str, size: float) -> float:
    """Give the width a line of words takes, in the unit of its size."""
    return sum(one for _, _, one in shaped(words, font, size))


def shaped(words: str, font: str, size: float) -> Iterator[tuple[str, str, float]]:
    """Give a line of words as it is drawn: the typeface, what is drawn in it, and its width."""
    for run in runs_of(words, font):
        drawn = shapeStr(run.text, run.font, size) if is_shaped(run.font) else run.text
        if isinstance(drawn, ShapedStr):
            wide = sum(one.x_advance for one in drawn.__shapeData__) * size / _PER_EM
        else:
            wide = pdfmetrics.stringWidth(drawn, run.font, size)
        yield run.font, drawn, float(wide)


def marked_up(words: str, font: str) -> tuple[str, bool]:
    """Give words as a paragraph takes them, each in a typeface that has it; and is any shaped?

    A word of a paragraph is shaped by one typeface: what another sets stands as its own word.
    """
    runs = runs_of(words, font)
    shapes = any(is_shaped(run.font) for run in runs)
    marked = [
        escape(run.text)
        if run.font == font
        else f'<font name="{run.font}">{escape(_in_order(run.text))}</font>'
        for run in runs
    ]
    return (" " if shapes else "").join(marked), shapes


def is_shaped(font: str) -> bool:
    """Say whether a typeface's letters join, or are placed by their neighbours."""
    return font in _shaped_fonts()


def _in_order(words: str) -> str:
    """Put words of a script that runs from the right in the order they stand from the left."""
    runs_left = any(bidirectional(letter) in ("R", "AL") for letter in words)
    return " ".join(reversed(words.split())) if runs_left else words


def _pieces(words: str, font: str) -> Iterator[str]:
    """Give words whole where one of the plain typefaces has all of them, else letter by letter."""
    own = (font, _OWN_WEIGHT[font])
    for piece in re.findall(r"\s+|\S+", words):
        if any(_has_all(one, piece) for one in own):
            yield piece
        else:
            yield from piece


def _has_all(font: str, words: str) -> bool:
    return all(ord(letter) in letters_of(font) for letter in words)


def _goes_with(piece: str, font: str) -> bool:
    joins = category(piece[0]).startswith(_JOINED) or (piece.isspace() and is_shaped(font))
    return joins and _has_all(font, piece)


def _font_with(piece: str, font: str) -> str:
    own = (font, _OWN_WEIGHT[font])
    return next((one for one in (*own, *_fallbacks(piece)) if _has_all(one, piece)), font)


@cache
def _shaped_fonts() -> frozenset[str]:
    return frozenset(f"Noto-{script}" for script in _SHAPED)


def _fallbacks(piece: str) -> tuple[str, ...]:
    """Give the typefaces of other scripts; they are opened when a letter first asks for one."""
    return () if piece.isascii() else _of_scripts()


@cache
def _of_scripts() -> tuple[str, ...]:
    for script in (*_SHAPED, *_SET_AS_THEY_ARE):
        file = _FONTS / f"noto-{script}.ttf"
        pdfmetrics.registerFont(TTFont(f"Noto-{script}", file, shapable=script in _SHAPED))
    return tuple(f"Noto-{script}" for script in (*_SHAPED, *_SET_AS_THEY_ARE))


@cache
def letters_of(font: str) -> frozenset[int]:
    """Give the code points a typeface has letters for."""
    return frozenset(pdfmetrics.getFont(font).face.charToGlyph)
