"""Mixes, recipes and next moves in a painter's words."""

from collections.abc import Sequence

from noema.core.colour.names import HueTable, hue_step
from noema.core.language import N_, gettext, written
from noema.core.pigments.bridge import Bridge
from noema.core.pigments.mix import Part
from noema.core.pigments.next_move import NextMove
from noema.core.pigments.reach import Ceiling
from noema.core.pigments.recipe import Recipe
from noema.core.pigments.tube import Role

_SEEN_HUE, _SEEN_VALUE, _SEEN_CHROMA = 1.5, 0.2, 0.7  # what is worth saying
_AS_GOOD_AS_THERE = 2.5  # CIEDE2000
_TOO_LIGHT, _TOO_DARK = N_("%(by)s of a value too light"), N_("%(by)s of a value too dark")
_TOO_HIGH, _SHORT = N_("chroma %(by)s too high"), N_("chroma %(by)s short")
_TRACE, _TOUCH, _LITTLE = 1 / 40, 1 / 12, 1 / 4
_MEASURED = 12.0  # parts to one that a hand measures out
_TOUCHES = (
    (1 / 25, N_("a touch of %(name)s")),
    (1 / 50, N_("half a touch of %(name)s")),
    (1 / 100, N_("a trace of %(name)s")),
    (1 / 200, N_("half a trace of %(name)s")),
    (1 / 400, N_("a grain of %(name)s")),
    (0.0, N_("half a grain of %(name)s")),
)
_NEARLY_AS_MUCH = 2 / 3  # under which a part is at most one to two


def say_parts(parts: Sequence[Part]) -> str:
    """Say a mix: 4 lemon yellow + 1 phthalo blue, or warm yellow + a touch of scarlet.

    Where there are several colours and white, the colours are mixed first and then let down.
    """
    colours = [(p.tube.label, p.amount) for p in parts if p.tube.role is not Role.WHITE]
    white = next((part for part in parts if part.tube.role is Role.WHITE), None)
    if white is None or len(colours) < 2:
        return say_volumes([(part.tube.label, part.amount) for part in parts])
    share = white.amount / sum(amount for _, amount in colours)
    pair = [(white.tube.label, share), (gettext("this mix"), 1.0)]
    return gettext(
        "%(colours)s; then %(both)s",
        colours=say_volumes(colours),
        both=say_volumes(sorted(pair, key=lambda one: -one[1])),
    )


def say_volumes(volumes: Sequence[tuple[str, float]]) -> str:
    """Say volumes of paint by what people call each tube or pile; the largest goes first.

    A hand measures one part in twelve; of less it takes a touch, whose size is said by halves.

    >>> say_volumes([("white", 24.0), ("rose", 12.0), ("black", 1.0)])
    '2 white + 1 rose + a touch of black'
    """
    if not volumes:
        return ""
    volumes = [(gettext(name), volume) for name, volume in volumes]
    most = max(volume for _, volume in volumes)
    main = [(name, volume) for name, volume in volumes if _MEASURED * volume >= most]
    small = [(name, volume) for name, volume in volumes if _MEASURED * volume < most]
    least = min(volume for _, volume in main)
    counted = [f"{_count(volume / least)} {name}" for name, volume in main]
    if len(main) == 1:
        counted = [main[0][0]]
    return " + ".join([*counted, *(_touch(name, volume / most) for name, volume in small)])


def _touch(name: str, share: float) -> str:
    """Say an amount too small to measure, beside what it is added to."""
    said = next(words for least, words in _TOUCHES if share >= least)
    return gettext(said, name=name)


def say_left(recipe: Recipe, table: HueTable) -> str:
    """Say what a recipe can't reach; empty when it is as good as there."""
    if recipe.away <= _AS_GOOD_AS_THERE:
        return ""
    off = []
    value = recipe.hvc.value - recipe.target.value
    if abs(value) >= _SEEN_VALUE:
        off.append(gettext(_TOO_LIGHT if value > 0 else _TOO_DARK, by=written(abs(value), ".1f")))
    chroma = recipe.hvc.chroma - recipe.target.chroma
    if abs(chroma) >= _SEEN_CHROMA:
        off.append(gettext(_TOO_HIGH if chroma > 0 else _SHORT, by=written(abs(chroma), ".0f")))
    if (towards := _hue_miss(recipe, table)) is not None:
        off.append(gettext("leans to %(towards)s", towards=towards))
    return gettext(
        "as near as these paints come: %(off)s", off=", ".join(off or [gettext("a shade off")])
    )


def say_move(move: NextMove) -> str:
    """Say the next move, such as: a touch of crimson: about 1 part to 20."""
    if move.is_there:
        return gettext("leave it: it is there")
    if move.start_again is not None:
        return gettext("start again: %(parts)s", parts=say_parts(move.start_again.parts))
    assert move.add is not None
    said = f"{_amount(move.share)} {move.add.label}: {_ratio(move.share)}"
    return (
        said
        if move.keep == 1.0
        else gettext("%(kept)s, then %(said)s", kept=_kept(move.keep), said=said)
    )


