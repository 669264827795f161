"""What an exercise is cut into where a painter would stop: between rows and rings.

A row of steps is mixed from two piles that dry, so it is never left half done; where each cell is
a mix of its own, as in a ring of hues, one may stop between any two.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil

from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, Even
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.media import Medium
from noema.core.planning.time_needed import drying_min


@dataclass(frozen=True, kw_only=True)
class Piece:
    """Cells painted in one go."""

    cells: tuple[str, ...]
    minutes: float  # mixing and painting, a practised class


@dataclass(frozen=True, kw_only=True)
class WishWork:
    """What an exercise asks of a class."""

    title: str
    pieces: tuple[Piece, ...]
    medium: Medium
    dry_min: int  # the longest wait before it may be photographed

    @property
    def minutes(self) -> float:
        """All its painting."""
        return sum(piece.minutes for piece in self.pieces)


def work_of(
    asked: Asked, medium: Medium, most_min: float, pace: float = 1.0, goes: int = 1
) -> WishWork:
    """Cut an exercise into pieces; those that may be cut are none longer than `most_min`.

    The minutes are the usual ones times `pace`. Where it may be cut, it is into `goes` at least.
    """
    whole = sum(_piece(asked.kind, band.cells, pace).minutes for band in asked.bands)
    most_min = min(most_min, whole / goes) if goes > 1 else most_min
    pieces = [
        piece
        for band in asked.bands
        for piece in _cut(asked.kind, band, _may_stop(asked, band), most_min, pace)
    ]
    if asked.tubes:
        pieces.insert(0, _piece(asked.kind, asked.tubes, pace))
    return WishWork(
        title=asked.title, pieces=tuple(pieces), medium=medium, dry_min=drying_min(medium)[1]
    )


def _may_stop(asked: Asked, band: Band) -> bool:
    return asked.arrangement is Arrangement.WHEEL or band.even in (Even.NOT, Even.HUE)


def _cut(kind: str, band: Band, may_stop: bool, most_min: float, pace: float) -> Iterator[Piece]:
    whole = _piece(kind, band.cells, pace)
    count = ceil(whole.minutes / most_min) if may_stop and most_min > 0 else 1
    size = ceil(len(band.cells) / min(count, len(band.cells)))
    for start in range(0, len(band.cells), size):
        yield _piece(kind, band.cells[start : start + size], pace)


def _piece(kind: str, cells: tuple[AskedCell, ...], pace: float) -> Piece:
    by_tubes = kind_of(kind).cell_min
    most = max(by_tubes)
    minutes = sum(by_tubes[min(len(cell.parts), most)] for cell in cells)
    return Piece(cells=tuple(cell.id for cell in cells), minutes=pace * minutes)
