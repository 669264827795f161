"""What reading a photograph gives: one colour a cell, and everything that makes it doubtful."""

from dataclasses import dataclass
from enum import Enum

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.hvc import HVC
from noema.core.photo.knowledge import Knowledge
from noema.core.photo.seen_print import SeenPrint
from noema.core.sheet.layout import Triple

READER_VERSION = "noema-reader/9"
"""Changes whenever the same photograph would give other numbers."""


class SheetFlag(Enum):
    """Something about a whole photograph."""

    BLURRED = "blurred"  # the picture is out of focus or was moved
    DARK = "dark"  # too little light
    OVEREXPOSED = "overexposed"  # the paper is burnt out
    CROPPED = "cropped"  # part of the sheet lies outside the picture
    WRONG_SHEET = "wrong-sheet"  # the code is another sheet's
    UNEVEN_LIGHT = "uneven-light"  # the light falls off strongly across the page
    NO_REFERENCE = "no-reference"  # the reference strip can't be seen
    GREY_PRINT = "grey-print"  # printed without coloured patches
    LOW_RESOLUTION = "low-resolution"  # too few pixels on the sheet
    NO_SHEET = "no-sheet"  # no sheet of ours was found


class CellFlag(Enum):
    """Something about one cell."""

    UNPAINTED = "unpainted"  # looks like bare paper
    PARTLY_PAINTED = "partly-painted"  # a good part of it is bare paper
    GLARE = "glare"  # wet shine or a lamp's reflection
    SHADOW = "shadow"  # the paper beside it is darker than the light on the page explains
    CLIPPED = "clipped"  # brighter or darker than the camera could record
    UNEVEN = "uneven"  # streaky or half mixed
    OUTSIDE = "outside"  # not wholly in the picture


@dataclass(frozen=True, kw_only=True)
class CellReading:
    """One cell's colour."""

    id: str
    lab: Triple  # CIELAB D50
    hvc: HVC
    sigma: float  # one sigma of the colour, CIEDE2000
    sigma_value: float  # one sigma of the value, in value steps
    sigma_step: float  # one sigma of the value against other cells of this sheet
    sigma_hue: float  # one sigma of the hue, in steps of a hundred
    sigma_chroma: float  # one sigma of the chroma
    coverage: float  # painted share of the cell, 0..1
    unevenness: float  # one sigma of the logarithm of luminance between parts of the cell
    spill: float  # share of the paper just outside the line that has paint on it, 0..1
    flags: tuple[CellFlag, ...]


@dataclass(frozen=True, kw_only=True)
class Reading:
    """One photograph read against one layout."""

    sheet: str | None  # the code that was read, or the layout's where none could be
    found: bool
    flags: tuple[SheetFlag, ...]
    cells: tuple[CellReading, ...]
    knowledge: tuple[Knowledge, ...] = ()  # what it could go by
    sigma_level: float = 0.0  # one sigma, value steps, by which all cells may be off together
    paper: Triple | None = None  # the colour the blank paper was taken for, Lab D50
    print_seen: SeenPrint | None = None  # by which its printer can be learned
    reader: str = READER_VERSION


@dataclass(frozen=True, kw_only=True, eq=False)
class StraightSheet:
    """The sheet seen squarely, for people to look at."""

    rgb: NDArray[np.uint8]  # (h, w, 3)
    px_per_mm: float
    icc: bytes | None = None  # the photograph's colour profile