def say_adding(tube: str, share: float, keep: float, *, is_new: bool = False) -> str:
    """Say what to add to what is kept of a pile, in a sentence's words; of a new tube no "more".

    >>> say_adding("crimson", 0.05, 1.0)
    'add a touch of crimson, about 1 part to 20'
    """
    if is_new and share > _LITTLE:
        said = gettext("add %(tube)s, %(ratio)s", tube=tube, ratio=_ratio(share))
    else:
        amount, ratio = _amount(share), _ratio(share)
        said = gettext("add %(amount)s %(tube)s, %(ratio)s", amount=amount, tube=tube, ratio=ratio)
    return said if keep == 1.0 else gettext("%(kept)s, then %(said)s", kept=_kept(keep), said=said)


def say_ceiling(ceiling: Ceiling) -> str:
    """Say what limits a hue, such as: no violet above chroma 6, because the red leans to orange."""
    name = ceiling.hue.name
    article = "an" if name[0] in "aeiou" else "a"
    if ceiling.hvc.chroma < 1.0:
        limit = gettext(
            "these paints can't give %(article)s %(name)s at all", article=article, name=name
        )
    else:
        limit = gettext(
            "these paints can't give %(article)s %(name)s above chroma %(chroma)s",
            article=article,
            name=name,
            chroma=written(ceiling.hvc.chroma, ".0f"),
        )
    if not ceiling.reason:
        return limit
    return gettext("%(limit)s, because %(reason)s", limit=limit, reason=ceiling.reason)


def say_balance(amounts: Sequence[float]) -> str:
    """Say volumes as a painter counts them out, such as: 7 : 1, or 1 : 40.

    >>> say_balance([0.875, 0.125]), say_balance([0.0, 1.0]), say_balance([0.4, 0.6])
    ('7 : 1', '0 : 1', '1 : 1.5')
    """
    least = min(amount for amount in amounts if amount > 0.0)
    return " : ".join(_count(amount / least) for amount in amounts)


def say_step(names: Sequence[str], amounts: Sequence[float]) -> str:
    """Say a step between two tubes: parts that a hand measures, else what is brought in.

    >>> say_step(["rose", "blue"], [0.8, 0.2]), say_step(["rose", "blue"], [1.0, 0.0])
    ('4 : 1', 'rose alone')
    >>> say_step(["rose", "blue"], [0.95, 0.05])
    '+ a touch of blue'
    """
    volumes = [(name, amount) for name, amount in zip(names, amounts, strict=True) if amount > 0.0]
    if len(volumes) == 1:
        return gettext("%(tube)s alone", tube=volumes[0][0])
    (small, least), (_, most) = sorted(volumes, key=lambda one: one[1])
    if least * _MEASURED >= most:
        return say_balance(amounts)
    return f"+ {_touch(small, least / most)}"


def say_neutral(made: Bridge, table: HueTable) -> str:
    """Say where a bridge comes nearest to neutral, and where it still leans."""
    one, other = made.tubes
    hvc, lean = made.neutral.hvc, table.lean(made.neutral.hvc)
    if 0.0 in made.neutral.amounts:
        return gettext("There is no greyer mix between the two than one of them alone.")
    where = gettext(
        "%(parts)s (%(one)s to %(other)s)",
        parts=say_balance(made.neutral.amounts),
        one=one.label,
        other=other.label,
    )
    if lean.hue is None:
        return gettext("Neutral at %(where)s: there you can't say which way it leans.", where=where)
    if lean.near_neutral:
        return gettext(
            "Nearly neutral at %(where)s; it still leans to %(hue)s.", where=where, hue=lean.hue
        )
    greyest = gettext(
        "greyest at %(where)s, with chroma %(chroma)s",
        where=where,
        chroma=written(hvc.chroma, ".1f"),
    )
    return gettext(
        "These two don't cancel: %(greyest)s, leaning to %(hue)s.", greyest=greyest, hue=lean.hue
    )


def _count(number: float) -> str:
    if number < 3.0:
        return written(round(number * 2) / 2)
    return written(number, ".0f") if number < 20 else f"{5 * round(number / 5)}"


def _hue_miss(recipe: Recipe, table: HueTable) -> str | None:
    got, wanted = recipe.hvc.hue100, recipe.target.hue100
    if got is None or wanted is None:
        return None
    off = hue_step(wanted, got)
    if abs(off) < _SEEN_HUE:
        return None
    return table.towards(wanted, off)


def _kept(keep: float) -> str:
    if keep == 0.5:
        return gettext("keep a half of the pile")
    return gettext("keep a quarter of the pile")


def _amount(share: float) -> str:
    if share <= _TRACE:
        return gettext("a trace of")
    if share <= _TOUCH:
        return gettext("a touch of")
    if share <= _LITTLE:
        return gettext("a little")
    return gettext("more")


def _ratio(share: float) -> str:
    if share < 1 / 8:
        return gettext("about 1 part to %(round_number)s", round_number=_round_number(1 / share))
    if share < _NEARLY_AS_MUCH:
        return gettext("about 1 part to %(share)s", share=written(1 / share, ".0f"))
    if share < 0.9:
        return gettext("nearly as much again")
    return gettext("about as much again")


def _round_number(number: float) -> int:
    return round(number) if number < 10 else 5 * round(number / 5)
