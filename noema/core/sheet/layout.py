"""The layout of one printed sheet: the contract between the printer and the reader."""

from dataclasses import dataclass
from enum import Enum

Point = tuple[float, float]
Polygon = tuple[Point, ...]
Triple = tuple[float, float, float]

FORMAT = "noema-sheet/1"
MARKER_DICTIONARY = "DICT_4X4_250"


class PatchKind(Enum):
    """What a reference patch is."""

    PAPER = "paper"  # guaranteed blank
    GREY = "grey"
    COLOUR = "colour"


@dataclass(frozen=True, kw_only=True)
class Marker:
    """A square mark by which the page is found."""

    id: int  # number in the marker dictionary
    corners_mm: Polygon  # top left, top right, bottom right, bottom left of the black square


@dataclass(frozen=True, kw_only=True)
class Patch:
    """A place whose colour is more or less known."""

    id: str
    kind: PatchKind
    polygon_mm: Polygon
    nominal_srgb: tuple[int, int, int]  # what was sent to the printer, 0..255
    lab: Triple | None  # its known colour, Lab D50
    lab_sigma: float | None  # one sigma of that colour, CIEDE2000
    lab_source: str | None  # printer calibration, card or meter
    lab_gain: float | None = None  # of a grey: one sigma of a dot gain all greys share


@dataclass(frozen=True, kw_only=True)
class Cell:
    """A place to paint."""

    id: str
    label: str
    polygon_mm: Polygon
    target_lab: Triple | None  # expected colour, Lab D50; None where nothing is fixed


@dataclass(frozen=True, kw_only=True)
class Layout:
    """Everything a reader needs to know about one sheet of paper."""

    sheet: str  # the sheet's code, such as K7Q2-04
    width_mm: float
    height_mm: float
    grey_only: bool  # printed without coloured patches
    qr_text: str
    qr_polygon_mm: Polygon
    markers: tuple[Marker, ...]  # four or more
    reference: tuple[Patch, ...]
    cells: tuple[Cell, ...]  # in reading order: neighbours in the list are neighbouring steps
    cells_printed: bool = False  # what stands in the cells is ink, not paint


def box(left: float, top: float, width: float, height: float) -> Polygon:
    """Give an upright rectangle, clockwise from its top left corner.

    >>> box(0, 0, 2, 1)
    ((0, 0), (2, 0), (2, 1), (0, 1))
    """
    right, bottom = left + width, top + height
    return ((left, top), (right, top), (right, bottom), (left, bottom))
