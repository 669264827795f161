"""Questions to the eye, their answers and what they tell, as plain values."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from noema.core.colour.axis import Axis
from noema.core.seeing.question import EyeQuestion
from noema.core.seeing.series import Answered, Screen, answer, answer_order
from noema.core.statistics.adaptive import Found
from noema.formats.plain import from_plain, to_plain

Json = dict[str, object]

_DIGITS = {"level": 4, "hue100": 2, "threshold": 4, "low": 4, "high": 4, "sigma_log": 4}
_WHAT = "series"


@dataclass(frozen=True, kw_only=True)
class AskedOnce:
    """A question, and what was answered; None while it waits."""

    question: EyeQuestion
    chosen: int | None = None  # of an order: the place that was said last
    placed: tuple[int, ...] = ()  # so far, from dark to light, where an order is asked
    was_told: bool = False  # the colours were said in words: it tells nothing of the eye


def asked_to_json(asked: Sequence[AskedOnce]) -> list[Json]:
    """Give questions as plain values."""
    told = to_plain(tuple(asked), _DIGITS)
    assert isinstance(told, list)
    return told


def asked_from_json(body: list[Json]) -> tuple[AskedOnce, ...]:
    """Read questions."""
    return tuple(from_plain(tuple[AskedOnce, ...], body, _WHAT))


def answered_of(asked: Sequence[AskedOnce]) -> tuple[Answered, ...]:
    """Give the answers that tell of the eye."""
    return tuple(
        answer_order(one.question, one.placed)
        if one.question.order
        else answer(one.question, one.chosen)
        for one in asked
        if one.chosen is not None and not one.was_told
    )


def found_to_json(found: Mapping[Axis, Found]) -> Json:
    """Give thresholds by quantity."""
    return {quantity.value: to_plain(one, _DIGITS) for quantity, one in found.items()}


def found_from_json(body: Json | None) -> dict[Axis, Found]:
    """Read thresholds by quantity."""
    return {Axis(name): from_plain(Found, one, _WHAT) for name, one in (body or {}).items()}


def screen_to_json(screen: Screen) -> Json:
    """Give what a screen shows."""
    told = to_plain(screen, {})
    assert isinstance(told, dict)
    return told


def screen_from_json(body: Json | None) -> Screen | None:
    """Read what a screen shows; None where it was paper."""
    return None if body is None else from_plain(Screen, body, _WHAT)
