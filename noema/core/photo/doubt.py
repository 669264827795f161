"""How far the colours of cells may be wrong.

Every source of error is a covariance of linear RGB relative to paper, and they are added up.
Light, texture and paper change all three channels by the same share. The tone curve changes each
channel by how far down the curve it lies. The colour fit gives its own covariance.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.names import hue_step
from noema.core.colour.value import lightness_to_value
from noema.core.colour.wide import WIDE_TO_XYZ_D50
from noema.core.photo.beyond import beyond_file
from noema.core.photo.parameters.doubt import DOUBT, DoubtParameters
from noema.core.photo.sample import PaintSample
from noema.core.photo.seeing import Seeing
from noema.core.photo.tone import bends
from noema.core.sheet.layout import Triple

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Doubt:
    """One sigma of a cell's colour."""

    sigma: float  # CIEDE2000
    sigma_value: float  # value steps, absolute
    sigma_step: float  # value steps, against other cells of the sheet
    sigma_hue: float  # steps of the hundred-step circle
    sigma_chroma: float  # chroma steps


@dataclass(frozen=True, kw_only=True, eq=False)
class CellLight:
    """The light on cells: paper's there, as the camera recorded it."""

    rgb: Floats  # (n, 3) linear, 0..1
    sigma_log: Floats  # (n,) one sigma of its logarithm


@dataclass(frozen=True, kw_only=True, eq=False)
class Colours:
    """Cells' colours, and how far they may be wrong."""

    labs: tuple[Triple, ...]
    hvcs: tuple[HVC, ...]
    doubts: tuple[Doubt, ...]


def colours_of(
    samples: list[PaintSample],
    clipped: list[int | None],
    seeing: Seeing,
    light: CellLight,
    parameters: DoubtParameters = DOUBT,
) -> Colours:
    """Turn what was seen of cells into Lab D50, with the doubt of each.

    `clipped` names the channel of each cell that met the end of the file.
    """
    paper = seeing.paper
    raw = np.maximum(np.array([sample.rgb for sample in samples]), parameters.least)
    toned = seeing.tone.true(raw, light.rgb)
    rgb = seeing.fit.true(toned @ seeing.to_wide.T)
    own = np.hypot(light.sigma_log, [sample.doubt for sample in samples])
    own = np.hypot(own, parameters.camera_log)
    covariance, of_paint = _covariances(toned, own, bends(raw, light.rgb), seeing, parameters)
    for n, channel in enumerate(clipped):
        if channel is not None:
            beyond = beyond_file(toned[n], rgb[n], channel, in_srgb=seeing.in_srgb)
            rgb[n] += beyond.move
            covariance[n] += beyond.covariance
    labs = _labs(rgb, paper[0])
    wider = parameters.wider if seeing.fit.lamp_told else parameters.lamp_untold
    spread = wider**2 * _to_lab(covariance, rgb, paper[0])
    paint = np.sqrt(_to_lab(of_paint, rgb, paper[0])[:, 0, 0])
    curve = seeing.tone.sigma_log(raw.mean(axis=1), light.rgb.mean(axis=1))
    steps = _step_sigmas(labs, curve, own, paint, parameters)
    # Hue, value and chroma end at white, but doubt of them doesn't.
    within = np.minimum(labs, [parameters.lightest, np.inf, np.inf])
    nudged = np.concatenate([labs, within, *(within + parameters.nudge * row for row in np.eye(3))])
    hvcs = hvcs_of(nudged)
    return Colours(
        labs=tuple((lightness, a, b) for lightness, a, b in labs.tolist()),
        hvcs=tuple(hvcs[: len(labs)]),
        doubts=tuple(_doubts(within, hvcs[len(labs) :], spread, steps, parameters)),
    )


def _labs(rgb: Floats, paper_lab: Triple) -> Floats:
    ratio = lab_to_xyz(paper_lab) / lab_to_xyz([100.0, 0.0, 0.0])
    return xyz_to_lab(np.maximum(rgb @ WIDE_TO_XYZ_D50.T, 1e-6) * ratio)


