"""Where the page lies in the photograph, by everything printed on it: second stage."""

from dataclasses import dataclass

from noema.core.photo.card import ReferenceCard
from noema.core.photo.landmarks import register
from noema.core.photo.parameters.place import PLACE, PlaceParameters
from noema.core.photo.picture import Picture
from noema.core.photo.stages.identify import IdentifiedSheet
from noema.core.photo.straighten import Placed
from noema.core.sheet.layout import Layout


@dataclass(frozen=True, kw_only=True, eq=False)
class Sought:
    """What is to be read."""

    picture: Picture
    layout: Layout
    card: ReferenceCard | None = None  # that may lie beside the sheet


@dataclass(frozen=True, kw_only=True, eq=False)
class SheetToPlace:
    """A sheet found by its marks."""

    sought: Sought
    found: IdentifiedSheet


@dataclass(frozen=True, kw_only=True, eq=False)
class PlacedSheet:
    """A sheet whose place is known."""

    sought: Sought
    placed: Placed
    sound: bool = True  # whether printed patches lie where they should

    @property
    def size_px(self) -> tuple[int, int]:
        """Width and height of the photograph."""
        height, width = self.sought.picture.rgb.shape[:2]
        return width, height


def place(given: SheetToPlace, parameters: PlaceParameters = PLACE) -> PlacedSheet:
    """Bend the page from where its marks have it to where its patches and cells are seen."""
    sought = given.sought
    registered = register(sought.picture.rgb, given.found.flat, sought.layout, parameters)
    return PlacedSheet(sought=sought, placed=registered.placed, sound=registered.sound)
