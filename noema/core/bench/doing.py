"""Acts as they are kept, in the order they were done; playing them gives the palette."""

from collections.abc import Iterable
from dataclasses import dataclass

from noema.core.bench.acts import (
    Bench,
    LetDown,
    begin_pile,
    dry,
    fresh_water,
    halve,
    mix,
    rinse,
    wipe,
)
from noema.core.bench.palette import Palette


@dataclass(frozen=True, kw_only=True)
class Squeeze:
    """Paint comes out of a tube."""

    tube: str
    ml: float

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return bench.squeeze(palette, self.tube, self.ml)


@dataclass(frozen=True, kw_only=True)
class BeginPile:
    """A place is kept for a pile."""

    pile: str

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return begin_pile(palette, self.pile)


@dataclass(frozen=True, kw_only=True)
class Take:
    """Some of a dab or a pile goes into a pile."""

    source: str
    ml: float
    pile: str

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return bench.take(palette, self.source, self.ml, self.pile)


@dataclass(frozen=True, kw_only=True)
class MixPile:
    """A pile is mixed."""

    pile: str

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return mix(palette, self.pile)


@dataclass(frozen=True, kw_only=True)
class Wipe:
    """The knife is wiped."""

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return wipe(palette)


@dataclass(frozen=True, kw_only=True)
class Rinse:
    """The knife is rinsed in the jar."""

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return rinse(palette)


@dataclass(frozen=True, kw_only=True)
class FreshWater:
    """The jar is emptied and filled again."""

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return fresh_water(palette)


@dataclass(frozen=True, kw_only=True)
class Halve:
    """Half of a pile is set aside as another."""

    pile: str
    aside: str

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return halve(palette, self.pile, self.aside)


@dataclass(frozen=True, kw_only=True)
class LetPileDown:
    """White straight from its tube, or water, goes into a pile."""

    pile: str
    how: LetDown
    ml: float

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return bench.let_down(palette, self.pile, self.how, self.ml)


@dataclass(frozen=True, kw_only=True)
class Dry:
    """A pile dries."""

    pile: str

    def on(self, bench: Bench, palette: Palette) -> Palette:
        """Do it."""
        return dry(palette, self.pile)


Act = Squeeze | BeginPile | Take | MixPile | Wipe | Rinse | FreshWater | Halve | LetPileDown | Dry


def played(bench: Bench, acts: Iterable[Act]) -> tuple[Palette, ...]:
    """Give the palette before the first act and after each."""
    palettes = [Palette()]
    for act in acts:
        palettes.append(act.on(bench, palettes[-1]))
    return tuple(palettes)
