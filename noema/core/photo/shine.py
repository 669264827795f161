"""Shine on paint: light thrown back that greys a colour without clipping.

Shine is added to all channels alike, so it shows most in a paint's darkest. Broken by brush marks
it moves all channels together by the same amount, where thicker and thinner paint moves each by its
own share: how channels vary together tells the two apart, the better the more intense the paint.
Where shine is smooth it comes and goes across the page while paint in a cell is much the same all
over: a Gaussian process over the page, with an unknown colour for each cell, adds the changes
within cells up to how much lies on each. Greys can't tell by themselves: they are judged by what
the cells about them say.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from noema.core.statistics.medians import median_of, medians_by

Floats = NDArray[np.float64]

_BLOCK_MM = 2.0  # or more, where a large cell was thinned
_USUAL_PIXELS = 16  # of a small square there
_FEWEST_PIXELS, _ENOUGH_PIXELS = 8, 25  # of a small square: more add time, not knowledge
_FEWEST_BLOCKS = 6
_PARTS, _MANY, _FEWER_PARTS = 3, 16, 2  # parts a side of a cell; where cells are many, fewer
_WAYS = (
    (0.0, 24.0),
    (0.01, 24.0),
    (0.03, 24.0),
    (0.1, 24.0),
    (0.03, 60.0),
    (0.1, 60.0),
    (0.3, 60.0),
)
"""How much shine there may be, as a share of white paper's light, and over how many mm it goes."""

_NONE_BETTER = 12.0  # by how much some shine must be likelier than none: twice the logarithm
_PAINT_VARIES = 0.03  # least sigma of a part's darkest channel, as a share
_NOISE = 0.0015
_ANY_PAINT = 1.0  # one sigma of a cell's unknown colour
_LIGHT, _LIGHT_MM = 0.08, 32.0  # one sigma of light not evened out, and over how far it goes
_PAIRS = ((0, 1), (0, 2), (1, 2))  # of channels
_TORN = 3.0  # scaled median deviations from which a square holds an edge or bare paper
_FINEST = 5e-4
_STREAK_OVER, _STREAK_LEAST, _STREAK_SURE = 0.056, 0.0032, 2.0
"""Broken shine counts from a share of the darkest channel, a least amount, and so many sigmas."""

_TELLS = 2.0  # times that least, up to which paint's own doubt may go for it to speak
_NEIGHBOUR_MM, _NEIGHBOURS, _MOST_SHINE = 30.0, 0.3, 0.3
"""How far cells speak for each other, how much of a voice it takes, and the share that must say
that they shine."""


@dataclass(frozen=True, kw_only=True)
class Shine:
    """The shine on one cell."""

    amount: float = 0.0  # share of white paper's light
    sigma: float = 0.0
    broken: bool = False  # all channels vary together by the same amount
    beside: bool = False  # it can't tell itself, and cells about it shine


@dataclass(frozen=True, kw_only=True, eq=False)
class _Parts:
    """A cell's darkest channel, part by part."""

    values: Floats  # (n,)
    places_mm: Floats  # (n, 2)
    sigma: float
    broken: bool
    tells: bool  # whether shine on it would be seen to be broken


def shine_on_cells(
    pixels: list[Floats], places_mm: list[Floats], painted: list[bool]
) -> tuple[Shine, ...]:
    """Give the shine on each cell.

    `pixels` are each cell's colours (m, 3) relative to paper, `places_mm` (m, 2) where they are.
    """
    parts = _PARTS if sum(painted) <= _MANY else _FEWER_PARTS
    looked = [
        _looked_at(rgb, at, parts) if paint else None
        for rgb, at, paint in zip(pixels, places_mm, painted, strict=True)
    ]
    centres = [at.mean(axis=0) if len(at) else np.zeros(2) for at in places_mm]
    beside = _beside(looked, np.array(centres))
    found = [
        Shine(broken=one is not None and one.broken, beside=paint and by)
        for one, by, paint in zip(looked, beside, painted, strict=True)
    ]
    kept = [n for n, one in enumerate(looked) if one is not None and len(one.values) > 1]
    if not kept:
        return tuple(found)
    amounts, sigmas = _over_page([one for n in kept if (one := looked[n]) is not None])
    for n, amount, sigma in zip(kept, amounts, sigmas, strict=True):
        found[n] = replace(found[n], amount=amount, sigma=sigma)
    return tuple(found)


def _beside(looked: list[_Parts | None], centres_mm: Floats) -> list[bool]:
    """Say of cells that can't tell themselves whether those about them shine."""
    tells = np.array([one is not None and one.tells for one in looked])
    shines = np.array([one is not None and one.broken for one in looked])
    squares = np.sum((centres_mm[:, None] - centres_mm[None]) ** 2, axis=-1)
    voices = np.exp(-0.5 * squares / _NEIGHBOUR_MM**2) * tells
    heard = voices.sum(axis=1)
    return list(~tells & (heard > _NEIGHBOURS) & (voices @ shines > _MOST_SHINE * heard))


