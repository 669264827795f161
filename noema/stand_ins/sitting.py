"""A student before one exercise, mixing each cell nearly right."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.random import Generator

from noema.core.exercises.asked import Asked, AskedCell, Lab
from noema.core.exercises.cells import is_wash
from noema.core.exercises.tolerance import Tolerance
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.shelf import BLACK, TUBES, WHITE, PaintSet
from noema.core.pigments.tube import Tube
from noema.stand_ins.makers import mixed_by_eye
from noema.stand_ins.spectra import Recipe

_BLACK_IN_WHITE = np.stack([np.ones(121), np.geomspace(1e-4, 1e2, 121)], axis=1)


@dataclass(frozen=True, kw_only=True)
class Mix:
    """A colour, and what it was mixed from."""

    lab: Lab
    parts: Recipe


Mixes = dict[str, Mix]  # by cell


@dataclass(frozen=True, kw_only=True)
class Sitting:
    """One student before one exercise."""

    asked: Asked
    paints: PaintSet | None  # None: a plain value scale
    tolerance: Tolerance
    rng: Generator
    care: float = 0.08  # one sigma of the logarithm of each amount, when nothing goes wrong
    maker: Mapping[str, Tube] | None = None  # whose tubes they have, by name; None: as known

    @property
    def surface(self) -> Surface:
        """How the paint dries."""
        return self.paints.binder.dry if self.paints else Surface()

    def mixed(self, parts: Recipe, surface: Surface | None = None) -> Mix:
        """Mix, each amount a little off; by eye it is so when the tubes at hand are mixed."""
        care = self.care if self.maker is None else 0.0
        off = np.exp(self.rng.normal(0.0, care, len(parts))).tolist()
        parts = tuple(
            replace(part, amount=part.amount * o) for part, o in zip(parts, off, strict=True)
        )
        lab = lab_of_parts(parts, surface or self.surface) + self.rng.normal(0.0, 0.4, 3)
        return Mix(lab=lab_of(lab), parts=parts)

    def as_filled(self, mixes: Mixes) -> Mixes:
        """Give the colours that are meant as the tubes they have give them, mixed by eye."""
        if self.maker is None:
            return mixes
        found = {}
        washes = {
            cell.id for cell in self.asked.on_paper if cell.parts and is_wash(cell, self.surface)
        }
        for cell, mix in mixes.items():
            if cell in washes:
                found[cell] = mix  # what the paper does to it no tube changes much
                continue
            lab, parts = mixed_by_eye(
                mix.parts, mix.lab, self.maker, self.surface, self.rng, self.care
            )
            found[cell] = Mix(lab=lab, parts=parts)
        return found

    def right(self, cell: AskedCell) -> Mix:
        """Paint a cell as asked, as well as hands can."""
        if len(cell.parts) < 2 or is_wash(cell, self.surface):
            # Grey of no named tubes, a tube as it comes, or a wash.
            lab = np.array(cell.lab) + self.rng.normal(0.0, (0.9, 0.5, 0.5))
            return Mix(lab=lab_of(lab), parts=recipe_of(cell))
        return self.mixed(cell.parts)


def recipe_of(cell: AskedCell) -> Recipe:
    """Say what a cell is mixed from: black and white where an exercise names no tubes."""
    if cell.parts:
        return cell.parts
    tubes = (TUBES[WHITE], TUBES[BLACK])
    away = np.abs(mix_labs(tubes, _BLACK_IN_WHITE)[:, 0] - cell.lab[0])
    amounts = _BLACK_IN_WHITE[int(np.argmin(away))].tolist()
    return tuple(Part(tube=t, amount=a) for t, a in zip(tubes, amounts, strict=True))


def lab_of(values: np.ndarray) -> Lab:
    """Give Lab (3,) as three numbers."""
    lightness, a, b = values.tolist()
    return (lightness, a, b)
