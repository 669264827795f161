"""What a form of the bench asks for: acts that belong together, an answer, a way of looking."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from urllib.parse import urlencode

from wtforms import Form

from noema.core.bench.acts import Bench, LetDown
from noema.core.bench.doing import (
    Act,
    BeginPile,
    Dry,
    FreshWater,
    Halve,
    LetPileDown,
    MixPile,
    Rinse,
    Squeeze,
    Take,
    Wipe,
)
from noema.core.bench.making import PILES
from noema.core.bench.palette import Palette
from noema.core.bench.practice import Practice
from noema.core.bench.predicting import Prediction, SaidChroma, SaidValue
from noema.core.bench.says import DOSES_ML
from noema.core.errors import Refused
from noema.core.language import N_, gettext
from noema.web.frame.forms import Number, OneOf, OneOrNone, TextLine, Whole

_LEAST_SQUEEZED = 0.5  # a pea: nobody squeezes less out of a tube
_REFUSAL = N_("Choose one of the buttons shown.")


class Do(Enum):
    """What a button does."""

    BRING = "bring"
    SQUEEZE = "squeeze"
    WIPE = "wipe"
    RINSE = "rinse"
    FRESH = "fresh"
    WHITE = "white"
    WATER = "water"
    HALVE = "halve"
    DRY = "dry"
    UNDO = "undo"
    NEARER = "nearer"
    WHICH = "which"
    HINT = "hint"


ASKS = (Do.NEARER, Do.WHICH, Do.HINT)


class BenchLook(Enum):
    """A way of looking at the palette."""

    PLAIN = "plain"
    GREYSCALE = "greyscale"
    SQUINT = "squint"


class BenchForm(Form):
    """An act with what it is done with, and what is said of it beforehand."""

    do = OneOf(Do, _REFUSAL)
    source = TextLine(most=60)
    ml = Number(what=N_("the amount"))
    pile = TextLine(most=20)
    acts = Whole()  # that were done when the page was made
    look = OneOf(BenchLook, _REFUSAL, usual=BenchLook.PLAIN)
    smear = TextLine(most=1)
    numbers = TextLine(most=1)
    says_value = OneOrNone(SaidValue, _REFUSAL)
    says_hue = TextLine(most=30)
    says_chroma = OneOrNone(SaidChroma, _REFUSAL)


@dataclass(frozen=True, kw_only=True)
class AtHand:
    """What is chosen on the page: which paint, how much, which pile, how it is looked at."""

    source: str
    ml: float
    pile: str
    look: BenchLook = BenchLook.PLAIN
    smear: bool = False  # a little of each pile is let down at its side
    numbers: bool = False  # hue, value and chroma are said

    def query(self, **changed: object) -> str:
        """Give the same as the rest of an address, with something else chosen."""
        chosen = {
            "source": self.source,
            "ml": f"{self.ml:g}",
            "pile": self.pile,
            "look": self.look.value,
            "smear": "1" if self.smear else "",
            "numbers": "1" if self.numbers else "",
        }
        return urlencode(chosen | changed)


class AtHandForm(Form):
    """What an address says of it."""

    source = TextLine(most=60)
    ml = Number(what=N_("the amount"))
    pile = TextLine(most=20)
    look = OneOf(BenchLook, _REFUSAL, usual=BenchLook.PLAIN)
    smear = TextLine(most=1)
    numbers = TextLine(most=1)


def at_hand(form: AtHandForm | BenchForm, practice: Practice) -> AtHand:
    """Give what is chosen; what isn't said is what is usual."""
    names = [tube.name for tube in practice.bench.paints.tubes]
    piles = places(practice)
    source = form.source.data
    return AtHand(
        source=source if source in names or source in practice.palette.piles else names[0],
        ml=form.ml.data if form.ml.data in DOSES_ML else DOSES_ML[1],
        pile=form.pile.data if form.pile.data in piles else piles[0],
        look=form.look.data,
        smear=form.smear.data == "1",
        numbers=form.numbers.data == "1",
    )


def places(practice: Practice) -> tuple[str, ...]:
    """Give the piles that are asked for or there, and the next one that could be begun."""
    asked = [goal.pile for goal in practice.task.goals]
    there = [name for name in practice.palette.piles if name not in asked]
    free = next((name for name in PILES if name not in asked and name not in there), None)
    return tuple(asked + there + ([] if free is None else [free]))


def acts_for(do: Do, at: AtHand, practice: Practice) -> tuple[Act, ...]:
    """Give the acts that a button means."""
    palette, bench = practice.palette, practice.bench
    begin = () if at.pile in palette.piles else (BeginPile(pile=at.pile),)
    match do:
        case Do.SQUEEZE:
            return (Squeeze(tube=_tube(at, bench), ml=max(at.ml, _LEAST_SQUEEZED)),)
        case Do.BRING:
            take = Take(source=at.source, ml=at.ml, pile=at.pile)
            return (*_enough(at, palette, bench), *begin, take, MixPile(pile=at.pile))
        case Do.WHITE | Do.WATER:
            how = LetDown.WHITE if do is Do.WHITE else LetDown.WATER
            return (*begin, LetPileDown(pile=at.pile, how=how, ml=at.ml))
        case Do.HALVE:
            return (Halve(pile=at.pile, aside=_aside(palette)),)
        case Do.DRY:
            return (Dry(pile=at.pile),)
    return (_WITH_KNIFE[do],)


_WITH_KNIFE: dict[Do, Act] = {Do.WIPE: Wipe(), Do.RINSE: Rinse(), Do.FRESH: FreshWater()}


def undone(acts: Sequence[Act]) -> int:
    """Give how many acts the last button did."""
    kinds = [type(act) for act in acts]
    if not kinds:
        raise Refused(gettext("There is nothing to take back yet."))
    if kinds[-1] is LetPileDown or kinds[-1] is MixPile:
        count = 2 if kinds[-1] is MixPile else 1
        for kind in (BeginPile, Squeeze):
            if len(kinds) > count and kinds[-1 - count] is kind:
                count += 1
        return count
    return 1


def prediction(form: BenchForm) -> Prediction:
    """Give what was said beforehand."""
    return Prediction(
        value=form.says_value.data, hue=form.says_hue.data or None, chroma=form.says_chroma.data
    )


def _enough(at: AtHand, palette: Palette, bench: Bench) -> tuple[Act, ...]:
    """Squeeze first where a dab holds too little, as one does without thinking."""
    if at.source in palette.piles:
        return ()
    tube = bench.paints.tube(at.source).name
    lacks = at.ml - palette.dabs.get(tube, 0.0)
    if lacks <= 0.0:
        return ()
    wanted = max(lacks, _LEAST_SQUEEZED)
    left = bench.left_ml(palette, tube)
    return (Squeeze(tube=tube, ml=left if lacks <= left < wanted else wanted),)


def _tube(at: AtHand, bench: Bench) -> str:
    if at.source not in {tube.name for tube in bench.paints.tubes}:
        raise Refused(gettext("Choose a tube to squeeze from."))
    return at.source


def _aside(palette: Palette) -> str:
    """Name a place for what is set aside."""
    count = 1
    while (name := gettext("aside %(count)s", count=count)) in palette.piles:
        count += 1
    return name
