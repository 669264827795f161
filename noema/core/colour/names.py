"""Hue names, leans, and plain words for value and chroma: the one place they come from.

The teaching wheel runs yellow, orange, red, violet, blue, green; where each name lies on the D1535
hue circle is a table a school can edit.
"""

import csv
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from pathlib import Path

from noema.core.colour.hvc import HVC
from noema.core.errors import BadHueTable
from noema.core.language import N_, Term, gettext

_TABLE = Path(__file__).parent / "data" / "hue_names.csv"

LEAN_FROM = 1.0
"""Hue steps from a name's own place before a colour is said to lean: just seen side by side."""

NEUTRAL_WORD_BELOW, NEAR_NEUTRAL_BELOW = 0.5, 1.2
"""Chromas under which a painter says neutral, and near neutral."""

_TO_NEIGHBOUR = 12.0  # hue steps: past the middle between two of six


@dataclass(frozen=True, kw_only=True)
class NamedHue:
    """A hue painters have a name for."""

    name: Term
    hue100: float  # 0..100 on the D1535 circle


@dataclass(frozen=True, kw_only=True)
class Lean:
    """Which hue a colour is, and which neighbour it leans to."""

    hue: Term | None  # one of the six; None for a neutral
    towards: Term | None  # the neighbour it leans to; None when it leans neither way
    near_neutral: bool

    @property
    def words(self) -> str:
        """Say it as a painter does, such as: red, leans to violet."""
        if self.hue is None:
            return gettext("neutral")
        if self.near_neutral:
            return gettext("near neutral, leans to %(hue)s", hue=self.hue)
        if self.towards is None:
            return gettext(self.hue)
        return gettext("%(hue)s, leans to %(towards)s", hue=self.hue, towards=self.towards)


class WarmBlue(Enum):
    """Which blue a school calls warm; practitioners disagree."""

    VIOLET = "violet"  # the blue that leans to violet
    GREEN = "green"  # the blue that leans to green


@dataclass(frozen=True, kw_only=True)
class HueTable:
    """Twelve hues in wheel order from yellow through red and blue back towards yellow."""

    twelve: tuple[NamedHue, ...]

    def __post_init__(self) -> None:
        if tuple(hue.name for hue in self.twelve) != TWELVE_NAMES:
            raise BadHueTable(
                gettext("A table of hues names all twelve, in wheel order from yellow.")
            )
        gaps = [
            (a.hue100 - b.hue100) % 100.0
            for a, b in zip(self.twelve, (*self.twelve[1:], self.twelve[0]), strict=True)
        ]
        if any(not 0.0 <= hue.hue100 < 100.0 for hue in self.twelve) or min(gaps) < 1.0:
            raise BadHueTable(
                gettext("Hues lie between 0 and 100, at least 1 apart, in wheel order.")
            )
        if abs(sum(gaps) - 100.0) > 1e-6:
            raise BadHueTable(
                gettext("The twelve hues must go once round the circle in wheel order.")
            )

    def hues(self, count: int) -> tuple[NamedHue, ...]:
        """Give the 6, 12 or 24 hues of the wheel in its order."""
        if count == 6:
            return self.twelve[::2]
        if count == 12:
            return self.twelve
        if count != 24:
            raise BadHueTable(
                gettext(
                    "A wheel has 6, 12 or 24 hues, not %(count)s: choose one of them.", count=count
                )
            )
        pairs = zip(self.twelve, (*self.twelve[1:], self.twelve[0]), strict=True)
        return tuple(hue for a, b in pairs for hue in (a, _between(a, b)))

    def of(self, name: str) -> NamedHue:
        """Find one of the 24 by its name."""
        for hue in self.hues(24):
            if hue.name == name:
                return hue
        raise BadHueTable(
            gettext(
                "There is no hue named “%(name)s” on the wheel: choose one of the 24.", name=name
            )
        )

    def nearest(self, hue100: float, count: int) -> NamedHue:
        """Find the named hue nearest on the circle."""
        return min(self.hues(count), key=lambda named: abs(hue_step(hue100, named.hue100)))

    def lean(self, hvc: HVC) -> Lean:
        """Say which of the six hues a colour is and where it leans."""
        near_neutral = hvc.chroma < NEAR_NEUTRAL_BELOW
        if hvc.hue100 is None or hvc.chroma < NEUTRAL_WORD_BELOW:
            return Lean(hue=None, towards=None, near_neutral=near_neutral)
        six = self.hues(6)
        home = self.nearest(hvc.hue100, 6)
        off = hue_step(home.hue100, hvc.hue100)
        place = six.index(home)
        # The wheel runs against the numbers: the next name has the lower hue100.
        neighbour = six[(place - 1) % 6] if off > 0 else six[(place + 1) % 6]
        leans = abs(off) >= LEAN_FROM
        return Lean(
            hue=home.name, towards=neighbour.name if leans else None, near_neutral=near_neutral
        )

    def towards(self, from_hue100: float, step: float) -> Term:
        """Name the one of six a colour goes to when its hue takes a step to either side.

        >>> USUAL_HUES.towards(USUAL_HUES.of("orange").hue100, -2.0)
        'red'
        """
        side = _TO_NEIGHBOUR if step > 0 else -_TO_NEIGHBOUR
        return self.nearest((from_hue100 + side) % 100.0, 6).name

    def opposite(self, name: str) -> NamedHue:
        """Give the wheel's named complement: the hue straight across."""
        circle = self.hues(24)
        place = circle.index(self.of(name))
        return circle[(place + 12) % 24]


