"""Which sheets are in a photograph, before anybody knows their layouts: first stage."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from noema.core.photo.code import read_code
from noema.core.photo.marks import NO_MARKS, FoundMarks, find_marks
from noema.core.photo.parameters.identify import IDENTIFY, IdentifyParameters
from noema.core.photo.picture import Picture
from noema.core.photo.several import sheets_in
from noema.core.photo.straighten import Placed, place_page
from noema.core.sheet.paper import FRAMES, PaperFrame


@dataclass(frozen=True, kw_only=True, eq=False)
class IdentifiedSheet:
    """One sheet in a photograph."""

    marks: FoundMarks  # its own
    frame: PaperFrame
    flat: Placed  # by its marks alone
    code: str | None = None  # None where it couldn't be read, or nobody tried


@dataclass(frozen=True, kw_only=True, eq=False)
class Identified:
    """What a photograph shows."""

    marks: FoundMarks = NO_MARKS  # all
    sheets: tuple[IdentifiedSheet, ...] = ()  # in an order that never changes

    def part(self, number: int) -> IdentifiedSheet | None:
        """Give one of the sheets; None where there aren't so many."""
        return self.sheets[number] if number < len(self.sheets) else None

    def with_code(self, code: str) -> IdentifiedSheet | None:
        """Give the sheet of a code; else one whose code can't be read, or the first; else None."""
        wanted = (code, None)
        found = (sheet for one in wanted for sheet in self.sheets if sheet.code == one)
        return next(found, self.part(0))


def identify(picture: Picture, parameters: IdentifyParameters = IDENTIFY) -> Identified:
    """Find every sheet by its marks, place it flat and read its code."""
    found = find_sheets(picture, parameters)
    sheets = tuple(
        replace(one, code=read_code(picture.rgb, one.flat, one.frame.qr_polygon_mm, parameters))
        for one in found.sheets
    )
    return replace(found, sheets=sheets)


def find_sheets(picture: Picture, parameters: IdentifyParameters = IDENTIFY) -> Identified:
    """Find every sheet without reading its code, for those who know whose it is."""
    marks = find_marks(picture.rgb, parameters)
    return Identified(marks=marks, sheets=tuple(_sheets(marks, parameters)))


def _sheets(found: FoundMarks, parameters: IdentifyParameters) -> Iterator[IdentifiedSheet]:
    for frame in FRAMES:
        for marks in sheets_in(found, frame.markers, parameters):
            flat = place_page(marks, frame.markers, parameters)
            if flat is not None:
                yield IdentifiedSheet(marks=marks, frame=frame, flat=flat)
