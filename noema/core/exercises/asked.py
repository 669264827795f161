"""An exercise as it is asked: every cell with its expected colour, and why that one.

A kind of exercise turns a teacher's choices and a set of paints into an `Asked`; everything after,
the sheet on paper, the commands, the pages, works from it alone.
"""

from dataclasses import dataclass
from enum import Enum

from noema.core.colour.hvc import HVC
from noema.core.colour.names import HueTable
from noema.core.exercises.levels import Key
from noema.core.language import N_
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import PaintSet

Lab = tuple[float, float, float]

SEE_THE_HUE = N_("see the hue")
"""The limit of a ring's cell, whose hue's own cell says why."""


class CellShape(Enum):
    """The outline of a cell."""

    BOX = "box"
    DIAMOND = "diamond"  # the neutral, or another cell that stands apart


class CellRole(Enum):
    """What a cell is there for."""

    END = "end"  # painted first; own ends are measured here
    STEP = "step"  # a mix between others, or one that stands by itself
    NEUTRAL = "neutral"  # where two colours cancel: it should lean to neither
    TWIN = "twin"  # the same neutral as another cell, mixed from the other side
    DARK = "dark"  # as near black as its tubes mix
    SECONDARY = "secondary"  # what a pair of tubes gives, to be compared with other pairs
    TINT = "tint"  # another cell let down with white

    @property
    def cancels(self) -> bool:
        """Whether it stands for the neutral or the dark that its tubes cancel to."""
        return self in (CellRole.NEUTRAL, CellRole.TWIN, CellRole.DARK)

    @property
    def stands_apart(self) -> bool:
        """Whether it is the one its row is about, no step on the way."""
        return self.cancels or self is CellRole.SECONDARY


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
    role: CellRole = CellRole.STEP
    of: str = ""  # the cell it is mixed from, or a twin of, by id
    in_question: bool = False  # the whole class strays here, and its teacher hasn't said why

    @property
    def shape(self) -> CellShape:
        """The outline it is printed with."""
        return CellShape.DIAMOND if self.role.stands_apart else CellShape.BOX

    @property
    def is_end(self) -> bool:
        """Whether it is painted first, and own ends are measured here."""
        return self.role is CellRole.END


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
    tubes: tuple[AskedCell, ...] = ()  # painted beside it as they come, and counted for nobody

    @property
    def cells(self) -> tuple[AskedCell, ...]:
        """All cells in reading order."""
        return tuple(cell for band in self.bands for cell in band.cells)

    @property
    def on_paper(self) -> tuple[AskedCell, ...]:
        """All that is painted on its sheet, tubes as they come last."""
        return (*self.cells, *self.tubes)


@dataclass(frozen=True, kw_only=True)
class Ground:
    """What an exercise stands on."""

    paints: PaintSet
    table: HueTable
    key: Key = Key.PAINTS
