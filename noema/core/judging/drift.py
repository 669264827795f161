"""How far a cell lies from its step in hue and in chroma, and what a verdict rests on."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from noema.core.colour.hvc import HVC
from noema.core.colour.names import NEUTRAL_WORD_BELOW, HueTable, hue_step
from noema.core.judging.judgement import Drift, Off, Reason, Why
from noema.core.judging.verdict import Verdict, verdict_of

HUE_SHOWS_FROM = 1.5
"""Chroma from which a colour has a hue that can be held against another's."""

ANOTHER_HUE = 100.0 / 6.0
"""Steps of the hundred-step circle from which a colour is no leaning one but another."""

_GRAVITY = (Verdict.HOLDS, Verdict.LOOK, Verdict.DRIFTS, Verdict.OFF)


def has_hue(painted: HVC, expected: HVC) -> bool:
    """Say whether both colours show a hue that can be held against the other."""
    shows = min(painted.chroma, expected.chroma) >= HUE_SHOWS_FROM
    return shows and painted.hue100 is not None and expected.hue100 is not None


def hue_drift(painted: HVC, expected: HVC, sigma: float, tolerance: float) -> Drift | None:
    """Give the drift in hue, in steps of the hundred-step circle; None where either is grey."""
    if not has_hue(painted, expected) or painted.hue100 is None or expected.hue100 is None:
        return None
    amount = hue_step(expected.hue100, painted.hue100)
    return Drift(amount=amount, sigma=sigma, tolerance=tolerance)


def chroma_drift(
    painted: HVC, expected: HVC, sigma: float, tolerance: float, *, has_hue: bool
) -> Drift:
    """Give the drift in chroma steps.

    Of a colour too grey to have a hue it is the distance on the plane of hue and chroma, above 0:
    a grey that leans the other way has no other chroma.
    """
    amount = painted.chroma - expected.chroma if has_hue else cast_of(expected, painted)
    return Drift(amount=amount, sigma=sigma, tolerance=tolerance)


def cast_of(one: HVC, other: HVC) -> float:
    """Give the distance between two colours on the plane of hue and chroma, in chroma steps.

    >>> red, green = (HVC(hue100=hue, value=5.0, chroma=2.0) for hue in (5.0, 55.0))
    >>> round(cast_of(red, green), 6)
    4.0
    """
    turn = 0.0
    if one.hue100 is not None and other.hue100 is not None:
        turn = np.radians(3.6 * hue_step(one.hue100, other.hue100))
    squared = one.chroma**2 + other.chroma**2 - 2.0 * one.chroma * other.chroma * np.cos(turn)
    return float(np.sqrt(max(squared, 0.0)))


def worst_of(drifts: Sequence[Drift]) -> Verdict:
    """Give the verdict of a cell from its quantities'; a sure drift outweighs a doubt."""
    return max((_verdict(drift) for drift in drifts), key=_GRAVITY.index)


def reason_of(
    verdict: Verdict,
    value: Drift,
    steps: float | None,
    hue: Drift | None,
    chroma: Drift | None,
    painted: HVC,
    expected: HVC,
    table: HueTable,
    *,
    value_first: bool = False,
) -> Reason:
    """Give what a verdict rests on, the gravest quantity first.

    Where a colour is matched, value is compared first, then hue, then intensity.

    `steps` is the value's drift in steps of a scale; None where cells aren't steps of value.
    """
    if verdict is Verdict.HOLDS:
        return Reason(why=Why.HOLDS)
    side = (value.amount if steps is None else steps) < 0
    found = [(value, _off("value", "dark" if side else "light", value, steps))]
    if hue is not None:
        found.append((hue, _hue_off(painted, expected, hue, table)))
    if chroma is not None:
        found.append((chroma, _off("chroma", _chroma_word(hue, painted, expected, table), chroma)))
    # What a verdict rests on is said, in the order of how far it passes its tolerance.
    if not value_first:
        found.sort(key=lambda one: -one[1].tolerances)
    off = tuple(fact for drift, fact in found if _verdict(drift) is verdict)
    return Reason(why=Why.SEEMS if verdict is Verdict.LOOK else Why.STRAYS, off=off)


def _hue_off(painted: HVC, expected: HVC, hue: Drift, table: HueTable) -> Off:
    """Name the hue a colour strays to; from a neighbour of six on, the hue that it is."""
    if abs(hue.amount) >= ANOTHER_HUE and painted.hue100 is not None:
        own = table.nearest(painted.hue100, 6).name
        return replace(_off("hue", own, hue), another=True)
    return _off("hue", neighbour_hue(painted, expected, hue.amount, table), hue)


def _chroma_word(hue: Drift | None, painted: HVC, expected: HVC, table: HueTable) -> str:
    """Say which way a colour strays in chroma: dull, intense, or the hue a grey leans to.

    Where one of the two is too grey for a hue the drift has no sign: the chromas tell it.
    """
    less = painted.chroma < expected.chroma
    if hue is None and not less and painted.chroma >= NEUTRAL_WORD_BELOW:
        return table.lean(painted).hue or "intense"
    return "dull" if less else "intense"


def _off(quantity: str, towards: str, drift: Drift, steps: float | None = None) -> Off:
    tolerances = abs(drift.amount) / drift.tolerance
    return Off(quantity=quantity, towards=towards, tolerances=tolerances, steps=steps)


def _verdict(drift: Drift) -> Verdict:
    return verdict_of(drift.amount, drift.sigma, drift.tolerance)


def neighbour_hue(painted: HVC, expected: HVC, amount: float, table: HueTable) -> str:
    """Name the hue a colour strays to: the nearest of six in that direction, but its own."""
    # A drift in hue is only measured where there are both.
    assert painted.hue100 is not None
    assert expected.hue100 is not None
    own = table.nearest(expected.hue100, 6).name
    ahead = [
        (hue_step(painted.hue100, named.hue100) * np.sign(amount), named.name)
        for named in table.hues(6)
        if named.name != own
    ]
    # A step back of two still counts as the hue it has arrived at.
    return min((way, name) for way, name in ahead if way > -2.0)[1]
