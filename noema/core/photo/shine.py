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

from noema.core.photo.parameters.sample import SAMPLE, SampleParameters
from noema.core.statistics.gaussian import negative_log_likelihood, posterior, squared_exponential
from noema.core.statistics.medians import median_of, medians_by
from noema.core.statistics.robust import quick_sigma, robust_sigma

Floats = NDArray[np.float64]


_PAIRS = ((0, 1), (0, 2), (1, 2))  # of channels


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
    pixels: list[Floats],
    places_mm: list[Floats],
    painted: list[bool],
    parameters: SampleParameters = SAMPLE,
) -> tuple[Shine, ...]:
    """Give the shine on each cell.

    `pixels` are each cell's colours (m, 3) relative to paper, `places_mm` (m, 2) where they are.
    """
    parts = parameters.parts if sum(painted) <= parameters.many_cells else parameters.fewer_parts
    looked = [
        _looked_at(rgb, at, parts, parameters) if paint else None
        for rgb, at, paint in zip(pixels, places_mm, painted, strict=True)
    ]
    centres = [at.mean(axis=0) if len(at) else np.zeros(2) for at in places_mm]
    beside = _beside(looked, np.array(centres), parameters)
    found = [
        Shine(broken=one is not None and one.broken, beside=paint and by)
        for one, by, paint in zip(looked, beside, painted, strict=True)
    ]
    kept = [n for n, one in enumerate(looked) if one is not None and len(one.values) > 1]
    if not kept:
        return tuple(found)
    amounts, sigmas = _over_page([one for n in kept if (one := looked[n]) is not None], parameters)
    for n, amount, sigma in zip(kept, amounts, sigmas, strict=True):
        found[n] = replace(found[n], amount=amount, sigma=sigma)
    return tuple(found)


def _beside(
    looked: list[_Parts | None], centres_mm: Floats, parameters: SampleParameters
) -> list[bool]:
    """Say of cells that can't tell themselves whether those about them shine."""
    tells = np.array([one is not None and one.tells for one in looked])
    shines = np.array([one is not None and one.broken for one in looked])
    apart = centres_mm[:, None] - centres_mm[None]
    voices = squared_exponential(apart, parameters.neighbour_mm) * tells
    heard = voices.sum(axis=1)
    return list(
        ~tells & (heard > parameters.neighbours) & (voices @ shines > parameters.most_shine * heard)
    )


def _streaks(blocks: Floats, parameters: SampleParameters) -> tuple[bool, bool]:
    """Say whether squares (n, 3) vary by something added to all channels, and whether they'd tell.

    The covariance of two channels is that of what is added, and their product times that of the
    paint's thickness: over the three pairs the first is the intercept of a line.
    """
    usual = np.median(blocks, axis=0)
    spread = robust_sigma(blocks - usual) + parameters.finest
    calm = blocks[(np.abs(blocks - usual) < parameters.torn * spread).all(axis=1)]
    products = np.array([usual[i] * usual[j] for i, j in _PAIRS])
    away = products - products.mean()
    if len(calm) < parameters.fewest_blocks or away @ away < parameters.finest**2:
        return False, False
    together = np.cov(calm.T)
    shared = np.array([together[i, j] for i, j in _PAIRS])
    doubt = np.array([together[i, i] * together[j, j] for i, j in _PAIRS]) / len(calm)
    weights = 1.0 / 3.0 - products.mean() * away / (away @ away)
    if away @ shared < 0.0:  # thickness can't take away
        weights = np.full(3, 1.0 / 3.0)
    sure = parameters.streak_sure * float(np.sqrt(weights**2 @ doubt))
    least = float(parameters.streak_over * usual.min() + parameters.streak_least)
    added = float(weights @ shared)
    broken = added > max(sure, least**2)
    return broken, broken or sure < (parameters.tells * least) ** 2


def _looked_at(
    rgb: Floats, at_mm: Floats, parts: int, parameters: SampleParameters
) -> _Parts | None:
    blocks, places = _blocks(rgb, at_mm, parameters)
    if len(blocks) < parameters.fewest_blocks:
        return None
    usual = median_of(blocks)
    rough = quick_sigma(blocks - usual) / (usual + parameters.noise)
    dark, light = int(np.argmin(usual)), int(np.argmax(usual))
    low, high = places.min(axis=0), places.max(axis=0) + 1e-6
    broken, tells = _streaks(blocks, parameters)
    part = ((places - low) * parts / (high - low)).astype(int)
    index = part[:, 0] * parts + part[:, 1]
    own = np.unique(index)
    return _Parts(
        values=medians_by(blocks[:, dark], index, fewest=1),
        places_mm=np.array([places[index == n].mean(axis=0) for n in own]),
        sigma=float(max(parameters.paint_varies, rough[light]) * usual[dark] + parameters.noise),
        broken=broken,
        tells=tells,
    )


def _blocks(rgb: Floats, at_mm: Floats, parameters: SampleParameters) -> tuple[Floats, Floats]:
    """Give medians (n, 3) over small squares and where they lie (n, 2)."""
    if not len(rgb):
        return np.empty((0, 3)), np.empty((0, 2))
    room = float(np.prod(np.ptp(at_mm, axis=0)))
    side = max(parameters.block_mm, float(np.sqrt(parameters.usual_pixels * room / len(at_mm))))
    square = np.floor((at_mm - at_mm.min(axis=0)) / side).astype(int)
    key = square[:, 0] * 10_000 + square[:, 1]
    order = np.argsort(key, kind="stable")
    _, starts, counts = np.unique(key[order], return_index=True, return_counts=True)
    many = counts >= parameters.fewest_pixels
    share = np.arange(parameters.enough_pixels) / parameters.enough_pixels
    chosen = order[starts[many, None] + (counts[many, None] * share).astype(int)]
    return np.median(rgb[chosen], axis=1), at_mm[chosen].mean(axis=1)


def _over_page(
    cells: list[_Parts], parameters: SampleParameters
) -> tuple[list[float], list[float]]:
    seen = np.concatenate([one.values for one in cells])
    places = np.concatenate([one.places_mm for one in cells])
    counts = [len(one.values) for one in cells]
    owner = np.repeat(np.arange(len(cells)), counts)
    noise = np.repeat([one.sigma for one in cells], counts) ** 2
    apart = places[:, None] - places[None]
    same = (owner[:, None] == owner[None]).astype(float) * parameters.any_paint**2 + np.diag(noise)
    # What is left of lamps and shadows changes paint by a share of its own light.
    same += (
        np.outer(seen, seen)
        * parameters.light_left**2
        * squared_exponential(apart, parameters.light_mm)
    )
    priors = [amount**2 * squared_exponential(apart, mm) for amount, mm in parameters.ways]
    scores = [negative_log_likelihood(seen, same + prior) for prior in priors]
    best = int(np.argmin(scores))
    if scores[best] > scores[0] - parameters.none_better:
        return [0.0] * len(cells), [0.0] * len(cells)
    found, doubt = posterior(priors[best], same, seen)
    amounts = [float(found[owner == n].mean()) for n in range(len(cells))]
    spread = [float(doubt[np.ix_(owner == n, owner == n)].mean()) for n in range(len(cells))]
    return amounts, [float(np.sqrt(max(one, 0.0))) for one in spread]
