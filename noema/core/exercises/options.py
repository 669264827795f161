"""How a kind of exercise declares what a teacher may choose.

A kind's options are one frozen dataclass whose fields are made by the functions here. Fields of a
form, flags of a command, the stored JSON and its schema are derived from it.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, fields
from enum import Enum
from typing import cast

from noema.core.errors import BadExercise
from noema.core.exercises.levels import Level
from noema.core.language import N_, gettext

Lab = tuple[float, float, float]
Words = tuple[tuple[str, str], ...]

_DECLARED = "option"


class Asks(Enum):
    """What a teacher is asked for."""

    NUMBER = "number"  # one of several whole numbers
    WORD = "word"  # one of several words
    WORDS = "words"  # any of several words
    FLAG = "flag"  # yes or no
    HUE = "hue"  # a hue's name or a tube's
    TUBE = "tube"  # a tube of the set
    TUBES = "tubes"  # any tubes of the set
    PAIRS = "pairs"  # pairs of hues or tubes
    COLOURS = "colours"  # Lab values
    LEVEL = "level"  # the level the exercise is given at; asked for elsewhere


@dataclass(frozen=True, kw_only=True)
class Options:
    """What may be chosen of a kind; a kind without choices takes this one."""


@dataclass(frozen=True, kw_only=True)
class Option:
    """One thing that may be chosen, as a kind declares it."""

    name: str
    label: str  # of its field
    help: str  # a sentence: what the choice means
    asks: Asks
    usual: object
    choices: Words = ()  # value and words of what may be chosen
    flag: str = ""  # what a command calls one of it; empty: its name
    hint: str = ""  # shown where nothing is written


def number(label: str, choices: Sequence[int], usual: int, help: str, words: Words = ()) -> int:
    """Declare one of several whole numbers; `words` say what they mean, where they don't."""
    said = words or tuple((str(n), str(n)) for n in choices)
    return cast(int, _declared(label, help, Asks.NUMBER, usual, choices=said))


def word(label: str, choices: Words, usual: str, help: str) -> str:
    """Declare one of several words."""
    return cast(str, _declared(label, help, Asks.WORD, usual, choices=choices))


def words(label: str, choices: Words, help: str, flag: str = "") -> tuple[str, ...]:
    """Declare any of several words, none of them usual."""
    return cast(tuple[str, ...], _declared(label, help, Asks.WORDS, (), choices=choices, flag=flag))


def flag(label: str, help: str) -> bool:
    """Declare a yes or no, usually no."""
    return cast(bool, _declared(label, help, Asks.FLAG, False))


def hue_or_tube(label: str, usual: str, usual_words: str, help: str) -> str:
    """Declare a hue's name or a tube's."""
    return cast(str, _declared(label, help, Asks.HUE, usual, choices=((usual, usual_words),)))


def one_tube(label: str, usual_words: str, help: str) -> str:
    """Declare a tube of the set; usually none."""
    return cast(str, _declared(label, help, Asks.TUBE, "", choices=(("", usual_words),)))


def some_tubes(
    label: str = N_("Tubes (none ticked: the usual)"), help: str = ""
) -> tuple[str, ...]:
    """Declare any tubes of the set, none meaning the usual ones."""
    said = help or N_("The tubes it is about; without, the usual ones of the set.")
    return cast(tuple[str, ...], _declared(label, said, Asks.TUBES, ()))


def some_pairs(label: str, usual: tuple[str, ...], help: str) -> tuple[str, ...]:
    """Declare pairs of hues or tubes; none written means the usual ones."""
    hint = ", ".join(usual)
    return cast(tuple[str, ...], _declared(label, help, Asks.PAIRS, (), hint=hint))


def some_colours(label: str, help: str, hint: str) -> tuple[Lab, ...]:
    """Declare colours given as Lab (D50), a line each."""
    return cast(tuple[Lab, ...], _declared(label, help, Asks.COLOURS, (), hint=hint))


def at_level(help: str) -> Level | None:
    """Declare that the level counts; None where none is known."""
    return cast("Level | None", _declared("Level", help, Asks.LEVEL, None))


def options_of(kind_of_options: type[Options]) -> tuple[Option, ...]:
    """Give what a class of options declares, in order."""
    return tuple(
        Option(name=one.name, **one.metadata[_DECLARED]) for one in fields(kind_of_options)
    )


def given(chosen: Options) -> Mapping[str, object]:
    """Give what isn't as usual, by name."""
    return {
        one.name: value
        for one in options_of(type(chosen))
        if (value := getattr(chosen, one.name)) != one.usual
    }


def check(chosen: Options, what: str) -> None:
    """Refuse what isn't among the choices; `what` is what people call the exercise."""
    for one in options_of(type(chosen)):
        value = getattr(chosen, one.name)
        can = [choice for choice, _ in one.choices]
        if one.asks is Asks.NUMBER and str(value) not in can:
            raise BadExercise(
                gettext(
                    "A %(what)s has %(said)s %(label)s, not %(value)s: choose one of them.",
                    what=what,
                    said=_said(can),
                    label=gettext(one.label).lower(),
                    value=value,
                )
            )
        named = (value,) if one.asks is Asks.WORD else value if one.asks is Asks.WORDS else ()
        odd = [name for name in cast(Iterable[str], named) if name not in can]
        if odd:
            raise BadExercise(
                gettext(
                    "There is no %(flag)s “%(odd)s”: choose from %(can)s.",
                    flag=one.flag or one.name,
                    odd=odd[0],
                    can=", ".join(can),
                )
            )


def _said(can: Sequence[str]) -> str:
    if len(can) > 3:
        return gettext("%(first)s to %(last)s", first=can[0], last=can[-1])
    return " or ".join((", ".join(can[:-1]), can[-1]))


def _declared(label: str, help: str, asks: Asks, usual: object, **more: object) -> object:
    declared = {"label": label, "help": help, "asks": asks, "usual": usual, **more}
    return field(default=usual, metadata={_DECLARED: declared})
