"""The page seen squarely, with the light taken off: third stage."""

from dataclasses import dataclass

from noema.core.photo.page import Page, evened
from noema.core.photo.parameters.light import LIGHT, LightParameters
from noema.core.photo.stages.place import PlacedSheet
from noema.core.photo.straighten import straighten


@dataclass(frozen=True, kw_only=True, eq=False)
class LitSheet:
    """A sheet in even light."""

    sheet: PlacedSheet
    page: Page
    dark: bool  # nothing can be told from the camera's noise


def light(given: PlacedSheet, parameters: LightParameters = LIGHT) -> LitSheet:
    """Straighten the page and even out its light by blank paper."""
    sought = given.sought
    size = (sought.layout.width_mm, sought.layout.height_mm)
    straight = straighten(sought.picture.rgb, given.placed, size)
    page = evened(straight, sought.picture, sought.layout, parameters)
    return LitSheet(sheet=given, page=page, dark=page.light.middle < parameters.black_paper)
