"""The camera's colours, undone: a root-polynomial map weighed between cameras and patches.

Root-polynomial terms (Finlayson, Mackiewicz and Hurlbert 2015) don't change with exposure. What
cameras usually do under the lamps of classrooms is known from many stand-in ones
(`data/colour_prior.csv`, made by tools/make_colour_prior.py): to paint, to ink, and how the two go
together, for a camera's map of one isn't quite its map of the other. Printed patches move the map
of ink as far as their own colours are known, and that moves the map of paint as far as the two
usually go together. Under some lamps (old tubes, narrow bands) paint strays much further than
under others, so cameras are kept by kinds of lamp, and how well the patches fit each kind says how
much to go by it. What no map takes away differs from colour to colour, too: violet blues part
company with the eye much more than yellows do. All errors come out as a covariance.
"""

from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.chroma_weighted import chroma_weighted
from noema.core.colour.wide import WIDE_LUMINANCE, wide_to_lab
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.statistics.gaussian import negative_log_likelihood, updated

Floats = NDArray[np.float64]

OUT, TERMS = 3, 6
_SIZE = OUT * TERMS
_FLOOR = 0.02  # of luminance, under which errors no longer shrink with it
_OWN = 0.5  # share of a channel's own light, beside luminance, in how its errors look
_DIM = 1e-5
_REACH = np.array([18.0, 3.5, 3.5])  # Lab units at a grey over which colours are missed alike


@dataclass(frozen=True, kw_only=True, eq=False)
class Residuals:
    """What a fitted map leaves of some colours: linear RGB, weighted as by `weight_of`."""

    places: Floats  # (m, 3) Lab of those colours
    means: Floats  # (m, 3)
    covariances: Floats  # (m, 3, 3)

    def of(self, true: Floats) -> tuple[Floats, Floats]:
        """Give what is left of linear RGB (n, 3): mean (n, 3) and covariance (n, 3, 3)."""
        near = nearness(true, self.places)
        near = near / near.sum(axis=1, keepdims=True)
        return near @ self.means, np.einsum("nm,mij->nij", near, self.covariances)


@dataclass(frozen=True, kw_only=True, eq=False)
class ColourFit:
    """A map from a camera's colours to true ones, linear BT.2020 relative to blank paper."""

    mean: Floats  # (3, 6)
    covariance: Floats  # (18, 18)
    residuals: Residuals
    lamp_told: bool  # coloured patches said something of the lamp

    def true(self, seen: Floats) -> Floats:
        """Give true linear RGB (n, 3) of what was seen (n, 3)."""
        mapped = root_terms(seen) @ self.mean.T
        return np.asarray(mapped + self.residuals.of(mapped)[0] / weight_of(mapped))

    def joint_covariance(self, seen: Floats) -> Floats:
        """Give the covariance (3n, 3n) of what the map is off by in all of those together."""
        terms = root_terms(seen)
        blocks = self.covariance.reshape(OUT, TERMS, OUT, TERMS)
        joint = np.einsum("nt,itju,mu->nimj", terms, blocks, terms)
        return np.asarray(joint.reshape(OUT * len(seen), OUT * len(seen)))

    def covariances_of(self, seen: Floats) -> tuple[Floats, Floats]:
        """Give the covariances (n, 3, 3) of those: the map's, and of what no map takes away."""
        terms = root_terms(seen)
        blocks = self.covariance.reshape(OUT, TERMS, OUT, TERMS)
        shared = np.einsum("nt,itju,nu->nij", terms, blocks, terms)
        mapped = terms @ self.mean.T
        own = 1.0 / weight_of(mapped)
        return shared, own[:, :, None] * own[:, None, :] * self.residuals.of(mapped)[1]


def residuals_of(rows: Floats) -> Residuals:
    """Read residuals from rows (m, 15): place, mean, covariance."""
    places, means, covariances = np.split(rows, (OUT, 2 * OUT), axis=1)
    return Residuals(places=places, means=means, covariances=covariances.reshape(-1, OUT, OUT))


