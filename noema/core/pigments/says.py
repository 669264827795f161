"""Mixes, recipes and next moves in a painter's words."""

from collections.abc import Sequence

from noema.core.colour.names import HueTable, hue_step
from noema.core.pigments.bridge import Bridge
from noema.core.pigments.mix import Part
from noema.core.pigments.next_move import NextMove
from noema.core.pigments.reach import Ceiling
from noema.core.pigments.recipe import Recipe

_SEEN_HUE, _SEEN_VALUE, _SEEN_CHROMA = 1.5, 0.2, 0.7  # what is worth saying
_AS_GOOD_AS_THERE = 2.5  # CIEDE2000
_TRACE, _TOUCH, _LITTLE = 1 / 40, 1 / 12, 1 / 4


def say_parts(parts: Sequence[Part]) -> str:
    """Say a mix: 4 lemon yellow + 1 phthalo blue, or 8 warm yellow + a trace of scarlet."""
    return say_volumes([(part.tube.label, part.amount) for part in parts])


def say_volumes(volumes: Sequence[tuple[str, float]]) -> str:
    """Say volumes of paint by what people call each tube."""
    if not volumes:
        return ""
    most = max(volume for _, volume in volumes)
    main = [(name, volume) for name, volume in volumes if volume >= most * _TRACE]
    traces = [name for name, volume in volumes if volume < most * _TRACE]
    counted_out = not traces and all(volume == round(volume) for _, volume in main)
    least = 1.0 if counted_out else min(volume for _, volume in main)
    counted = [f"{_count(volume / least)} {name}" for name, volume in main]
    if len(main) == 1 and traces:
        counted = [main[0][0]]
    return " + ".join([*counted, *(f"a trace of {name}" for name in traces)])


def say_left(recipe: Recipe, table: HueTable) -> str:
    """Say what a recipe can't reach; empty when it is as good as there."""
    if recipe.away <= _AS_GOOD_AS_THERE:
        return ""
    off = []
    value = recipe.hvc.value - recipe.target.value
    if abs(value) >= _SEEN_VALUE:
        off.append(f"{abs(value):.1f} of a value too {'light' if value > 0 else 'dark'}")
    chroma = recipe.hvc.chroma - recipe.target.chroma
    if abs(chroma) >= _SEEN_CHROMA:
        off.append(f"chroma {abs(chroma):.0f} {'too high' if chroma > 0 else 'short'}")
    if (towards := _hue_miss(recipe, table)) is not None:
        off.append(f"leans to {towards}")
    return "as near as these paints come: " + ", ".join(off or ["a shade off"])


def say_move(move: NextMove) -> str:
    """Say the next move, such as: a touch of crimson: about 1 part to 20."""
    if move.is_there:
        return "leave it: it is there"
    if move.start_again is not None:
        return f"start again: {say_parts(move.start_again.parts)}"
    assert move.add is not None
    said = f"{_amount(move.share)} {move.add.label}: {_ratio(move.share)}"
    return said if move.keep == 1.0 else f"{_kept(move.keep)}, then {said}"


def say_adding(tube: str, share: float, keep: float) -> str:
    """Say what to add to what is kept of a pile, in a sentence's words.

    >>> say_adding("crimson", 0.05, 1.0)
    'add a touch of crimson, about 1 part to 20'
    """
    said = f"add {_amount(share)} {tube}, {_ratio(share)}"
    return said if keep == 1.0 else f"{_kept(keep)}, then {said}"


def say_ceiling(ceiling: Ceiling) -> str:
    """Say what limits a hue, such as: no violet above chroma 6, because the red leans to orange."""
    name = ceiling.hue.name
    article = "an" if name[0] in "aeiou" else "a"
    because = f", because {ceiling.reason}" if ceiling.reason else ""
    if ceiling.hvc.chroma < 1.0:
        return f"these paints can't give {article} {name} at all{because}"
    return (
        f"these paints can't give {article} {name} above chroma {ceiling.hvc.chroma:.0f}{because}"
    )


def say_balance(amounts: Sequence[float]) -> str:
    """Say volumes as a painter counts them out, such as: 7 : 1, or 1 : 40.

    >>> say_balance([0.875, 0.125]), say_balance([0.0, 1.0]), say_balance([0.4, 0.6])
    ('7 : 1', '0 : 1', '1 : 1.5')
    """
    least = min(amount for amount in amounts if amount > 0.0)
    return " : ".join(_count(amount / least) for amount in amounts)


def say_neutral(made: Bridge, table: HueTable) -> str:
    """Say where a bridge comes nearest to neutral, and where it still leans."""
    one, other = made.tubes
    hvc, lean = made.neutral.hvc, table.lean(made.neutral.hvc)
    if 0.0 in made.neutral.amounts:
        return "There is no greyer mix between the two than one of them alone."
    where = f"{say_balance(made.neutral.amounts)} ({one.label} to {other.label})"
    if lean.hue is None:
        return f"Neutral at {where}: there you can't say which way it leans."
    if lean.near_neutral:
        return f"Nearly neutral at {where}; it still leans to {lean.hue}."
    greyest = f"greyest at {where}, with chroma {hvc.chroma:.1f}"
    return f"These two don't cancel: {greyest}, leaning to {lean.hue}."


def _count(number: float) -> str:
    if number < 3.0:
        return f"{round(number * 2) / 2:g}"
    return f"{number:.0f}" if number < 20 else f"{5 * round(number / 5)}"


def _hue_miss(recipe: Recipe, table: HueTable) -> str | None:
    got, wanted = recipe.hvc.hue100, recipe.target.hue100
    if got is None or wanted is None:
        return None
    off = hue_step(wanted, got)
    if abs(off) < _SEEN_HUE:
        return None
    # Towards the six-hue neighbour on the side it strayed to.
    return table.nearest((wanted + (12.0 if off > 0 else -12.0)) % 100.0, 6).name


def _kept(keep: float) -> str:
    return f"keep {'a half' if keep == 0.5 else 'a quarter'} of the pile"


def _amount(share: float) -> str:
    if share <= _TRACE:
        return "a trace of"
    if share <= _TOUCH:
        return "a touch of"
    if share <= _LITTLE:
        return "a little"
    return "more"


def _ratio(share: float) -> str:
    if share < 1 / 8:
        return f"about 1 part to {_round_number(1 / share)}"
    if share < 0.9:
        return f"about 1 part to {1 / share:.0f}"
    return "about as much again"


def _round_number(number: float) -> int:
    return round(number) if number < 10 else 5 * round(number / 5)