def hue_step(from_hue100: float, to_hue100: float) -> float:
    """Give the shorter way round the circle, -50..50 hue steps.

    >>> hue_step(95.0, 5.0), hue_step(5.0, 95.0)
    (10.0, -10.0)
    """
    return (to_hue100 - from_hue100 + 50.0) % 100.0 - 50.0


def hue_table_of(hue100_by_name: Mapping[str, float]) -> HueTable:
    """Make a table from hues by name; refuses what isn't once round the wheel."""
    missing = [name for name in TWELVE_NAMES if name not in hue100_by_name]
    if missing:
        raise BadHueTable(
            gettext(
                "The table of hues lacks %(missing)s: give it a hue from 0 to 100.",
                missing=missing[0],
            )
        )
    return HueTable(
        twelve=tuple(
            NamedHue(name=Term(name), hue100=hue100_by_name[name] % 100.0) for name in TWELVE_NAMES
        )
    )


def temperature(lean: Lean, warm_blue: WarmBlue) -> str | None:
    """Say warm or cool where painters do: of a primary, a violet or a green that leans."""
    if lean.towards is None or lean.hue is None or lean.near_neutral:
        return None
    if lean.hue == "blue":
        return "warm" if lean.towards == warm_blue.value else "cool"
    return _TEMPERATURES.get((lean.hue, lean.towards))


def value_word(value: float) -> str:
    """Say a value 0..10 in a word."""
    return word_of(_VALUE_WORDS, value)


def chroma_word(chroma: float) -> str:
    """Say a chroma in a word."""
    return word_of(_CHROMA_WORDS, chroma)


def colour_words(hvc: HVC, table: HueTable) -> str:
    """Say a colour: its hue and lean, its value, and its chroma where it has one to speak of.

    >>> colour_words(HVC(hue100=5.0, value=5.0, chroma=13.0), USUAL_HUES)
    'red, middle, intense'
    """
    lean = table.lean(hvc)
    words = [lean.words, value_word(hvc.value)]
    if not lean.near_neutral:
        words.append(chroma_word(hvc.chroma))
    return ", ".join(words)


def word_of(words: Sequence[tuple[float, str]], number: float) -> str:
    """Give the word of the first row whose top lies above a number."""
    return gettext(next(word for top, word in words if number < top))


def _between(a: NamedHue, b: NamedHue) -> NamedHue:
    middle = (a.hue100 + hue_step(a.hue100, b.hue100) / 2.0) % 100.0
    return NamedHue(name=Term(f"{a.name} to {b.name}"), hue100=middle)


def _read() -> dict[str, float]:
    with _TABLE.open(encoding="utf-8", newline="") as file:
        rows = csv.DictReader(line for line in file if not line.startswith("#"))
        return {row["name"]: float(row["hue100"]) for row in rows}


_VALUE_WORDS = (
    (2.0, N_("near black")),
    (3.5, N_("very dark")),
    (4.5, N_("dark")),
    (6.5, N_("middle")),
    (8.0, N_("light")),
    (9.3, N_("very light")),
    (float("inf"), N_("near white")),
)
_CHROMA_WORDS = (
    (NEUTRAL_WORD_BELOW, N_("neutral")),
    (NEAR_NEUTRAL_BELOW, N_("near neutral")),
    (4.0, N_("muted")),
    (8.0, N_("moderate")),
    (12.0, N_("strong")),
    (float("inf"), N_("intense")),
)
_TEMPERATURES = {
    ("yellow", "orange"): N_("warm"),
    ("yellow", "green"): N_("cool"),
    ("red", "orange"): N_("warm"),
    ("red", "violet"): N_("cool"),
    ("violet", "red"): N_("warm"),
    ("violet", "blue"): N_("cool"),
    ("green", "yellow"): N_("warm"),
    ("green", "blue"): N_("cool"),
}
_USUAL = _read()
TWELVE_NAMES = tuple(_USUAL)
USUAL_HUES = hue_table_of(_USUAL)
"""The table Noema ships with."""
