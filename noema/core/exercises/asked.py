"""An exercise as it is asked: every cell with its expected colour, and why that one.

A kind of exercise turns a teacher's wishes and a set of paints into an `Asked`; everything after,
the sheet on paper, the commands, the pages, works from it alone.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from enum import Enum

from noema.core.colour.hvc import HVC
from noema.core.colour.names import HueTable
from noema.core.exercises.levels import Key, Level
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import PaintSet

Lab = tuple[float, float, float]

SEE_THE_HUE = "see the hue"
"""The limit of a ring's cell, whose hue's own cell says why."""


class CellShape(Enum):
    """The outline of a cell."""

    BOX = "box"
    DIAMOND = "diamond"  # the neutral, or another cell that stands apart


class Even(Enum):
    """In what a band's steps are equal."""

    DISTANCE = "distance"  # CIEDE2000
    VALUE = "value"
    HUE = "hue"
    NOT = "not"  # its cells are no steps of one way


class Arrangement(Enum):
    """How the bands lie on the paper."""

    ROWS = "rows"  # one under the other
    STAIRS = "stairs"  # rows pushed right, each by one cell: half a grid
    WHEEL = "wheel"  # rings, the first outermost


@dataclass(frozen=True, kw_only=True)
class AskedCell:
    """One place to paint."""

    id: str
    label: str  # printed beside it
    lab: Lab  # expected colour, dry, D50
    hvc: HVC
    parts: tuple[Part, ...]  # what should give it; empty for bare paper
    note: str  # why this colour, in a sentence
    limit: str = ""  # what the paints can't do here; empty when they can
    shape: CellShape = CellShape.BOX
    is_end: bool = False  # painted first; own ends are measured here


@dataclass(frozen=True, kw_only=True)
class Band:
    """Cells that are neighbours: a row, or a ring."""

    label: str
    cells: tuple[AskedCell, ...]
    even: Even = Even.NOT


@dataclass(frozen=True, kw_only=True)
class Concern:
    """Something the paints can't do, said before it is assigned."""

    cells: tuple[str, ...]
    sentence: str
    suggestion: str


@dataclass(frozen=True, kw_only=True)
class Asked:
    """A whole exercise."""

    kind: str
    title: str
    arrangement: Arrangement
    bands: tuple[Band, ...]
    how_to: tuple[str, ...]  # two to four lines in the order a painter works
    concerns: tuple[Concern, ...] = ()
    anticlockwise: bool = False  # which way a wheel runs from yellow at the top
    shows_targets: bool = False  # expected colours are printed beside the cells

    @property
    def cells(self) -> tuple[AskedCell, ...]:
        """All cells in reading order."""
        return tuple(cell for band in self.bands for cell in band.cells)


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What a teacher may choose; None or empty where a kind's usual choice is taken."""

    steps: int | None = None
    hue: str | None = None  # a hue's name or a tube's
    hues: int | None = None  # 6, 12 or 24
    primaries: int | None = None  # 3 or 6
    rings: tuple[str, ...] = ()
    tubes: tuple[str, ...] = ()
    pairs: tuple[str, ...] = ()  # hue-hue
    tints: bool = False
    sides: bool = False  # the neutral mixed from either side
    full: bool = False  # both halves of a grid
    anticlockwise: bool = False
    targets: tuple[Lab, ...] = ()
    count: int | None = None
    level: Level | None = None  # how far from the tubes colours to match are picked

    def given(self) -> Iterator[str]:
        """Name what was chosen."""
        for name, usual in vars(_NOTHING).items():
            if getattr(self, name) != usual:
                yield name


@dataclass(frozen=True, kw_only=True)
class Ground:
    """What an exercise stands on."""

    paints: PaintSet
    table: HueTable
    key: Key = Key.PAINTS


_NOTHING = Wanted()