def nearness(true: Floats, places: Floats) -> Floats:
    """Give how near linear RGB (n, 3) is to colours Lab (m, 3), (n, m): 1 for the nearest."""
    apart = chroma_weighted(wide_to_lab(true))[:, None] - chroma_weighted(places)
    squares = np.sum((apart / _REACH) ** 2, axis=-1)
    squares = squares - squares.min(axis=1, keepdims=True)
    return np.asarray(np.exp(-0.5 * squares))


def root_terms(seen: Floats) -> Floats:
    """Give the six terms (n, 6) of linear RGB (n, 3)."""
    red, green, blue = np.maximum(seen, _DIM).T
    return np.stack(
        [red, green, blue, np.sqrt(red * green), np.sqrt(green * blue), np.sqrt(red * blue)],
        axis=-1,
    )


def weight_of(true: Floats) -> Floats:
    """Give weights (n, 3) under which errors of linear RGB (n, 3) look alike to the eye."""
    luminance = np.maximum(true @ WIDE_LUMINANCE, 0.0)[:, None]
    mixed = luminance + _OWN * (np.maximum(true, 0.0) - luminance)
    return np.asarray((mixed + _FLOOR) ** (-2.0 / 3.0))


def _saturation(true: Floats) -> Floats:
    top = np.maximum(true.max(axis=1), _DIM)
    return np.asarray(1.0 - np.maximum(true.min(axis=1), 0.0) / top)


@dataclass(frozen=True, kw_only=True, eq=False)
class TrainingSamples:
    """Colours whose truth is known: linear BT.2020 relative to paper, seen and true (n, 3)."""

    seen: Floats
    true: Floats
    sigma: Floats  # (n,) of the true one, weighted as by `weight_of`
    ink: NDArray[np.bool_]  # (n,) printed, not painted


@dataclass(frozen=True, kw_only=True, eq=False)
class _Prior:
    """What stand-in cameras do under one kind of lamp: a map of paint, then one of ink."""

    share: float  # of all
    mean: Floats  # (36,)
    covariance: Floats  # (36, 36)
    left: Floats  # (2, 3, 3) covariance of the residuals, on average
    of_paint: Residuals  # by colour


@cache
def _usual() -> tuple[_Prior, ...]:
    folder = Path(__file__).parent / "data"
    table = np.loadtxt(folder / "colour_prior.csv", delimiter=",")
    rests = np.loadtxt(folder / "paint_rest.csv", delimiter=",")
    size = 2 * _SIZE
    kinds = table.reshape(-1, 2 + size + 2 * OUT, size)
    return tuple(
        _Prior(
            share=float(kind[0, 0]),
            mean=kind[1],
            covariance=kind[2 : 2 + size] + COLOUR.steady * np.eye(size),
            left=kind[2 + size :, :OUT].reshape(2, OUT, OUT),
            of_paint=residuals_of(rest),
        )
        for kind, rest in zip(kinds, np.split(rests, len(kinds)), strict=True)
    )


def _gone_by(parameters: ColourParameters) -> tuple[_Prior, ...]:
    return tuple(
        replace(one, covariance=parameters.never_met * one.covariance)
        for n, one in enumerate(_usual())
        if n not in parameters.kinds_left_out
    )


def fit_colour(
    training: TrainingSamples | None = None,
    *,
    of_ink: bool = False,
    shares: Floats | None = None,
    parameters: ColourParameters = COLOUR,
) -> ColourFit:
    """Weigh usual cameras against what is known of this one; give its map of paint, or of ink.

    How much to go by each kind of camera and lamp may be given, (k,).
    """
    usual = _gone_by(parameters)
    fits = [(one.mean, one.covariance) for one in usual]
    if training is not None:
        fits = [_moved(training, one) for one in usual]
    if shares is None:
        shares = shares_of(training, parameters)
    mean, covariance = _as_one(shares, *(np.stack(one) for one in zip(*fits, strict=True)))
    part = slice(_SIZE, 2 * _SIZE) if of_ink else slice(0, _SIZE)
    return ColourFit(
        mean=mean[part].reshape(OUT, TERMS),
        covariance=covariance[part, part],
        residuals=_residuals_of_ink(usual, shares)
        if of_ink
        else _residuals_of_paint(usual, shares),
        lamp_told=training is not None and bool(_tells(training, parameters).any()),
    )


