"""Spots of a picture: what colour is there, how far from pure, and what is round it."""

from dataclasses import dataclass
from enum import Enum

import numpy as np
from numpy.typing import NDArray

from noema.core.bench.seen import Lab
from noema.core.colour.hvc import HVC, hvc_of, hvcs_of
from noema.core.colour.names import NEAR_NEUTRAL_BELOW, HueTable, hue_step
from noema.core.colour.wide import wide_to_lab
from noema.core.errors import Refused
from noema.core.language import N_, gettext, written
from noema.core.pictures.colours import PictureColours
from noema.core.pigments.reach import purest_chroma
from noema.core.pigments.recipe import Recipe, recipe
from noema.core.pigments.shelf import PaintSet

USUAL_RADIUS, LEAST_RADIUS, MOST_RADIUS = 0.012, 0.004, 0.06
"""Of a spot, as a share of the longer side: about the tip of a brush held against a picture."""

_RING = (1.6, 3.5)  # times a spot's radius, between which its neighbourhood lies
_MUCH_LIGHTER = 2.0  # values by which the neighbourhood changes how light a spot looks
_GREYISH, _STRONG = 3.0, 6.0  # a spot this grey beside chroma this high looks of another hue
_SEEN_VALUE, _SEEN_CHROMA = 0.5, 1.0  # differences of light and shadow worth saying


class SpotPart(Enum):
    """What of a thing a spot shows: light and shadow of one thing are tied by its name."""

    WHOLE = "whole"
    LIGHT = "light"
    SHADOW = "shadow"

    @property
    def label(self) -> str:
        """Its name for people."""
        return _PARTS[self]


_PARTS = {
    SpotPart.WHOLE: N_("by itself"),
    SpotPart.LIGHT: N_("in the light"),
    SpotPart.SHADOW: N_("in the shadow"),
}


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
    lab, _ = look_at(colours, x, y, radius)
    return PictureSpot(
        x=x,
        y=y,
        lab=lab,
        hvc=hvc_of(lab),
        recipe=recipe(lab, paints.tubes, paints.binder.dry),
    )


def look_at(
    colours: PictureColours, x: float, y: float, radius: float = USUAL_RADIUS
) -> tuple[Lab, Lab]:
    """Give the Lab of a small disc and of what lies round it; refuses a place outside."""
    if not (0.0 <= x <= 1.0 and 0.0 <= y <= 1.0):
        raise Refused(gettext("A place is two shares of width and height, each from 0 to 1."))
    height, width = colours.wide.shape[:2]
    rows, columns = np.mgrid[0:height, 0:width]
    reaches = max(radius * max(height, width), 0.71)  # never less than the pixel it lies in
    away = np.hypot(columns - (x * width - 0.5), rows - (y * height - 0.5)) / reaches
    inside = away <= 1.0
    if not inside.any():
        inside[min(int(y * height), height - 1), min(int(x * width), width - 1)] = True
    ring = (away >= _RING[0]) & (away <= _RING[1])
    return _mean_lab(colours, inside), _mean_lab(colours, ring if ring.any() else inside)


def _mean_lab(colours: PictureColours, inside: NDArray[np.bool_]) -> Lab:
    """Average the light of some pixels."""
    lightness, a, b = wide_to_lab(colours.wide[inside].mean(axis=0)).tolist()
    return lightness, a, b


def degree_of_neutral(hvc: HVC, paints: PaintSet) -> float | None:
    """Say how far a colour is from pure to neutral, 0 to 1, beside the purest of its hue.

    None where it has no hue, or these tubes haven't.
    """
    if hvc.hue100 is None or hvc.chroma < NEAR_NEUTRAL_BELOW:
        return None
    pure = purest_chroma(paints.tubes, hvc.hue100)
    return None if pure < NEAR_NEUTRAL_BELOW else float(np.clip(1.0 - hvc.chroma / pure, 0.0, 1.0))


_DEGREES = (
    (0.1, N_("as pure as these tubes are")),
    (0.3, N_("a little way to neutral")),
    (0.45, N_("a third of the way to neutral")),
    (0.6, N_("about half way to neutral")),
    (0.75, N_("two thirds of the way to neutral")),
    (0.9, N_("nearly neutral")),
    (float("inf"), N_("as good as neutral")),
)


def degree_words(degree: float | None) -> str:
    """Say how far from pure a colour is.

    >>> degree_words(0.5), degree_words(None)
    ('about half way to neutral', 'neutral')
    """
    if degree is None:
        return gettext("neutral")
    return gettext(next(words for top, words in _DEGREES if degree < top))


def contrast_words(hvc: HVC, around: HVC, table: HueTable) -> str:
    """Say how what lies round a spot makes it look; empty where it hardly does."""
    said = []
    by = hvc.value - around.value
    if by >= _MUCH_LIGHTER:
        said.append(gettext("What is round it is darker: it looks lighter than it is."))
    elif by <= -_MUCH_LIGHTER:
        said.append(gettext("What is round it is lighter: it looks darker than it is."))
    if around.hue100 is not None and around.chroma >= _STRONG and hvc.chroma <= _GREYISH:
        beside = table.nearest(around.hue100, 6).name
        towards = table.nearest(table.opposite(beside).hue100, 6).name
        said.append(
            gettext(
                "Beside so much %(beside)s it looks more %(towards)s than it is.",
                beside=beside,
                towards=towards,
            )
        )
    return " ".join(said)


def light_and_shadow(light: Lab, shadow: Lab, table: HueTable) -> str:
    """Say how the shadow of a thing differs from its light: value first, then hue and chroma."""
    lit, dark = hvcs_of(np.array([light, shadow]))
    by = lit.value - dark.value
    if by < _SEEN_VALUE:
        return gettext("Light and shadow are hardly apart in value: look again, squinting.")
    said = [
        gettext("The shadow is %(by)s of a value darker", by=written(by, ".1f"))
        if by < 1.0
        else gettext("The shadow is %(by)s values darker", by=written(by, ".1f"))
    ]
    towards = _leans_to(lit, dark, table)
    if towards:
        said.append(gettext("leans to %(towards)s", towards=towards))
    if dark.chroma - lit.chroma >= _SEEN_CHROMA:
        said.append(gettext("is more intense"))
    elif lit.chroma - dark.chroma >= _SEEN_CHROMA:
        said.append(gettext("is greyer"))
    return ", ".join(said) + "."


def _leans_to(from_hvc: HVC, to_hvc: HVC, table: HueTable) -> str:
    """Name the hue a colour goes to from another; empty where it stays."""
    if from_hvc.hue100 is None or to_hvc.hue100 is None:
        return ""
    if min(from_hvc.chroma, to_hvc.chroma) < NEAR_NEUTRAL_BELOW:
        return ""
    step = hue_step(from_hvc.hue100, to_hvc.hue100)
    if abs(step) < 2.5:
        return ""
    return table.towards(from_hvc.hue100, step)