def _covariances(
    toned: Floats, own: Floats, bent: Floats, seeing: Seeing, parameters: DoubtParameters
) -> tuple[Floats, Floats]:
    """Add up every error of linear RGB, (n, 3, 3); and what of it is each paint's own."""
    paper_log = seeing.paper[1] / _lightness_slope(seeing.paper[0][0])
    together = toned * np.hypot(own, paper_log)[:, None]
    moves = toned[..., None] * bent  # (n, channels, terms of the curve)
    before = np.einsum("ni,nj->nij", together, together)
    before += np.einsum("nip,pq,njq->nij", moves, seeing.tone.covariance, moves)
    before += (parameters.dark * max(1.0, parameters.well_lit / seeing.paper_light)) ** 2 * np.eye(
        3
    )
    # Through the colour map's slope, which near a colour is close to its own ratio.
    slope = seeing.fit.mean[:, :3] @ seeing.to_wide
    after = np.einsum("ij,njk,lk->nil", slope, before, slope)
    of_map, of_paint = seeing.fit.covariances_of(toned @ seeing.to_wide.T)
    return after + of_map + of_paint, of_paint


def _to_lab(covariance: Floats, rgb: Floats, paper_lab: Triple) -> Floats:
    step = 1e-3 * np.maximum(rgb.max(axis=1, keepdims=True), 0.02)
    here = _labs(rgb, paper_lab)
    slope = np.stack(
        [(_labs(rgb + step * row, paper_lab) - here) / step for row in np.eye(3)], axis=-1
    )
    return np.asarray(slope @ covariance @ slope.transpose(0, 2, 1))


def _step_sigmas(
    labs: Floats, curve: Floats, own: Floats, paint: Floats, parameters: DoubtParameters
) -> Floats:
    """Give one sigma of the difference of L* to other cells, in which shared errors cancel.

    `curve` and `own` are sigmas of the logarithm of luminance, `paint` of L*.
    """
    seen = _lightness_slope(labs[:, 0]) * np.hypot(own, parameters.tone_between_cells * curve)
    return np.hypot(seen, parameters.paint_between_cells * paint)


def _doubts(
    labs: Floats, hvcs: list[HVC], spread: Floats, steps: Floats, parameters: DoubtParameters
) -> list[Doubt]:
    """Give the doubt of each cell.

    `hvcs` holds all n cells as they are, then all a little lighter, redder and yellower (4n).
    """
    sizes, ways = np.linalg.eigh(spread)
    moves = np.sqrt(np.maximum(sizes, 0.0))[:, None, :] * ways  # (n, 3, 3): columns are moves
    away = np.stack([ciede2000(labs, labs + moves[:, :, n]) for n in range(3)], axis=-1)
    sigma = np.sqrt(np.sum(away**2, axis=-1))
    count = len(labs)
    found = []
    for n in range(count):
        here, there = hvcs[n], [hvcs[count * (1 + axis) + n] for axis in range(3)]
        chroma = np.array([(one.chroma - here.chroma) / parameters.nudge for one in there])
        hue = parameters.hue_unknown
        if here.hue100 is not None and all(one.hue100 is not None for one in there):
            turn = np.array(
                [hue_step(here.hue100, one.hue100 or 0.0) / parameters.nudge for one in there]
            )
            hue = min(hue, float(np.sqrt(turn @ spread[n] @ turn)))
        per_l = float(lightness_to_value(labs[n, 0] + 0.5) - lightness_to_value(labs[n, 0] - 0.5))
        found.append(
            Doubt(
                sigma=float(sigma[n]),
                sigma_value=float(np.sqrt(spread[n, 0, 0])) * per_l,
                sigma_step=float(steps[n]) * per_l,
                sigma_hue=hue,
                sigma_chroma=max(
                    float(np.sqrt(chroma @ spread[n] @ chroma)),
                    # A grey's chroma is nothing on every side, but its doubt isn't.
                    parameters.chroma_per_lab * float(np.sqrt(np.trace(spread[n, 1:, 1:]) / 2.0)),
                ),
            )
        )
    return found


def _lightness_slope(lightness: ArrayLike) -> Floats:
    """Give how L* changes with the logarithm of luminance: a third of L* + 16."""
    return np.asarray((np.asarray(lightness, float) + 16.0) / 3.0)
