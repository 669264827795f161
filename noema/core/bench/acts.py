"""What a hand does on a palette; each act gives the next state and changes nothing."""

from dataclasses import dataclass, replace
from enum import Enum
from math import isfinite

from noema.core.bench.palette import NO_PAINT, Paint, Palette, Pile, joined, share
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.pigments.shelf import PaintSet

LEAST_TAKEN_ML = 0.05
"""A grain: less nobody takes on purpose."""

CLINGS_ML = 0.03
"""What a wiped knife holds after it touched paint: less than the least that is taken on purpose, a
grain of 0.05 ml. Chosen, not measured."""

JAR_ML = 200.0
"""Water in a jar: of what was rinsed into it, a let-down takes along its share."""

MOST_ML, MOST_PILES = 200.0, 40
"""More than any palette holds."""

_DUST_ML = 1e-9  # below this, what is left is a rounding
_WATER = "water"


class LetDown(Enum):
    """What a pile is let down with."""

    WHITE = "white"
    WATER = _WATER


@dataclass(frozen=True, kw_only=True)
class Bench:
    """The tubes that stand round the palette."""

    paints: PaintSet
    tube_holds_ml: float = MOST_ML

    def squeeze(self, palette: Palette, tube: str, ml: float) -> Palette:
        """Squeeze a dab, or more onto the one that is there."""
        name, ml = self.paints.tube(tube).name, _amount(ml)
        if sum(palette.squeezed.values()) + ml > MOST_ML:
            raise Refused(gettext("No palette holds more than %(most)g ml.", most=MOST_ML))
        left = self.left_ml(palette, name)
        if ml > left + _DUST_ML:
            raise Refused(
                gettext(
                    "The tube of %(tube)s holds only %(left)s ml more: squeeze less, or make do.",
                    tube=self.paints.tube(tube).label,
                    left=f"{left:.2f}",
                )
            )
        return replace(
            palette,
            dabs=joined(palette.dabs, {name: ml}),
            squeezed=joined(palette.squeezed, {name: ml}),
        )

    def left_ml(self, palette: Palette, tube: str) -> float:
        """Give what is left in a tube."""
        return max(self.tube_holds_ml - palette.squeezed.get(tube, 0.0), 0.0)

    def take(self, palette: Palette, source: str, ml: float, pile: str) -> Palette:
        """Take some of a dab or a pile into a pile; what clung to the knife comes along."""
        into = palette.wet_pile(pile)
        if source == pile:
            raise Refused(gettext("Take from another place than the pile itself."))
        scooped, water_ml, palette = self._scooped(palette, source, _amount(ml))
        amount = sum(scooped.values())
        clings = min(CLINGS_ML, amount / 2.0) / amount
        brought = joined(share(scooped, 1.0 - clings), palette.knife)
        fuller = Pile(paint=joined(into.paint, brought), water_ml=into.water_ml + water_ml)
        return replace(palette.with_pile(pile, fuller), knife=share(scooped, clings))

    def let_down(self, palette: Palette, pile: str, how: LetDown, ml: float) -> Palette:
        """Add white straight from its tube, or water from the jar, as clean as that is."""
        thick, ml = palette.wet_pile(pile), _amount(ml)
        if how is LetDown.WATER:
            part = min(ml / JAR_ML, 1.0)
            thinner = Pile(
                paint=joined(thick.paint, share(palette.jar, part)), water_ml=thick.water_ml + ml
            )
            return replace(palette.with_pile(pile, thinner), jar=share(palette.jar, 1.0 - part))
        white = self.paints.tube(LetDown.WHITE.value).name
        squeezed = self.squeeze(palette, white, ml)
        paler = replace(thick, paint=joined(thick.paint, {white: ml}))
        return replace(squeezed.with_pile(pile, paler), dabs=palette.dabs)

    def _scooped(self, palette: Palette, source: str, ml: float) -> tuple[Paint, float, Palette]:
        """Give what comes off a dab or a pile, with its water, and what is left."""
        if source in palette.piles:
            pile = palette.wet_pile(source)
            part = _part(ml, pile.ml, source)
            left = Pile(paint=_less(pile.paint, part), water_ml=(1.0 - part) * pile.water_ml)
            return share(pile.paint, part), part * pile.water_ml, palette.with_pile(source, left)
        name = self.paints.tube(source).name
        part = _part(ml, palette.dabs.get(name, 0.0), name)
        dab = {name: palette.dabs.get(name, 0.0)}
        others = {tube: there for tube, there in palette.dabs.items() if tube != name}
        left_dabs = joined(others, _less(dab, part))
        return share(dab, part), 0.0, replace(palette, dabs=left_dabs)


def begin_pile(palette: Palette, name: str) -> Palette:
    """Keep a place for a pile."""
    if not name or name in palette.piles:
        raise Refused(gettext("There is a pile “%(name)s” already.", name=name[:40]))
    if len(palette.piles) >= MOST_PILES:
        raise Refused(gettext("No palette has room for more than %(most)s piles.", most=MOST_PILES))
    return palette.with_pile(name, Pile())


def mix(palette: Palette, pile: str) -> Palette:
    """Mix a pile; the knife leaves what clung to it there, and holds some of the mix."""
    held = palette.wet_pile(pile)
    both = joined(held.paint, palette.knife)
    amount = sum(both.values())
    if amount <= 0.0:
        raise Refused(gettext("There is nothing in the pile “%(name)s” to mix.", name=pile[:40]))
    clings = min(CLINGS_ML, amount / 2.0) / amount
    mixed = replace(held, paint=share(both, 1.0 - clings))
    return replace(palette.with_pile(pile, mixed), knife=share(both, clings))


def wipe(palette: Palette) -> Palette:
    """Wipe the knife."""
    return replace(palette, knife=NO_PAINT, waste=joined(palette.waste, palette.knife))


def rinse(palette: Palette) -> Palette:
    """Rinse the knife in the jar, whose water it dirties."""
    return replace(palette, knife=NO_PAINT, jar=joined(palette.jar, palette.knife))


def fresh_water(palette: Palette) -> Palette:
    """Empty the jar, let what was in it settle, and fill it again."""
    return replace(palette, jar=NO_PAINT, waste=joined(palette.waste, palette.jar))


def halve(palette: Palette, pile: str, aside: str) -> Palette:
    """Set half of a pile aside as another."""
    whole = palette.wet_pile(pile)
    half = Pile(paint=share(whole.paint, 0.5), water_ml=whole.water_ml / 2.0)
    return begin_pile(palette, aside).with_pile(pile, half).with_pile(aside, half)


def dry(palette: Palette, pile: str) -> Palette:
    """Let a pile dry; it can be looked at, and worked no longer."""
    return palette.with_pile(pile, replace(palette.wet_pile(pile), is_dry=True))


def _amount(ml: float) -> float:
    if not (isfinite(ml) and 0.0 < ml <= MOST_ML):
        raise Refused(gettext("An amount must be above 0 and at most %(most)g ml.", most=MOST_ML))
    return ml


def _part(ml: float, there: float, name: str) -> float:
    if ml > there + _DUST_ML:
        raise Refused(
            gettext(
                "There is only %(there)s ml of “%(name)s”: squeeze more, or take less.",
                there=f"{there:.2f}",
                name=name[:40],
            )
        )
    return min(ml / there, 1.0)


def _less(paint: Paint, part: float) -> Paint:
    """Give what is left of some paint; no dust of it."""
    left = share(paint, 1.0 - part)
    return left if sum(left.values()) > _DUST_ML else NO_PAINT
