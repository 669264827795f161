"""Acts on a palette in, states out, as JSON: format noema-bench/1."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import partial

import orjson

from noema.core.bench.acts import (
    Bench,
    LetDown,
    begin_pile,
    dry,
    halve,
    mix,
    wipe,
)
from noema.core.bench.palette import Palette, Pile
from noema.core.bench.seen import PileColour, colours_of
from noema.core.errors import BadFile, Refused
from noema.core.language import gettext
from noema.formats.hvc_json import hvc_to_json

FORMAT = "noema-bench/1"
MOST_ACTS = 10_000
_DIGITS_ML, _DIGITS_LAB = 6, 3


@dataclass(frozen=True, kw_only=True)
class BenchActs:
    """A palette's tubes, the medium, and what is done."""

    set_name: str
    medium: str
    acts: tuple[tuple[object, ...], ...]


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


def played(given: BenchActs, bench: Bench) -> Iterator[bytes]:
    """Do one act after another; gives each state as a line. What can't be done is named."""
    palette = Palette()
    for number, act in enumerate(given.acts, start=1):
        try:
            palette = _done(bench, palette, act)
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


def _done(bench: Bench, palette: Palette, act: tuple[object, ...]) -> Palette:
    name, *given = act
    ways: dict[str, tuple[tuple[type, ...], Callable[..., Palette]]] = {
        "squeeze": ((str, float), bench.squeeze),
        "pile": ((str,), begin_pile),
        "take": ((str, float, str), bench.take),
        "mix": ((str,), mix),
        "wipe": ((), wipe),
        "halve": ((str, str), halve),
        "let-down": ((str, str, float), partial(_let_down, bench)),
        "dry": ((str,), dry),
    }
    if not isinstance(name, str) or name not in ways:
        known = ", ".join(ways)
        raise BadFile(gettext("there is no such act: choose one of %(known)s.", known=known))
    kinds, way = ways[name]
    if len(given) != len(kinds) or not all(map(_is, given, kinds)):
        raise BadFile(gettext("“%(name)s” hasn't what it needs.", name=name))
    return way(palette, *given)


def _is(given: object, kind: type) -> bool:
    if kind is float:
        return isinstance(given, int | float) and not isinstance(given, bool)
    return isinstance(given, kind)


def _let_down(bench: Bench, palette: Palette, pile: str, how: str, ml: float) -> Palette:
    try:
        chosen = LetDown(how)
    except ValueError as wrong:
        raise BadFile(gettext("a pile is let down with white or water.")) from wrong
    return bench.let_down(palette, pile, chosen, ml)
