"""A palette as it lies there: dabs, piles, the knife, the jar, and what was wiped off."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from types import MappingProxyType

from noema.core.errors import Refused
from noema.core.language import gettext

Paint = Mapping[str, float]  # ml by tube
NO_PAINT: Paint = MappingProxyType({})


def _none() -> Paint:
    return NO_PAINT


@dataclass(frozen=True, kw_only=True)
class Pile:
    """Paint brought together."""

    paint: Paint = field(default_factory=_none)
    water_ml: float = 0.0
    is_dry: bool = False

    @property
    def ml(self) -> float:
        """How much paint it is, without water."""
        return sum(self.paint.values())


@dataclass(frozen=True, kw_only=True)
class Palette:
    """Everything on it, and what ever came out of the tubes."""

    dabs: Paint = field(default_factory=_none)
    piles: Mapping[str, Pile] = field(default_factory=lambda: MappingProxyType({}))
    knife: Paint = field(default_factory=_none)
    waste: Paint = field(default_factory=_none)
    jar: Paint = field(default_factory=_none)  # what was rinsed off, in its water
    squeezed: Paint = field(default_factory=_none)

    def pile(self, name: str) -> Pile:
        """Give a pile, or refuse where there is none."""
        if name not in self.piles:
            raise Refused(gettext("There is no pile “%(name)s”: make it first.", name=name[:40]))
        return self.piles[name]

    def wet_pile(self, name: str) -> Pile:
        """Give a pile that can still be worked, or refuse."""
        pile = self.pile(name)
        if pile.is_dry:
            raise Refused(gettext("The pile “%(name)s” is dry: begin another one.", name=name[:40]))
        return pile

    def with_pile(self, name: str, pile: Pile) -> "Palette":
        """Give the palette with a pile as it is now."""
        return replace(self, piles=MappingProxyType({**self.piles, name: pile}))


def joined(one: Paint, other: Paint) -> Paint:
    """Give both amounts together.

    >>> dict(joined({"rose": 1.0}, {"rose": 0.5, "cyan": 2.0}))
    {'rose': 1.5, 'cyan': 2.0}
    """
    tubes = dict.fromkeys([*one, *other])
    return MappingProxyType({tube: one.get(tube, 0.0) + other.get(tube, 0.0) for tube in tubes})


def share(paint: Paint, part: float) -> Paint:
    """Give a part of some paint, 0..1, each tube alike.

    >>> dict(share({"rose": 1.0, "cyan": 2.0}, 0.25))
    {'rose': 0.25, 'cyan': 0.5}
    """
    return MappingProxyType({tube: part * ml for tube, ml in paint.items() if part * ml > 0.0})


def total(palette: Palette) -> Paint:
    """Give all paint that is anywhere: what was squeezed, if nothing is lost."""
    found = joined(palette.dabs, joined(palette.knife, palette.waste))
    found = joined(found, palette.jar)
    for pile in palette.piles.values():
        found = joined(found, pile.paint)
    return found
