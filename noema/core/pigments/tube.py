"""A tube of paint as the model knows it."""

from dataclasses import dataclass, field
from enum import Enum

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.spectra import WAVELENGTHS_NM
from noema.core.errors import BadPaint
from noema.core.language import N_, Term, gettext

Floats = NDArray[np.float64]

BANDS = len(WAVELENGTHS_NM)
_OF_MAKE = {"hue", "type", "light", "mixed"}  # words of a label that name no paint


class Role(Enum):
    """What a tube is for."""

    COLOUR = N_("colour")  # anything with a hue, browns and greys too
    WHITE = N_("white")  # lightens
    BLACK = N_("black")  # darkens


@dataclass(frozen=True, kw_only=True, eq=False)
class Tube:
    """One tube: K and S per volume as squeezed, white's S at 560 nm being 1."""

    name: str  # as contracts and files write it, such as lemon-yellow
    label: str  # for people
    pigments: tuple[str, ...]  # colour index codes
    absorption: Floats = field(repr=False)  # K, (31,)
    scattering: Floats = field(repr=False)  # S, (31,)
    basis: str  # what the curves rest on
    role: Role = Role.COLOUR
    metal: str | None = None  # a metal that asks for caution

    def __post_init__(self) -> None:
        for curve in (self.absorption, self.scattering):
            if curve.shape != (BANDS,) or not np.isfinite(curve).all() or curve.min() <= 0.0:
                raise BadPaint(
                    gettext(
                        "%(label)s: K and S need %(bands)s numbers above 0 each.",
                        label=self.label,
                        bands=BANDS,
                    )
                )
            curve.setflags(write=False)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Tube) and self._content == other._content

    def __hash__(self) -> int:
        return hash(self._content)

    @property
    def short(self) -> Term:
        """What it is called where there is little room: the last word that names a paint."""
        words = [word for word in self.label.replace(",", "").split() if word not in _OF_MAKE]
        return Term(words[-1] if words else self.label)

    @property
    def _content(self) -> tuple[str, bytes, bytes]:
        """What makes two tubes the same paint: lets answers about a set be remembered."""
        return (self.name, self.absorption.tobytes(), self.scattering.tobytes())


def absorptions(tubes: tuple[Tube, ...]) -> Floats:
    """Stack the tubes' K, shape (n, 31)."""
    return np.stack([tube.absorption for tube in tubes])


def scatterings(tubes: tuple[Tube, ...]) -> Floats:
    """Stack the tubes' S, shape (n, 31)."""
    return np.stack([tube.scattering for tube in tubes])