def _streaks(blocks: Floats) -> tuple[bool, bool]:
    """Say whether squares (n, 3) vary by something added to all channels, and whether they'd tell.

    The covariance of two channels is that of what is added, and their product times that of the
    paint's thickness: over the three pairs the first is the intercept of a line.
    """
    usual = np.median(blocks, axis=0)
    spread = 1.4826 * np.median(np.abs(blocks - usual), axis=0) + _FINEST
    calm = blocks[(np.abs(blocks - usual) < _TORN * spread).all(axis=1)]
    products = np.array([usual[i] * usual[j] for i, j in _PAIRS])
    away = products - products.mean()
    if len(calm) < _FEWEST_BLOCKS or away @ away < _FINEST**2:
        return False, False
    together = np.cov(calm.T)
    shared = np.array([together[i, j] for i, j in _PAIRS])
    doubt = np.array([together[i, i] * together[j, j] for i, j in _PAIRS]) / len(calm)
    weights = 1.0 / 3.0 - products.mean() * away / (away @ away)
    if away @ shared < 0.0:  # thickness can't take away
        weights = np.full(3, 1.0 / 3.0)
    sure = _STREAK_SURE * float(np.sqrt(weights**2 @ doubt))
    least = float(_STREAK_OVER * usual.min() + _STREAK_LEAST)
    added = float(weights @ shared)
    broken = added > max(sure, least**2)
    return broken, broken or sure < (_TELLS * least) ** 2


def _looked_at(rgb: Floats, at_mm: Floats, parts: int) -> _Parts | None:
    blocks, places = _blocks(rgb, at_mm)
    if len(blocks) < _FEWEST_BLOCKS:
        return None
    usual = median_of(blocks)
    rough = 1.4826 * median_of(np.abs(blocks - usual)) / (usual + _NOISE)
    dark, light = int(np.argmin(usual)), int(np.argmax(usual))
    low, high = places.min(axis=0), places.max(axis=0) + 1e-6
    broken, tells = _streaks(blocks)
    part = ((places - low) * parts / (high - low)).astype(int)
    index = part[:, 0] * parts + part[:, 1]
    own = np.unique(index)
    return _Parts(
        values=medians_by(blocks[:, dark], index, fewest=1),
        places_mm=np.array([places[index == n].mean(axis=0) for n in own]),
        sigma=float(max(_PAINT_VARIES, rough[light]) * usual[dark] + _NOISE),
        broken=broken,
        tells=tells,
    )


def _blocks(rgb: Floats, at_mm: Floats) -> tuple[Floats, Floats]:
    """Give medians (n, 3) over small squares and where they lie (n, 2)."""
    if not len(rgb):
        return np.empty((0, 3)), np.empty((0, 2))
    room = float(np.prod(np.ptp(at_mm, axis=0)))
    side = max(_BLOCK_MM, float(np.sqrt(_USUAL_PIXELS * room / len(at_mm))))
    square = np.floor((at_mm - at_mm.min(axis=0)) / side).astype(int)
    key = square[:, 0] * 10_000 + square[:, 1]
    order = np.argsort(key, kind="stable")
    _, starts, counts = np.unique(key[order], return_index=True, return_counts=True)
    many = counts >= _FEWEST_PIXELS
    share = np.arange(_ENOUGH_PIXELS) / _ENOUGH_PIXELS
    chosen = order[starts[many, None] + (counts[many, None] * share).astype(int)]
    return np.median(rgb[chosen], axis=1), at_mm[chosen].mean(axis=1)


def _over_page(cells: list[_Parts]) -> tuple[list[float], list[float]]:
    seen = np.concatenate([one.values for one in cells])
    places = np.concatenate([one.places_mm for one in cells])
    counts = [len(one.values) for one in cells]
    owner = np.repeat(np.arange(len(cells)), counts)
    noise = np.repeat([one.sigma for one in cells], counts) ** 2
    squares = np.sum((places[:, None] - places[None]) ** 2, axis=-1)
    same = (owner[:, None] == owner[None]).astype(float) * _ANY_PAINT**2 + np.diag(noise)
    # What is left of lamps and shadows changes paint by a share of its own light.
    same += np.outer(seen, seen) * _LIGHT**2 * np.exp(-0.5 * squares / _LIGHT_MM**2)
    priors = [amount**2 * np.exp(-0.5 * squares / mm**2) for amount, mm in _WAYS]
    scores = [_negative_log_likelihood(seen, same + prior) for prior in priors]
    best = int(np.argmin(scores))
    if scores[best] > scores[0] - _NONE_BETTER:
        return [0.0] * len(cells), [0.0] * len(cells)
    gain = priors[best] @ np.linalg.inv(same + priors[best])
    found, doubt = gain @ seen, priors[best] - gain @ priors[best]
    amounts = [float(found[owner == n].mean()) for n in range(len(cells))]
    spread = [float(doubt[np.ix_(owner == n, owner == n)].mean()) for n in range(len(cells))]
    return amounts, [float(np.sqrt(max(one, 0.0))) for one in spread]


def _negative_log_likelihood(seen: Floats, covariance: Floats) -> float:
    factor = np.linalg.cholesky(covariance)
    fit = seen @ np.linalg.solve(covariance, seen)
    return float(fit + 2.0 * np.sum(np.log(np.diag(factor))))
