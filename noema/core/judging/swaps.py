"""Cells painted in each other's place, and rows painted the other way round."""

from collections.abc import Iterator, Sequence
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.exercises.asked import Even
from noema.core.judging.evidence import Evidence, Stray
from noema.core.judging.judgement import Finding, FindingKind, Manner

Floats = NDArray[np.float64]

_APART = 6.0  # CIEDE2000 between two cells' expected colours under which a swap hardly shows
_GAIN = 9.0  # in squared sigmas: how much better the cells must fit the other way
_EXPLAINS = 0.54  # of all that a row strays, that the swap must explain
_FITS, _FITS_WHOLE, _WHOLE = 8.2, 14.0, 0.8
"""Squared sigmas, of both together, within which they must lie of each other's step; more may be
left where the swap explains so large a share of all."""

_STRAYS = 1.5  # sigmas that each must lie off its own step
_FITS_TURNED = 2.0  # sigmas within which the middle one of a turned row must lie
_USUAL = 2.0  # squared sigmas a cell strays anyway
_REACH = 2  # cells of a row within which a swap is looked for
_FAR_STRAYS, _FAR_FITS, _FAR_EXPLAINS, _FAR_APART = 4.0, 2.0, 0.25, 15.0
"""Sigmas that cells exchanged at any distance lie off their own step, at least, and off each
other's, at most, or the share of the former that may be left; and CIEDE2000 between those steps. Of
so many pairs none must fit by chance."""

_AS_NEAR = 1.0  # sigmas by which another step may be nearer: rows of one sheet have like colours


def find_swaps(evidence: Evidence) -> Iterator[Finding]:
    """Find the likeliest swap of each row or ring, and cells exchanged across the sheet."""
    found = tuple(_in_bands(evidence))
    yield from found
    yield from _exchanged(evidence, {cell for finding in found for cell in finding.cells})


def _in_bands(evidence: Evidence) -> Iterator[Finding]:
    for band in evidence.asked.bands:
        # What looks bare may be a pale step in the place of a deeper one.
        strays = evidence.in_band(band)
        if len(strays) < 2:
            continue
        off, ring = _off(strays), band.even is Even.HUE
        if (whole := _reversed(strays, off)) is not None:
            yield whole
        elif (swap := _likeliest(strays, off, ring=ring)) is not None:
            yield swap


def _exchanged(evidence: Evidence, found: set[str]) -> Iterator[Finding]:
    """Find pairs, however far apart, that plainly lie on each other's step."""
    strays = [one for one in evidence.strays.values() if one.cell.id not in found]
    if len(strays) < 2:
        return
    off = _off(strays)
    own = np.diag(off)
    expected = np.array([s.cell.lab for s in strays])
    apart = ciede2000(expected[:, None], expected[None])
    pairs = []
    for i, j in combinations(range(len(strays)), 2):
        stray = min(own[i], own[j]) > _FAR_STRAYS and apart[i, j] > _FAR_APART
        nearest = off[i, j] < off[i].min() + _AS_NEAR and off[j, i] < off[j].min() + _AS_NEAR
        left = max(off[i, j], off[j, i])
        if stray and nearest and left < max(_FAR_FITS, _FAR_EXPLAINS * min(own[i], own[j])):
            pairs.append((left, i, j))
    taken: set[int] = set()
    for _, i, j in sorted(pairs):
        if not taken & {i, j}:
            taken |= {i, j}
            yield Finding(
                kind=FindingKind.SWAPPED,
                cells=(strays[i].cell.id, strays[j].cell.id),
                amount=float(own[i] ** 2 + own[j] ** 2),
            )


def _off(strays: Sequence[Stray]) -> Floats:
    """Give how far each cell lies from each cell's step, in sigmas, (n, n): painted, expected."""
    painted = np.array([s.lab for s in strays])
    expected = np.array([s.cell.lab for s in strays])
    sigma = np.array([s.own_sigma for s in strays])
    return np.asarray(ciede2000(painted[:, None], expected[None]) / sigma[:, None])


def _likeliest(strays: Sequence[Stray], off: Floats, *, ring: bool) -> Finding | None:
    strays_by = float(np.sum(np.maximum(np.diag(off) ** 2 - _USUAL, 0.0)))
    expected = np.array([s.cell.lab for s in strays])
    apart = ciede2000(expected[:, None], expected[None])
    best, gained = None, max(_GAIN, _EXPLAINS * strays_by)
    for i, j in combinations(range(len(strays)), 2):
        steps = min(j - i, len(strays) - (j - i)) if ring else j - i
        if steps > _REACH or apart[i, j] < _APART:
            continue
        left = float(off[i, j] ** 2 + off[j, i] ** 2)
        gain = float(off[i, i] ** 2 + off[j, j] ** 2) - left
        fits = left < (_FITS_WHOLE if gain > _WHOLE * strays_by else _FITS)
        if gain > gained and fits and min(off[i, i], off[j, j]) > _STRAYS:
            best, gained = (strays[i], strays[j]), gain
    if best is None:
        return None
    return Finding(
        kind=FindingKind.SWAPPED,
        cells=tuple(stray.cell.id for stray in best),
        amount=gained,
    )


def _reversed(strays: Sequence[Stray], off: Floats) -> Finding | None:
    """Find a whole row painted from the wrong end."""
    if len(strays) < 4:
        return None
    straight, turned = np.diag(off), np.diag(off[:, ::-1])
    gain = float(np.sum(straight**2 - turned**2))
    if gain < 2.0 * _GAIN or float(np.median(turned)) > _FITS_TURNED:
        return None
    return Finding(
        kind=FindingKind.SWAPPED,
        cells=tuple(stray.cell.id for stray in strays),
        amount=gain,
        manner=Manner.REVERSED,
    )
