"""Which sheet is in a photograph, before anybody knows its layout."""

from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.marks import FoundMarks
from noema.core.photo.several import sheets_in
from noema.core.photo.straighten import Placed, place_page, straighten
from noema.core.sheet.layout import Polygon
from noema.core.sheet.paper import FRAMES, PaperFrame

_QUIET_MM = 3.0
_TRIED_PX_PER_MM = (10.0, 6.0, 14.0)  # of the code: too few or too many pixels both hide it
_CALMED_PX = 1.2  # JPEG's ringing round small squares reads better smoothed


@dataclass(frozen=True, kw_only=True)
class Identified:
    """What a photograph shows."""

    marks: FoundMarks  # its own
    code: str | None  # None where the code couldn't be read


def identify(picture: NDArray[np.uint8], found: FoundMarks) -> tuple[Identified, ...]:
    """Find every sheet by its marks and read its code, in an order that never changes."""
    return tuple(
        Identified(marks=marks, code=read_code(picture, placed, frame.qr_polygon_mm))
        for marks, placed, frame in _sheets(found)
    )


def marks_of_part(found: FoundMarks, part: int) -> FoundMarks:
    """Give the marks of one of the sheets, as `identify` counts them; else all."""
    own = [marks for marks, _, _ in _sheets(found)]
    return own[part] if part < len(own) else found


def _sheets(found: FoundMarks) -> Iterator[tuple[FoundMarks, Placed, PaperFrame]]:
    for frame in FRAMES:
        for marks in sheets_in(found, frame.markers):
            placed = place_page(marks, frame.markers)
            if placed is not None:
                yield marks, placed, frame


def read_code(picture: NDArray[np.uint8], placed: Placed, square_mm: Polygon) -> str | None:
    """Read the QR code standing at a known square of the page, or give None."""
    (left, top), (right, bottom) = square_mm[0], square_mm[2]
    size = (right - left + 2 * _QUIET_MM, bottom - top + 2 * _QUIET_MM)
    corner = (left - _QUIET_MM, top - _QUIET_MM)
    quick, thorough = cv2.QRCodeDetectorAruco(), cv2.QRCodeDetector()
    for detector, calmed in ((quick, False), (thorough, False), (quick, True), (thorough, True)):
        for px_per_mm in _TRIED_PX_PER_MM:
            flat = straighten(picture, placed, size, corner, px_per_mm)
            look = cv2.cvtColor(flat, cv2.COLOR_RGB2GRAY)
            if calmed:
                look = cv2.GaussianBlur(look, (0, 0), _CALMED_PX)
            text, _, _ = detector.detectAndDecode(look)
            if text:
                return str(text)
    return None
