"""The camera's tone curve and colours, undone by what is known of the page: fourth stage."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.card import colours_at, find_card
from noema.core.photo.grey_card import find_grey
from noema.core.photo.knowledge import CARD_SOURCE, known_patch
from noema.core.photo.page import Page
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.photo.patches import (
    SeenPatch,
    colour_fit_of,
    is_grey,
    paper_by_card,
    print_misfit,
    tone_of,
    unspoiled,
)
from noema.core.photo.seeing import Seeing
from noema.core.photo.stages.light import LitSheet
from noema.core.photo.straighten import to_page
from noema.core.sheet.layout import Layout, PatchKind, Triple
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class ColouredSheet:
    """A sheet whose colours can be told."""

    lit: LitSheet
    seeing: Seeing
    card_seen: bool
    greys_seen: bool  # enough of them
    grey_print: bool  # no patch shows a colour: none was sent, or the printer has none
    seen: tuple[SeenPatch, ...]  # of the print, and of tubes
    other_print: bool  # it isn't what its printer is known to lay, and was taken for unknown


def tone_and_colour(given: LitSheet, parameters: ColourParameters = COLOUR) -> ColouredSheet:
    """Fit the camera's tone curve to greys and its colours to everything whose colour is known.

    A print that no usual camera could show as its printer is known to lay it was printed elsewhere.
    """
    sought = given.sheet.sought
    beside = _card_patches(given, parameters)
    to_wide = sought.picture.to_wide
    by_card = paper_by_card(beside, to_wide, parameters)
    paper = by_card or _paper_lab(sought.layout, parameters)
    printed = unspoiled(_seen_patches(given.page, sought.layout, parameters), parameters)
    patches = [*printed, *beside]
    tone, greys_seen = tone_of(patches, paper[0], parameters)
    misfit = print_misfit(printed, tone, to_wide, paper[0], parameters)
    other_print = misfit > parameters.print_misfit
    if other_print:
        paper = by_card or (parameters.paper, parameters.paper_sigma)
        patches = [*(one.of_unknown_print for one in printed), *beside]
        tone, _ = tone_of(patches, paper[0], parameters)
    fit = colour_fit_of(
        patches,
        tone,
        to_wide,
        paper[0],
        of_ink=sought.layout.cells_printed,
        parameters=parameters,
    )
    seeing = Seeing(
        tone=tone,
        to_wide=to_wide,
        in_srgb=sought.picture.icc is None,
        fit=fit,
        paper=paper,
        paper_light=given.page.light.middle,
    )
    return ColouredSheet(
        lit=given,
        seeing=seeing,
        card_seen=bool(beside),
        greys_seen=greys_seen,
        grey_print=sought.layout.grey_only or (bool(printed) and is_grey(printed, parameters)),
        seen=tuple(printed),
        other_print=other_print,
    )


def _seen_patches(page: Page, layout: Layout, parameters: ColourParameters) -> list[SeenPatch]:
    """Give every printed patch that can be seen, in the file's linear channels over paper's."""
    found = []
    for patch in layout.reference:
        place = page.pixels(patch.polygon_mm, parameters.patch_rim_mm)
        if patch.kind is not PatchKind.PAPER and len(place) >= parameters.fewest_pixels:
            at = np.mean(patch.polygon_mm, axis=0)[None]
            rgb = median_of(page.relative[place[:, 0], place[:, 1]])
            found.append(SeenPatch(patch=patch, rgb=rgb, light=page.light.at(at)[0]))
    return found


def _card_patches(given: LitSheet, parameters: ColourParameters) -> list[SeenPatch]:
    """Give a card's patches with their colours over the paper's light; empty where none lies."""
    sought, page = given.sheet.sought, given.page
    card = sought.card
    if card is None:
        return []
    sigma = parameters.card_own_sigma
    if card.is_one_grey:
        grey = find_grey(page, parameters)
        if grey is None:
            return []
        known = known_patch("card0", (), card.labs[0], sigma, CARD_SOURCE)
        return [SeenPatch(patch=known, rgb=grey, light=np.full(3, page.light.middle))]
    seen = find_card(sought.picture, card, parameters)
    if seen is None:
        return []
    colours = colours_at(sought.picture, seen.polygons_px)
    middles = to_page(given.sheet.placed, seen.polygons_px.mean(axis=1))
    # Beside the page the light is taken from the page's nearest edge.
    light = page.light.at(np.clip(middles, 0.0, np.array(page.light.size_mm)))
    return [
        SeenPatch(
            patch=known_patch(f"card{n}", (), lab, sigma, CARD_SOURCE),
            rgb=colours[n] / light[n],
            light=light[n],
        )
        for n, lab in enumerate(card.labs)
    ]


def _paper_lab(layout: Layout, parameters: ColourParameters) -> tuple[Triple, float]:
    for patch in layout.reference:
        if patch.kind is PatchKind.PAPER and patch.lab is not None:
            return patch.lab, patch.lab_sigma or 0.5
    return parameters.paper, parameters.paper_sigma
