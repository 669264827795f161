"""Paint laid evenly, but so thin that the paper shows through.

No gap shows it: each colour has moved towards paper along its own film's curve, value and chroma
together, transparent tubes farthest. One thickness for the whole sheet is tried against paint that
hides the paper.
"""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.spectra import reflectance_to_lab
from noema.core.exercises.tube_shifts import with_tubes
from noema.core.judging.evidence import Evidence, drifts_of_cells
from noema.core.judging.judgement import Finding, FindingKind, Manner
from noema.core.judging.shared_drift import covariance_of
from noema.core.pigments.film import Surface, film_reflectance
from noema.core.pigments.mix import Part
from noema.core.pigments.tube import BANDS

Floats = NDArray[np.float64]

_COATS = np.geomspace(0.05, 0.45, 12)
_HIDES = 8.0  # coats that nothing shows through
_SURE = 16.0  # twice the log-likelihood ratio over paint that hides
_FEWEST = 4  # cells that thin paint would move
_MOVES, _SHARE, _OF_THE_WAY = 3.0, 0.7, 0.3
"""CIEDE2000, nearly, that thin paint must move a cell to tell anything; the share of such cells
that must have moved at least so much of the way."""


def find_see_through(evidence: Evidence, passed_over: frozenset[str]) -> Finding | None:
    """Find a sheet whose colours all lie towards paper, as one thin coat would leave them."""
    left_out = passed_over | evidence.empty
    strays = [s for s in evidence.strays.values() if s.cell.id not in left_out]
    if len(strays) < _FEWEST:
        return None
    cells = tuple(stray.printed for stray in strays)
    drifts = drifts_of_cells(
        [stray.cell for stray in strays], cells, [s.seen for s in strays], evidence.surface
    )
    covariance = covariance_of(drifts, evidence.known.spread(drifts.tubes))
    mixes = with_tubes(cells, evidence.surface)
    shifts = _film_shifts(mixes, evidence.surface) / drifts.scale
    weighed = np.linalg.inv(covariance)
    off = (drifts.drifts - shifts).reshape(len(_COATS), -1)
    misses = np.einsum("tn,nm,tm->t", off, weighed, off)
    flat = drifts.drifts.reshape(-1)
    best = int(np.argmin(misses))
    gain = float(flat @ weighed @ flat - misses[best])
    moved = np.linalg.norm(shifts[best], axis=1)
    along = np.sum(drifts.drifts * shifts[best], axis=1) / np.maximum(moved**2, 1e-9)
    telling = moved > _MOVES
    if gain < _SURE or telling.sum() < _FEWEST:
        return None
    if np.mean(along[telling] > _OF_THE_WAY) < _SHARE:
        return None
    return Finding(
        kind=FindingKind.THIN,
        cells=tuple(stray.cell.id for stray, tells in zip(strays, telling, strict=True) if tells),
        amount=float(1.0 - min(1.0, _COATS[best])),
        manner=Manner.SEE_THROUGH,
    )


@lru_cache(maxsize=512)
def _film_shifts(mixes: tuple[tuple[Part, ...], ...], surface: Surface) -> Floats:
    """Give how far films of each thickness lie from paint that hides, (coats, n, 3) Lab."""
    curves = [
        (part.amount / sum(p.amount for p in parts), part.tube, n)
        for n, parts in enumerate(mixes)
        for part in parts
    ]
    absorption, scattering = np.zeros((2, len(mixes), BANDS))
    for share, tube, n in curves:
        absorption[n] += share * tube.absorption
        scattering[n] += share * tube.scattering
    coats = np.append(_COATS, _HIDES)[:, None, None]
    labs = reflectance_to_lab(film_reflectance(absorption, scattering, coats, surface))
    return np.asarray(labs[:-1] - labs[-1])
