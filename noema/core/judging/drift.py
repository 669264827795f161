"""How far a cell lies from its step in hue and in chroma, how sure that is, and how it is said.

A reader's doubt is one number in CIEDE2000. What it means in hue and in chroma depends on where
the colour lies: a grey's hue is anybody's guess, an intense red's is sharp.
"""

from collections.abc import Sequence
from math import hypot, sqrt

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvc_of
from noema.core.colour.names import HueTable, hue_step
from noema.core.exercises.asked import AskedCell
from noema.core.judging.judgement import Drift
from noema.core.judging.verdict import Verdict, verdict_of
from noema.core.judging.words import opening, step_words
from noema.core.photo.reading import CellReading
from noema.core.sheet.layout import Triple

HUE_SHOWS_FROM = 1.5
"""Chroma from which a colour has a hue that can be held against another's."""

_NUDGE = 1.0  # Lab units moved to see what a doubt is worth
_LEAST_C = 4.0  # C*: nearer the grey axis directions of hue and chroma blur into each other
_ONE_OF_THREE = 1.0 / sqrt(3.0)  # a doubt of all three quantities, shared alike
_GRAVITY = (Verdict.HOLDS, Verdict.LOOK, Verdict.DRIFTS, Verdict.OFF)


def hue_drift(seen: CellReading, cell: AskedCell, tolerance: float) -> Drift | None:
    """Give the drift in hue, in steps of the hundred-step circle; None where either is grey."""
    painted, expected = seen.hvc, cell.hvc
    if painted.hue100 is None or expected.hue100 is None:
        return None
    if min(painted.chroma, expected.chroma) < HUE_SHOWS_FROM:
        return None
    amount = hue_step(expected.hue100, painted.hue100)
    aside = _moved(seen.lab, sideways=True)
    turned = hvc_of(aside)
    worth = 0.0 if turned.hue100 is None else abs(hue_step(painted.hue100, turned.hue100))
    sigma = _ONE_OF_THREE * seen.sigma * worth / _apart(seen.lab, aside)
    return Drift(amount=amount, sigma=sigma, tolerance=tolerance)


def chroma_drift(seen: CellReading, cell: AskedCell, tolerance: float) -> Drift:
    """Give the drift in chroma steps."""
    outward = _moved(seen.lab, sideways=False)
    worth = abs(hvc_of(outward).chroma - seen.hvc.chroma)
    return Drift(
        amount=seen.hvc.chroma - cell.hvc.chroma,
        sigma=_ONE_OF_THREE * seen.sigma * worth / _apart(seen.lab, outward),
        tolerance=tolerance,
    )


def worst_of(drifts: Sequence[Drift]) -> Verdict:
    """Give the verdict of a cell from its quantities'; a sure drift outweighs a doubt."""
    return max((_verdict(drift) for drift in drifts), key=_GRAVITY.index)


def said_of(
    verdict: Verdict,
    value: Drift,
    steps: float,
    hue: Drift | None,
    chroma: Drift | None,
    painted: HVC,
    table: HueTable,
) -> str:
    """Say a verdict's reason in a painter's words, the gravest quantity first."""
    if verdict is Verdict.HOLDS:
        return "Holds its step."
    said = {
        "value": (value, f"{step_words(steps)} {'too dark' if value.amount < 0 else 'too light'}")
    }
    if hue is not None:
        said["hue"] = (hue, f"leans to {_neighbour(painted, hue.amount, table)}")
    if chroma is not None:
        said["chroma"] = (chroma, _intensity(chroma.amount))
    # What a verdict rests on is said, in the order of how far it passes its room.
    grave = sorted(said.values(), key=lambda one: -abs(one[0].amount) / one[0].tolerance)
    astray = [words for drift, words in grave if _verdict(drift) is verdict]
    if verdict is Verdict.LOOK:
        return f"Seems {astray[0]}, but the reading isn't sure enough."
    return opening(f"{', '.join(astray)}.")


def _verdict(drift: Drift) -> Verdict:
    return verdict_of(drift.amount, drift.sigma, drift.tolerance)


def _neighbour(painted: HVC, amount: float, table: HueTable) -> str:
    """Name the hue a colour strays to: the nearest of six in that direction."""
    assert painted.hue100 is not None  # a drift in hue is only measured where there is one
    ahead = [
        (hue_step(painted.hue100, named.hue100) * np.sign(amount), named.name)
        for named in table.hues(6)
    ]
    # A step back of two still counts as the hue it has arrived at.
    return min((way, name) for way, name in ahead if way > -2.0)[1]


def _intensity(amount: float) -> str:
    much = "a little" if abs(amount) < 2.0 else "much" if abs(amount) > 5.0 else ""
    return f"{much} too {'dull' if amount < 0 else 'intense'}".strip()


def _moved(lab: Triple, *, sideways: bool) -> Triple:
    lightness, a, b = lab
    strong = max(hypot(a, b), _LEAST_C)
    across, along = (-b, a) if sideways else (a, b)
    if hypot(a, b) == 0.0:
        across, along = (0.0, strong) if sideways else (strong, 0.0)
    return (lightness, a + _NUDGE * across / strong, b + _NUDGE * along / strong)


def _apart(one: Triple, other: Triple) -> float:
    return max(float(ciede2000(one, other)), 1e-6)
