"""Acts on a palette in, states out, as JSON: format noema-bench/1."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, fields

import msgspec
import orjson

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
from noema.core.bench.palette import Palette, Pile
from noema.core.bench.seen import PileColour, colours_of
from noema.core.errors import BadFile, Refused
from noema.core.language import gettext
from noema.formats.hvc_json import hvc_to_json
from noema.formats.plain import as_builtins

FORMAT = "noema-bench/1"
MOST_ACTS = 10_000
_DIGITS_ML, _DIGITS_LAB = 6, 3


@dataclass(frozen=True, kw_only=True)
class BenchActs:
    """A palette's tubes, the medium, and what is done."""

    set_name: str
    medium: str
    acts: tuple[tuple[object, ...], ...]


_ACTS: dict[str, type[Act]] = {
    "squeeze": Squeeze,
    "pile": BeginPile,
    "take": Take,
    "mix": MixPile,
    "wipe": Wipe,
    "rinse": Rinse,
    "fresh-water": FreshWater,
    "halve": Halve,
    "let-down": LetPileDown,
    "dry": Dry,
}
_NAMES = {act: name for name, act in _ACTS.items()}


def acts_from_json(data: bytes) -> BenchActs:
    """Read acts; each is read for itself only when it is done."""
    try:
        told = orjson.loads(data)
    except orjson.JSONDecodeError as wrong:
        raise BadFile(gettext("The acts aren't JSON: write them anew.")) from wrong
    if not isinstance(told, dict) or told.get("format") != FORMAT:
        raise BadFile(gettext("The acts must be of the format %(format)s.", format=FORMAT))
    acts = told.get("acts")
    if not isinstance(acts, list) or not all(isinstance(act, list) and act for act in acts):
        raise BadFile(gettext('“acts” must be a list of acts, each a list such as ["wipe"].'))
    if len(acts) > MOST_ACTS:
        raise BadFile(gettext("At most %(most)s acts are played.", most=MOST_ACTS))
    return BenchActs(
        set_name=str(told.get("set", "")),
        medium=str(told.get("medium", "acrylic")),
        acts=tuple(tuple(act) for act in acts),
    )


def lines_of(given: BenchActs, bench: Bench) -> Iterator[bytes]:
    """Do one act after another; gives each state as a line. What can't be done is named."""
    palette = Palette()
    for number, act in enumerate(given.acts, start=1):
        try:
            palette = act_from_json(act).on(bench, palette)
        except Refused as wrong:
            raise BadFile(
                gettext("Act %(number)s: %(wrong)s", number=number, wrong=wrong)
            ) from wrong
        yield orjson.dumps(state_to_json(number, palette, bench))


def state_to_json(number: int, palette: Palette, bench: Bench) -> dict[str, object]:
    """Give what lies there after an act."""
    colours = colours_of(palette, bench.paints)
    return {
        "act": number,
        "piles": {name: _pile(pile, colours.get(name)) for name, pile in palette.piles.items()},
        "dabs": _paint(palette.dabs),
        "knife": _paint(palette.knife),
        "waste": _paint(palette.waste),
        "jar": _paint(palette.jar),
    }


def _pile(pile: Pile, colour: PileColour | None) -> dict[str, object]:
    told: dict[str, object] = {
        "ml": round(pile.ml, _DIGITS_ML),
        "parts": _paint(pile.paint),
        "water_ml": round(pile.water_ml, _DIGITS_ML),
        "dry": pile.is_dry,
    }
    if colour is None:
        return {**told, "lab": None, "hvc": None, "wet_lab": None}
    return {
        **told,
        "lab": _lab(colour.lab),
        "hvc": hvc_to_json(colour.hvc),
        "wet_lab": _lab(colour.wet_lab),
    }


def _paint(paint: Mapping[str, float]) -> dict[str, float]:
    return {tube: round(ml, _DIGITS_ML) for tube, ml in sorted(paint.items()) if ml > 0.0}


def _lab(lab: tuple[float, float, float]) -> list[float]:
    return [round(number, _DIGITS_LAB) for number in lab]


def act_from_json(act: Sequence[object]) -> Act:
    """Read one act; refuses what isn't one."""
    name, *given = act
    if not isinstance(name, str) or name not in _ACTS:
        known = ", ".join(_ACTS)
        raise BadFile(gettext("there is no such act: choose one of %(known)s.", known=known))
    named = dict(zip((one.name for one in fields(_ACTS[name])), given, strict=False))
    try:
        if len(given) != len(fields(_ACTS[name])):
            raise ValueError
        return msgspec.convert(named, _ACTS[name])
    except ValueError as wrong:  # a field too few or too many, or of another type
        raise BadFile(
            gettext("“%(name)s” needs %(form)s.", name=name, form=_form(_ACTS[name]))
        ) from wrong


def _form(act: type[Act]) -> str:
    """Say what an act is made of: pile, white|water, ml."""
    return ", ".join(
        "|".join(way.value for way in LetDown) if one.type is LetDown else one.name
        for one in fields(act)
    ) or gettext("nothing beside it")


def act_to_json(act: Act) -> list[object]:
    """Write one act."""
    told: dict[str, object] = as_builtins(act)
    return [_NAMES[type(act)], *told.values()]


def acts_to_json(set_name: str, medium: str, acts: Sequence[Act]) -> dict[str, object]:
    """Write acts as a file of them holds them."""
    return {
        "format": FORMAT,
        "set": set_name,
        "medium": medium,
        "acts": [act_to_json(act) for act in acts],
    }