def shares_of(training: TrainingSamples | None, parameters: ColourParameters = COLOUR) -> Floats:
    """Say how much to go by each kind of camera and lamp, (k,), by what is known of colours."""
    usual = _gone_by(parameters)
    likely = np.log([one.share for one in usual])
    if training is not None:
        likely = likely + np.array([_evidence(training, one, parameters) for one in usual])
    shares = np.exp(likely - likely.max())
    return np.asarray(shares / shares.sum())


def misfit(training: TrainingSamples, parameters: ColourParameters = COLOUR) -> float:
    """Say how far known colours lie from what usual cameras would have shown: mean square sigmas.

    Under the kind of lamp that explains them best; about 1 where they are what they are said to be.
    """
    found = []
    # Held against kinds as they are, or no print would ever be another's.
    for usual in _gone_by(replace(parameters, never_met=1.0)):
        design, wanted, _ = _weighted(training, usual)
        miss = wanted - design @ usual.mean
        together = design @ usual.covariance @ design.T + np.eye(len(miss))
        found.append(float(miss @ np.linalg.solve(together, miss)) / len(miss))
    return min(found)


def _tells(training: TrainingSamples, parameters: ColourParameters) -> NDArray[np.bool_]:
    """Say which colours tell something of the lamp: greys look alike under all."""
    return np.asarray(_saturation(training.true) > parameters.coloured)


def _residuals_of_ink(usual: tuple[_Prior, ...], shares: Floats) -> Residuals:
    covariance = np.einsum("k,kij->ij", shares, np.stack([one.left[1] for one in usual]))
    return Residuals(
        places=np.zeros((1, OUT)), means=np.zeros((1, OUT)), covariances=covariance[None]
    )


def _residuals_of_paint(usual: tuple[_Prior, ...], shares: Floats) -> Residuals:
    rests = [one.of_paint for one in usual]
    means, covariances = _as_one(
        shares, np.stack([one.means for one in rests]), np.stack([one.covariances for one in rests])
    )
    return Residuals(places=rests[0].places, means=means, covariances=covariances)


def _as_one(shares: Floats, means: Floats, covariances: Floats) -> tuple[Floats, Floats]:
    """Give mean and covariance of a mixture of k kinds: means (k, ..., n)."""
    mean = np.einsum("k,k...i->...i", shares, means)
    apart = means - mean
    covariance = np.einsum("k,k...ij->...ij", shares, covariances)
    return mean, covariance + np.einsum("k,k...i,k...j->...ij", shares, apart, apart)


def _moved(training: TrainingSamples, usual: _Prior) -> tuple[Floats, Floats]:
    """Give mean and covariance of both maps."""
    design, wanted, _ = _weighted(training, usual)
    return updated(usual.mean, usual.covariance, design, wanted)


def _evidence(training: TrainingSamples, usual: _Prior, parameters: ColourParameters) -> float:
    """Give the logarithm of how likely the patches are under one kind."""
    design, wanted, spread = _weighted(training, usual)
    tells = np.repeat(_tells(training, parameters), OUT)
    miss = (wanted - design @ usual.mean)[tells]
    together = design[tells] @ usual.covariance @ design[tells].T + np.eye(len(miss))
    far = negative_log_likelihood(miss, together) if len(miss) else 0.0
    return float(-0.5 * far - np.log(spread[tells]).sum())


def _weighted(training: TrainingSamples, usual: _Prior) -> tuple[Floats, Floats, Floats]:
    """Give the terms (3n, 36) and true channels (3n,) of n colours, over their sigmas (3n,)."""
    matter = training.ink.astype(int)
    rest = np.sqrt(np.diagonal(usual.left, axis1=1, axis2=2))[matter]
    spread = np.hypot(training.sigma[:, None], rest) / weight_of(training.true)
    count, out = len(matter), np.arange(OUT)
    rows = np.zeros((count, OUT, 2, OUT, TERMS))
    terms = root_terms(training.seen)[:, None, :] / spread[:, :, None]
    rows[np.arange(count)[:, None], out, matter[:, None], out] = terms
    return rows.reshape(count * OUT, 2 * _SIZE), (training.true / spread).ravel(), spread.ravel()
