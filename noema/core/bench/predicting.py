"""What somebody says a touch will do, held against what it did."""

from collections.abc import Iterable
from dataclasses import dataclass
from enum import Enum
from typing import TypeVar

from noema.core.colour.hvc import HVC
from noema.core.colour.names import HueTable, hue_step
from noema.core.language import N_

_VALUE, _CHROMA, _HUE = 0.1, 0.4, 1.0
"""Steps under which a change is hardly seen: then it stayed."""

_CLEAR = 2.0  # times that, from which it clearly didn't stay
_SHOWS = 1.0  # chroma from which a hue can turn


class SaidValue(Enum):
    """What becomes of the value."""

    LIGHTER = N_("lighter")
    DARKER = N_("darker")
    SAME = N_("no lighter or darker")


class SaidChroma(Enum):
    """What becomes of the intensity."""

    CLEANER = N_("cleaner")
    DULLER = N_("duller")
    SAME = N_("no cleaner or duller")


STAYS = "stays"
"""Said of a hue that doesn't turn."""


T = TypeVar("T", SaidValue, SaidChroma)


@dataclass(frozen=True, kw_only=True)
class Prediction:
    """What somebody said of a touch before it was made; what wasn't said is None."""

    value: SaidValue | None = None
    hue: str | None = None  # of six, towards which it turns; or that it stays
    chroma: SaidChroma | None = None


@dataclass(frozen=True, kw_only=True)
class Foreseen:
    """Whether each thing said came true; None where it wasn't said or can't be told."""

    value: bool | None = None
    hue: bool | None = None
    chroma: bool | None = None

    @property
    def said(self) -> tuple[bool, ...]:
        """Those that can be told."""
        return tuple(one for one in (self.value, self.hue, self.chroma) if one is not None)


def foreseen(said: Prediction, before: HVC, after: HVC, table: HueTable) -> Foreseen:
    """Hold what was said against what came; of a change hardly seen either word is right."""
    value, chroma = after.value - before.value, after.chroma - before.chroma
    return Foreseen(
        value=None if said.value is None else said.value in _values(value),
        hue=None if said.hue is None else _hue_came(said.hue, before, after, table),
        chroma=None if said.chroma is None else said.chroma in _chromas(chroma),
    )


def share_foreseen(of: Iterable[Foreseen]) -> tuple[int, int]:
    """Count what came true and what was said."""
    said = [right for one in of for right in one.said]
    return sum(said), len(said)


def _values(change: float) -> set[SaidValue]:
    way = SaidValue.LIGHTER if change > 0.0 else SaidValue.DARKER
    return _ways(change / _VALUE, way, SaidValue.SAME)


def _chromas(change: float) -> set[SaidChroma]:
    way = SaidChroma.CLEANER if change > 0.0 else SaidChroma.DULLER
    return _ways(change / _CHROMA, way, SaidChroma.SAME)


def _ways(steps: float, way: T, same: T) -> set[T]:
    """Between hardly seen and clear, both words are right."""
    size = abs(steps)
    return {same} if size < 1.0 else {way} if size >= _CLEAR else {way, same}


def _hue_came(said: str, before: HVC, after: HVC, table: HueTable) -> bool | None:
    """Say whether a hue turned to where it was said; None where a colour is too grey to tell."""
    if before.hue100 is None or after.hue100 is None or min(before.chroma, after.chroma) < _SHOWS:
        return None
    turn = hue_step(before.hue100, after.hue100)
    if said == STAYS:
        return abs(turn) < _CLEAR * _HUE
    named = table.of(said).hue100
    gained = abs(hue_step(before.hue100, named)) - abs(hue_step(after.hue100, named))
    return abs(turn) >= _HUE and gained > 0.0
