"""A page as shapes and words, in mm, for any printer or file format.

Greys run 0 black .. 255 white, as sent to the printer.
"""

from dataclasses import dataclass
from enum import Enum

from noema.core.sheet.layout import Point, Polygon


class Anchor(Enum):
    """Which end of a line of words stands at its point."""

    START = "start"
    MIDDLE = "middle"
    END = "end"


@dataclass(frozen=True, kw_only=True)
class Shape:
    """A closed area, filled or outlined or both."""

    polygon_mm: Polygon
    fill_grey: int | None = None
    fill_rgb: tuple[int, int, int] | None = None  # instead of a grey, where colour is printed
    line_grey: int | None = None
    line_mm: float = 0.0
    name: str = ""  # a cell's id, so that a viewer can point at it


@dataclass(frozen=True, kw_only=True)
class Words:
    """One line of text on a baseline."""

    at_mm: Point
    text: str
    size_mm: float  # height of the em
    bold: bool = False
    anchor: Anchor = Anchor.START
    grey: int = 0


@dataclass(frozen=True, kw_only=True)
class Mark:
    """A square mark of the marker dictionary, border included."""

    id: int
    square_mm: Polygon


@dataclass(frozen=True, kw_only=True)
class Code:
    """A QR code, without its quiet zone."""

    text: str
    square_mm: Polygon


Item = Shape | Words | Mark | Code


@dataclass(frozen=True, kw_only=True)
class Drawing:
    """One page, drawn from back to front."""

    width_mm: float
    height_mm: float
    title: str
    items: tuple[Item, ...]
