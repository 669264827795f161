"""What a sheet's cells show of shine, in numbers that a likelihood can be worked out from.

Shine is added to all channels alike. Paint that is thicker here and thinner there changes each by
its own share, and paint not mixed through, white above all, moves along the line of its mixes: the
covariance of a cell's small squares is split among the three. Shine also comes and goes across the
page as lamps lie, over the borders of cells, each of which has one unknown colour: a Gaussian
process over the page, seen through what varies least in each cell, adds that up. And within a cell
shine is smooth, where the brush leaves stripes.
"""

from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.parameters.sample import SAMPLE, SampleParameters
from noema.core.photo.sample import LUMINANCE
from noema.core.statistics.gaussian import (
    negative_log_likelihood,
    posterior_mean,
    squared_exponential,
)
from noema.core.statistics.robust import robust_sigma

Floats = NDArray[np.float64]

NAMES = (
    "added over darkest",  # what varies in all channels alike, logarithm
    "luminance",
    "darkest channel",
    "saturation",
    "neighbours' added",
    "neighbours' added over darkest",
    "share of neighbours with some",
    "the page's added over darkest",
    "the page's added",
    "field over luminance",  # the process's shine
    "field over darkest",
    "field's likelihood",
    "channels' own",  # what varies in each channel by itself
    "share of a slope",  # of how luminance varies, that falls evenly across the cell
    "likeness of neighbouring squares",
)
"""What each number is of; all but saturation, shares and likeness are logarithms."""

_PAIRS = np.triu_indices(3)
_WEIGHT = np.where(_PAIRS[0] == _PAIRS[1], 1.0, np.sqrt(2.0))
_CHOICES = [list(some) for count in range(1, 5) for some in combinations(range(4), count)]
_STEADY = 1e-12  # share of a trace added to a diagonal: of a grey all ways look alike
_BESIDE = 1.6  # sides of a square, up to which another lies beside it
_DIMMEST, _LIGHTEST = 0.005, 0.98  # raw channels of paint
_LITTLE, _LITTLE_ADDED, _LITTLE_OWN = 0.01, 0.001, 0.003  # added to what a logarithm is taken of


@dataclass(frozen=True, kw_only=True, eq=False)
class CellShine:
    """One painted cell's small squares, looked at for shine."""

    usual: Floats  # (3,) median colour
    added: float  # one sigma of light added to all channels alike, linear
    own: float  # the same of what varies in each channel by itself, as a share of it
    slope: float  # share of luminance's variance that falls evenly across the cell
    alike: float  # correlation of luminance in squares side by side
    values: Floats  # (p,) of each part: what shine changes by itself and paint least
    places_mm: Floats  # (p, 2) of those parts
    sigmas: Floats  # (p,) of those values
    level: float  # of the cell's own colour, as those values have it


def look_for_shine(
    blocks: Floats, places_mm: Floats, parts: int, parameters: SampleParameters = SAMPLE
) -> CellShine | None:
    """Look at the small squares (n, 3) of one painted cell; None where they are too few."""
    usual = np.median(blocks, axis=0) if len(blocks) else np.zeros(3)
    spread = robust_sigma(blocks - usual) + parameters.finest if len(blocks) else usual
    calm = (np.abs(blocks - usual) < parameters.torn * spread).all(axis=1)
    if calm.sum() < parameters.fewest_blocks:
        return None
    blocks, places_mm = blocks[calm], places_mm[calm]
    together = np.cov(blocks.T)
    noise = together + np.outer(usual, usual) * parameters.light_noise**2
    inverse = np.linalg.inv(noise + parameters.noise**2 * np.eye(3))
    size = float(inverse.sum())
    by = inverse.sum(axis=0) / size
    added, own_channels = _split(together, usual, parameters)
    slope, alike = _smoothness(blocks @ LUMINANCE, places_mm)
    low, high = places_mm.min(axis=0), places_mm.max(axis=0) + 1e-6
    part = ((places_mm - low) * parts / (high - low)).astype(int)
    index = part[:, 0] * parts + part[:, 1]
    count = np.bincount(index)
    own = np.nonzero(count >= parameters.fewest_of_a_part_blocks)[0]
    sums = [np.bincount(index, one)[own] / count[own] for one in (blocks @ by, *places_mm.T)]
    return CellShine(
        usual=usual,
        added=added,
        own=own_channels,
        slope=slope,
        alike=alike,
        values=sums[0],
        places_mm=np.stack(sums[1:], axis=1),
        sigmas=np.sqrt(1.0 / size / count[own] + parameters.noise**2),
        level=abs(float(by @ usual)),
    )


def _split(together: Floats, usual: Floats, parameters: SampleParameters) -> tuple[float, float]:
    """Split a covariance (3, 3) among thickness, mixing, light added and each channel's own.

    Gives the sigmas of the last two.
    """
    matrix = np.array(parameters.usual_matrix)
    raw = np.clip(np.linalg.solve(matrix, usual), _DIMMEST, _LIGHTEST)
    # By how much a reflectance changes with the logarithm of K over S: Kubelka and Munk.
    mixing = matrix @ (raw * (1.0 - raw) / (1.0 + raw))
    own = np.sqrt(np.diag(together)) + 1e-4
    weight = _WEIGHT / np.outer(own, own)[_PAIRS]
    ways = [np.outer(one, one) for one in (usual, mixing, np.ones(3))]
    ways.append(np.diag(usual**2 + 1e-3))
    columns = np.stack([way[_PAIRS] * weight for way in ways], axis=1)
    shares = _least_squares(columns, together[_PAIRS] * weight)
    return float(np.sqrt(shares[2])), float(np.sqrt(shares[3]))


