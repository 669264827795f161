"""A reference card that lies on a page: patches of known colours on black."""

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.spectra import reflectance_to_lab
from noema.core.photo.card import ReferenceCard
from noema.core.sheet.layout import Point, Triple
from noema.stand_ins.optics import EYE, Optics
from noema.stand_ins.spectra import paint_spectra

_WANTED: tuple[Triple, ...] = (
    (38.0, 14.0, 14.0),
    (66.0, 18.0, 18.0),
    (50.0, -5.0, -22.0),
    (43.0, -13.0, 22.0),
    (62.0, 34.0, 58.0),
    (40.0, 10.0, -42.0),
    (52.0, 48.0, 17.0),
    (31.0, 22.0, -20.0),
    (72.0, -23.0, 57.0),
    (82.0, 4.0, 78.0),
    (42.0, 52.0, 27.0),
    (52.0, -38.0, 32.0),
    (95.0, 0.0, 1.0),
    (81.0, 0.0, 0.0),
    (66.0, 0.0, 0.0),
    (51.0, 0.0, 0.0),
    (36.0, 0.0, 0.0),
    (21.0, 0.0, 0.0),
)
COLUMNS, ROWS = 6, 3
_PATCH_MM, _GAP_MM, _BORDER_MM = 11.0, 2.0, 4.0
_BLACK = 0.03


def _spectra() -> NDArray[np.float64]:
    return paint_spectra(np.array(_WANTED), np.random.default_rng(24))


def reference_card() -> ReferenceCard:
    """Give the card with the values its maker measured."""
    labs = reflectance_to_lab(_spectra()).tolist()
    return ReferenceCard(
        name="Card of 18",
        columns=COLUMNS,
        rows=ROWS,
        labs=tuple((lab[0], lab[1], lab[2]) for lab in labs),
    )


def lay_card(
    page: NDArray[np.float32],
    at_mm: Point,
    px_per_mm: float,
    optics: Optics = EYE,
) -> None:
    """Lay the card on a page (h, w, 3) with its top left corner at a place."""
    stride = _PATCH_MM + _GAP_MM
    size = np.array([COLUMNS, ROWS]) * stride - _GAP_MM + 2 * _BORDER_MM
    _fill(page, at_mm, size, px_per_mm, np.full(3, _BLACK))
    for n, colour in enumerate(optics.seen(_spectra())):
        row, column = divmod(n, COLUMNS)
        corner = np.array(at_mm) + _BORDER_MM + stride * np.array([column, row])
        _fill(page, corner, np.full(2, _PATCH_MM), px_per_mm, colour)


def _fill(
    page: NDArray[np.float32],
    corner_mm: NDArray[np.float64] | Point,
    size_mm: NDArray[np.float64],
    px_per_mm: float,
    colour: NDArray[np.float64],
) -> None:
    low = np.rint(np.array(corner_mm) * px_per_mm).astype(int)
    high = np.rint((np.array(corner_mm) + size_mm) * px_per_mm).astype(int)
    page[low[1] : high[1], low[0] : high[0]] = colour
