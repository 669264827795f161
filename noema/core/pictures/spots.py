"""Spots of a picture: what colour is there, and what these tubes would need for it."""

from dataclasses import dataclass

import numpy as np

from noema.core.bench.seen import Lab
from noema.core.colour.hvc import HVC, hvc_of
from noema.core.colour.wide import wide_to_lab
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.pictures.colours import PictureColours
from noema.core.pigments.recipe import Recipe, recipe
from noema.core.pigments.shelf import PaintSet

USUAL_RADIUS = 0.012
"""Of a spot, as a share of the longer side: about the tip of a brush held against a picture."""


@dataclass(frozen=True, kw_only=True)
class PictureSpot:
    """One place of a picture."""

    x: float  # shares of width and height
    y: float
    lab: Lab
    hvc: HVC
    recipe: Recipe


def spot_at(
    colours: PictureColours, x: float, y: float, paints: PaintSet, radius: float = USUAL_RADIUS
) -> PictureSpot:
    """Look at a small disc of a picture; refuses a place outside it."""
    if not (0.0 <= x <= 1.0 and 0.0 <= y <= 1.0):
        raise Refused(gettext("A place is two shares of width and height, each from 0 to 1."))
    lab = _lab_of_disc(colours, x, y, radius)
    return PictureSpot(
        x=x, y=y, lab=lab, hvc=hvc_of(lab), recipe=recipe(lab, paints.tubes, paints.binder.dry)
    )


def _lab_of_disc(colours: PictureColours, x: float, y: float, radius: float) -> Lab:
    """Average the light of a disc."""
    height, width = colours.wide.shape[:2]
    rows, columns = np.mgrid[0:height, 0:width]
    reach = max(radius * max(height, width), 0.71)  # never less than the pixel it lies in
    middle = (x * width - 0.5, y * height - 0.5)
    inside = np.hypot(columns - middle[0], rows - middle[1]) <= reach
    if not inside.any():
        inside[min(int(y * height), height - 1), min(int(x * width), width - 1)] = True
    lightness, a, b = wide_to_lab(colours.wide[inside].mean(axis=0)).tolist()
    return lightness, a, b
