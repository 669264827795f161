"""How one photograph shows what a printer laid: kept with its reading, so that printers can be
learned from many."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.knowledge import CARD_SOURCE, TUBE_SOURCE, Srgb
from noema.core.photo.patches import SeenPatch
from noema.core.sheet.layout import Patch, PatchKind, Triple

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class SeenInk:
    """What was laid for one colour that was sent, on average over a page.

    `lab` is known of paint straight from a measured tube only.
    """

    sent: Srgb
    grey: bool
    rgb: Triple  # the file's linear channels over the paper's
    light: Triple  # the paper's beside it, 0..1
    lab: Triple | None = None
    lab_sigma: float | None = None  # CIEDE2000


@dataclass(frozen=True, kw_only=True)
class SeenPrint:
    """One photograph's view of a print."""

    camera: str  # make and model, as the file says; empty where it doesn't
    to_wide: tuple[Triple, Triple, Triple]  # from the file's channels to linear BT.2020
    inks: tuple[SeenInk, ...]

    @property
    def patches(self) -> list[SeenPatch]:
        """The same as patches of a page, of a print nobody has measured."""
        return [_patch(ink) for ink in self.inks]


def seen_print(camera: str, to_wide: Floats, patches: Sequence[SeenPatch]) -> SeenPrint:
    """Put together what a photograph shows of a print; a card beside it is left out."""
    same: dict[tuple[Srgb, str | None], list[SeenPatch]] = defaultdict(list)
    for one in patches:
        if one.patch.lab_source != CARD_SOURCE:
            tube = one.patch.id if one.patch.lab_source == TUBE_SOURCE else None
            same[one.patch.nominal_srgb, tube].append(one)
    red, green, blue = (_triple(row) for row in to_wide)
    inks = tuple(_ink(alike, tube is not None) for (_, tube), alike in same.items())
    return SeenPrint(camera=camera, to_wide=(red, green, blue), inks=inks)


def _ink(alike: list[SeenPatch], tube: bool) -> SeenInk:
    patch = alike[0].patch
    return SeenInk(
        sent=patch.nominal_srgb,
        grey=patch.kind is PatchKind.GREY,
        rgb=_triple(np.mean([one.rgb for one in alike], axis=0)),
        light=_triple(np.mean([one.light for one in alike], axis=0)),
        lab=patch.lab if tube else None,
        lab_sigma=patch.lab_sigma if tube else None,
    )


def _patch(ink: SeenInk) -> SeenPatch:
    patch = Patch(
        id="",
        kind=PatchKind.GREY if ink.grey else PatchKind.COLOUR,
        polygon_mm=(),
        nominal_srgb=ink.sent,
        lab=ink.lab,
        lab_sigma=ink.lab_sigma,
        lab_source=None if ink.lab is None else TUBE_SOURCE,
    )
    return SeenPatch(patch=patch, rgb=np.array(ink.rgb), light=np.array(ink.light))


def _triple(values: Floats) -> Triple:
    first, second, third = (round(float(one), 6) for one in values)
    return (first, second, third)
