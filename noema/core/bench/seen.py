"""What piles look like, wet and dry."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.bench.palette import Palette, Pile
from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import film_labs, mix_labs
from noema.core.pigments.shelf import PaintSet

Lab = tuple[float, float, float]


@dataclass(frozen=True, kw_only=True)
class PileColour:
    """A pile's colour (CIELAB D50/2)."""

    lab: Lab  # once dry
    hvc: HVC  # of that
    wet_lab: Lab


def colours_of(palette: Palette, paints: PaintSet) -> Mapping[str, PileColour]:
    """Give the colour of every pile that holds paint; with water, as a wash over white paper."""
    names = [name for name, pile in palette.piles.items() if pile.ml > 0.0]
    if not names:
        return {}
    piles = [palette.piles[name] for name in names]
    dry, wet = (_labs(piles, paints, one) for one in (paints.binder.dry, paints.binder.wet))
    return {
        name: PileColour(lab=_lab(of_dry), hvc=hvc, wet_lab=_lab(of_wet))
        for name, of_dry, of_wet, hvc in zip(names, dry, wet, hvcs_of(dry), strict=True)
    }


def _labs(piles: list[Pile], paints: PaintSet, surface: Surface) -> NDArray[np.float64]:
    amounts = np.array(
        [[pile.paint.get(tube.name, 0.0) for tube in paints.tubes] for pile in piles]
    )
    labs = mix_labs(paints.tubes, amounts, surface)
    thin = [number for number, pile in enumerate(piles) if pile.water_ml > 0.0]
    if thin:
        coats = np.array([piles[one].ml / (piles[one].ml + piles[one].water_ml) for one in thin])
        labs[thin] = film_labs(paints.tubes, amounts[thin], coats, surface)
    return labs


def _lab(row: NDArray[np.float64]) -> Lab:
    lightness, a, b = (float(number) for number in row)
    return lightness, a, b
