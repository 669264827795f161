"""What a reading could go by besides the photograph: a calibrated printer, a card, known tubes."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from enum import Enum

import numpy as np

from noema.core.colour.srgb import lab_to_linear, linear_to_srgb
from noema.core.language import N_, gettext
from noema.core.sheet.layout import Layout, Patch, PatchKind, Polygon, Triple

Srgb = tuple[int, int, int]

PRINTED_SOURCES = ("printer calibration", "meter")
LEARNED_SOURCE = "learned"  # from photographs of its sheets by several cameras
TUBE_SOURCE, CARD_SOURCE = "tube", "card"
_GREY_LAB = 4.0  # a* and b* together, under which a card's patch shows the tone curve
_TUBE_SIGMA = 2.0  # CIEDE2000: a student's paint out of the tube against the measured swatch


class Knowledge(Enum):
    """Something that makes a reading surer, or less sure."""

    PRINTER = "printer"  # what this printer lays was measured
    LEARNED = "learned"  # what this printer lays was learned from earlier photographs
    CARD = "card"  # a reference card lay beside the sheet
    TUBES = "tubes"  # paint straight from measured tubes stands on the sheet
    BY_HAND = "by-hand"  # a person placed the outline
    UNPRINTED = "unprinted"  # nothing of known colour stands on the paper
    GREY_PRINT = "grey-print"  # printed without colours
    OTHER_PRINT = "other-print"  # it isn't what the printer named lays
    NONE = "none"  # colours of the print had to be guessed


_SENTENCES = {
    Knowledge.PRINTER: N_("The printer's own colours are known from its calibration."),
    Knowledge.LEARNED: N_(
        "What this printer lays was learned from photographs of its sheets by other cameras."
    ),
    Knowledge.CARD: N_("A reference card beside the sheet was used."),
    Knowledge.TUBES: N_("Cells straight from your measured tubes helped to anchor the colours."),
    Knowledge.BY_HAND: N_("The outline was placed by hand."),
    Knowledge.UNPRINTED: N_(
        "This paper has no printed colours: steps are surer than single colours."
    ),
    Knowledge.GREY_PRINT: N_(
        "It was printed without colours, so hue and intensity are less sure: a card beside the "
        "sheet helps, or sheets from a printer that has colours."
    ),
    Knowledge.OTHER_PRINT: N_(
        "This print doesn't look like that printer's: it was read as from an unknown one."
    ),
    Knowledge.NONE: N_("The printer isn't calibrated: steps are surer than single colours."),
}


@dataclass(frozen=True, kw_only=True)
class Known:
    """A colour and how well it is known."""

    lab: Triple  # D50
    sigma: float  # CIEDE2000
    gain: float | None = None
    """One sigma of what all greys of its print are off by together: a dot gain, as an exponent."""


def knowledge_sentence(knowledge: Iterable[Knowledge]) -> str:
    """Say in a sentence or two what a reading had to go by.

    >>> knowledge_sentence([Knowledge.PRINTER])
    "The printer's own colours are known from its calibration."
    """
    return " ".join(gettext(_SENTENCES[one]) for one in knowledge)


def knowledge_of(
    layout: Layout,
    *,
    card_seen: bool = False,
    grey_print: bool = False,
    other_print: bool = False,
) -> tuple[Knowledge, ...]:
    """Say what a layout offers to go by, and what was seen: a card, no colours, another's print."""
    sources = {patch.lab_source for patch in layout.reference if patch.lab is not None}
    found = []
    if other_print:
        found.append(Knowledge.OTHER_PRINT)
    elif sources & set(PRINTED_SOURCES):
        found.append(Knowledge.PRINTER)
    elif LEARNED_SOURCE in sources:
        found.append(Knowledge.LEARNED)
    if card_seen or CARD_SOURCE in sources:
        found.append(Knowledge.CARD)
    if TUBE_SOURCE in sources:
        found.append(Knowledge.TUBES)
    if (grey_print or layout.grey_only) and Knowledge.CARD not in found:
        found.append(Knowledge.GREY_PRINT)
    return tuple(found) or (Knowledge.NONE,)


def with_known_print(layout: Layout, labs: Mapping[Srgb, Known], source: str) -> Layout:
    """Write a printer's measured colours into a layout; patches it never laid stay unknown."""
    paper = labs.get((255, 255, 255))
    reference = []
    for patch in layout.reference:
        known = paper if patch.kind is PatchKind.PAPER else labs.get(patch.nominal_srgb)
        reference.append(known_as(patch, known, source))
    return replace(layout, reference=tuple(reference))


def known_as(patch: Patch, known: Known | None, source: str) -> Patch:
    """Write a known colour into a patch, unless it has one or nothing is known."""
    if known is None or patch.lab is not None:
        return patch
    return replace(
        patch, lab=known.lab, lab_sigma=known.sigma, lab_gain=known.gain, lab_source=source
    )


def with_known_tubes(layout: Layout, labs: Mapping[str, Triple]) -> Layout:
    """Let cells that are paint straight from measured tubes serve as patches, by their ids."""
    cells = [cell for cell in layout.cells if cell.id in labs]
    more = [
        known_patch(f"tube-{cell.id}", cell.polygon_mm, labs[cell.id], _TUBE_SIGMA, TUBE_SOURCE)
        for cell in cells
    ]
    return replace(layout, reference=(*layout.reference, *more))


def known_patch(name: str, polygon: Polygon, lab: Triple, sigma: float, source: str) -> Patch:
    """Make a patch of a thing that wasn't printed but whose colour is known."""
    shown = np.clip(linear_to_srgb(lab_to_linear(lab)), 0.0, 1.0) * 255.0
    red, green, blue = (round(float(part)) for part in shown)
    grey = abs(lab[1]) + abs(lab[2]) < _GREY_LAB
    return Patch(
        id=name,
        kind=PatchKind.GREY if source == CARD_SOURCE and grey else PatchKind.COLOUR,
        polygon_mm=polygon,
        nominal_srgb=(red, green, blue),
        lab=lab,
        lab_sigma=sigma,
        lab_source=source,
    )
