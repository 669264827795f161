"""Papers, and the frame of marks every sheet on them shares.

All sheets on one paper carry the same marks and the code at the same place, so a photograph can
be straightened and its code read before anybody knows which sheet it is. The marks' numbers tell
the papers apart.
"""

from dataclasses import dataclass
from enum import Enum

from noema.core.language import N_
from noema.core.sheet.layout import Marker, Polygon, box

MARGIN_MM = 10.0
MARKER_MM = 11.0
QR_MM = 21.0
_QR_GAP_MM = 6.0  # the quiet zone a code needs: four modules of at most 1 mm, and some air


class Paper(Enum):
    """A paper size."""

    A4 = "a4"
    LETTER = "letter"

    @property
    def label(self) -> str:
        """Its name for people."""
        return {Paper.A4: N_("A4"), Paper.LETTER: N_("Letter")}[self]


@dataclass(frozen=True, kw_only=True)
class PaperFrame:
    """One paper lying one way, with its marks and the place of the code."""

    width_mm: float
    height_mm: float
    first_marker: int
    margin_mm: float = MARGIN_MM
    marker_mm: float = MARKER_MM
    qr_mm: Polygon | None = None  # where the code stands, if not beside the top right mark

    @property
    def markers(self) -> tuple[Marker, ...]:
        """The eight marks: corners and the middles of the edges, row by row."""
        across = self._thirds(self.width_mm)
        down = self._thirds(self.height_mm)
        places = [(x, y) for y in down for x in across if (x, y) != (across[1], down[1])]
        return tuple(
            Marker(id=self.first_marker + n, corners_mm=box(x, y, self.marker_mm, self.marker_mm))
            for n, (x, y) in enumerate(places)
        )

    @property
    def qr_polygon_mm(self) -> Polygon:
        """The code's square, beside the top right mark, without its quiet zone."""
        if self.qr_mm is not None:
            return self.qr_mm
        left = self.width_mm - MARGIN_MM - MARKER_MM - _QR_GAP_MM - QR_MM
        return box(left, MARGIN_MM, QR_MM, QR_MM)

    def _thirds(self, length: float) -> tuple[float, float, float]:
        room = length - self.marker_mm
        return (self.margin_mm, room / 2.0, room - self.margin_mm)


LANDSCAPE = {
    Paper.A4: PaperFrame(width_mm=297.0, height_mm=210.0, first_marker=0),
    Paper.LETTER: PaperFrame(width_mm=279.4, height_mm=215.9, first_marker=8),
}
STRIP = PaperFrame(
    width_mm=194.0,
    height_mm=72.0,
    first_marker=16,
    margin_mm=6.0,
    marker_mm=9.0,
    qr_mm=box(155.0, 27.0, 18.0, 18.0),
)
"""A strip of paper to lay beside paint."""

FRAMES: tuple[PaperFrame, ...] = (*LANDSCAPE.values(), STRIP)
"""Every frame in use; portrait sheets will take the next numbers."""
