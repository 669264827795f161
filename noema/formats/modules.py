"""Square-module codes as rectangles: QR codes and the marks by which a page is found."""

from collections.abc import Iterator

import numpy as np
import segno
from numpy.typing import NDArray

from noema.core.photo.marks import mark_modules
from noema.core.sheet.drawing import Code, Mark
from noema.core.sheet.layout import Polygon, box


def black_boxes(item: Mark | Code) -> Iterator[Polygon]:
    """Give a code's black areas in mm: each run of black modules in a row is one rectangle."""
    modules = mark_modules(item.id) if isinstance(item, Mark) else _qr_modules(item.text)
    (left, top), (right, _) = item.square_mm[0], item.square_mm[1]
    side = (right - left) / len(modules)
    for row, line in enumerate(modules):
        edges = np.flatnonzero(np.diff(np.concatenate([[0], line.astype(int), [0]])))
        for start, stop in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
            # A hair of overlap keeps viewers from showing seams between the rows.
            yield box(left + start * side, top + row * side, (stop - start) * side, side * 1.01)


def _qr_modules(text: str) -> NDArray[np.bool_]:
    return np.array(segno.make_qr(text, error="q", boost_error=False).matrix, dtype=bool)