def _least_squares(columns: Floats, wanted: Floats) -> Floats:
    """Solve columns (m, 4) for wanted (m,) with nothing below 0: the best of all choices of them.

    SciPy's solver gives the same, and takes longer to load than a photograph to read.
    """
    best, least = np.zeros(columns.shape[1]), float(wanted @ wanted)
    gram, aim = columns.T @ columns, columns.T @ wanted
    gram += _STEADY * np.trace(gram) * np.eye(len(gram))
    for chosen in _CHOICES:
        shares = np.linalg.solve(gram[np.ix_(chosen, chosen)], aim[chosen])
        if (shares >= 0.0).all():
            left = float(np.sum((columns[:, chosen] @ shares - wanted) ** 2))
            if left < least:
                best, least = np.zeros(columns.shape[1]), left
                best[chosen] = shares
    return best


def _smoothness(luminance: Floats, places_mm: Floats) -> tuple[float, float]:
    """Say how much of a cell's luminance (n,) is one slope, and how alike neighbours are."""
    away = luminance - luminance.mean()
    size = max(float(away @ away), 1e-12)
    plane = np.column_stack([np.ones(len(away)), places_mm - places_mm.mean(axis=0)])
    left = away - plane @ np.linalg.lstsq(plane, away)[0]
    side = float(np.sqrt(np.prod(np.ptp(places_mm, axis=0)) / len(away)))
    apart = np.linalg.norm(places_mm[:, None] - places_mm, axis=2)
    near = (apart > 0.1) & (apart < _BESIDE * side)
    alike = float(away @ near @ away) / max(int(near.sum()), 1) / (size / len(away))
    return 1.0 - float(left @ left) / size, alike


def shine_evidence(
    cells: list[CellShine], parameters: SampleParameters = SAMPLE
) -> tuple[Floats, Floats]:
    """Give each cell's numbers (n, len(NAMES)), and the shine on it (n,), as a share of white's."""
    usual = np.array([one.usual for one in cells])
    darkest, luminance = usual.min(axis=1), np.maximum(usual @ LUMINANCE, 0.0)
    saturation = 1.0 - np.maximum(darkest, 0.0) / np.maximum(usual.max(axis=1), 1e-4)
    added = np.array([one.added for one in cells])
    dark = np.maximum(darkest, 0.0) + parameters.dark_enough
    log_added, over = np.log(added + _LITTLE_ADDED), np.log(added / dark + _LITTLE)
    centres = np.array([one.places_mm.mean(axis=0) for one in cells])
    tells = np.clip(saturation / parameters.tells_from, parameters.tells_least, 1.0)
    voices = tells * squared_exponential(centres[:, None] - centres, parameters.neighbour_mm)
    np.fill_diagonal(voices, 0.0)
    heard = voices.sum(axis=1)
    voices *= ((heard > parameters.neighbours) / np.maximum(heard, 1e-9))[:, None]
    field, likelihood = _field(cells, parameters)
    count = np.ones(len(cells))
    numbers = (
        over,
        np.log(luminance + 0.02),
        np.log(np.maximum(darkest, 0.0) + _LITTLE),
        saturation,
        voices @ log_added,
        voices @ over,
        voices @ (added / dark > parameters.some_added),
        np.median(over) * count,
        np.median(log_added) * count,
        np.log(field / (luminance + 0.01) + _LITTLE),
        np.log(field / dark + _LITTLE),
        np.log1p(likelihood) * count,
        np.log([one.own + _LITTLE_OWN for one in cells]),
        np.array([one.slope for one in cells]),
        np.array([one.alike for one in cells]),
    )
    return np.stack(numbers, axis=1), field


def _field(cells: list[CellShine], parameters: SampleParameters) -> tuple[Floats, float]:
    """Give the process's shine on each cell, and how much likelier it is than none at all."""
    seen = np.concatenate([one.values for one in cells])
    places = np.concatenate([one.places_mm for one in cells])
    counts = [len(one.values) for one in cells]
    owner = np.repeat(np.arange(len(cells)), counts)
    apart = places[:, None] - places
    rest = (owner[:, None] == owner) * parameters.any_paint**2
    rest = rest + np.diag(np.concatenate([one.sigmas for one in cells]) ** 2)
    # What is left of lamps and shadows changes paint by a share of its own light.
    own = np.repeat([one.level for one in cells], counts) * parameters.light_left
    rest += np.outer(own, own) * squared_exponential(apart, parameters.light_mm)
    priors = [amount**2 * squared_exponential(apart, mm) for amount, mm in parameters.ways]
    scores = [negative_log_likelihood(seen, rest + prior) for prior in priors]
    best = int(np.argmin(scores))
    if best == 0:
        return np.zeros(len(cells)), 0.0
    found = posterior_mean(priors[best], rest, seen)
    shine = np.bincount(owner, found, len(cells)) / np.maximum(counts, 1)
    return np.maximum(shine, 0.0), float(scores[0] - scores[best])
