"""Rows of steps: crowded, out of order, sitting together, a jump, an end that stops early.

Each cell gets a place between the two ends of its row, 0 at the first and 1 at the last. On a
value scale the place follows from the cell's value. In a row of colours it is the nearest point on
the line through the expected colours.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import hue_step
from noema.core.exercises.asked import Band, Even
from noema.core.judging.evidence import PER_VALUE, Evidence, Stray, drifts_of_cells
from noema.core.judging.judgement import Finding, FindingKind
from noema.core.judging.shared_drift import along_a_row
from noema.core.sheet.layout import Triple

Floats = NDArray[np.float64]

SURE_OF_VALUE, SURE_OF_COLOUR = 1.7, 3.2
"""Sigmas, a careful hand's with the reader's, by which a step must differ from an even one.

A sheet of colours has dozens of neighbouring cells, so that even one false claim in a hundred would
be too many there.
"""

TOGETHER_UNDER = 0.45  # of a step: neighbours closer than this read as one
JUMP_OVER = 1.6  # steps: a jump this large makes its neighbours look crowded
SHORT_BY, _SHORT_SURE = 0.6, 1.3  # value by which an end may stop early, and sigmas beyond it
_LEAST_TURN = 1.0  # hue steps between neighbours on a wheel that can be called even or not
_FEWEST_TO_BUNCH, _LEAST_SEEN = 5, 0.6  # cells, and of a row's, that must be seen
_BENDS = np.exp(np.linspace(-0.8, 0.8, 65))  # powers: 1 is even
_BENT, _BENT_ALONE = 0.2, 0.06
"""How bent a row must be, as the logarithm of a power; 0 is even.

The second holds once the error that all cells of the sheet share is taken off: a lamp's cast can
make a row of greys look bent.
"""

_BENT_SURE, _BENT_SURE_ALONE = 8.0, 4.5
"""Twice the log-likelihood ratio of a bent row over an even one from which it is claimed.

The lower one is enough where the row is bent both with and without the shared error.
"""

_BENT_MORE = 3.0  # by which a crowded row must be likelier than one whose end stops early

_COLOURED = 4.6  # chroma that some cell of a row of colours must be asked for
_END_DOUBT = 0.14  # of the way, that an end may lie off its place in a row that is only crowded
_OUTLIER = 3.0  # sigmas; a cell further off counts as if it were this far off
_FINE = 24  # pieces between neighbours


@dataclass(frozen=True, kw_only=True, eq=False)
class Row:
    """The trusted cells of a band and the place of each between its ends, 0 to 1."""

    band: Band
    strays: tuple[Stray, ...]
    asked: Floats  # (n,) 0..1
    painted: Floats  # (n,)
    alone: Floats  # (n,) as painted, without the error that all cells of the sheet share
    covariance: Floats  # (n, n) of `painted`: a lamp changes similar colours similarly

    def doubt_between(self, n: int) -> float:
        """Give one sigma of how far the next cell lies from the n-th, in places."""
        both = self.covariance[n : n + 2, n : n + 2]
        return float(np.sqrt(both[0, 0] + both[1, 1] - 2.0 * both[0, 1]))

    @property
    def sigma(self) -> Floats:
        """One sigma of each place, (n,)."""
        return np.sqrt(np.diagonal(self.covariance))


def find_in_rows(evidence: Evidence) -> Iterator[Finding]:
    """Find what is wrong between the cells of each row of steps."""
    for band in evidence.asked.bands:
        if band.even not in (Even.VALUE, Even.DISTANCE):
            continue
        row = _row(evidence, band)
        if row is None:
            continue
        greys = max(cell.hvc.chroma for cell in band.cells) < _COLOURED
        if greys and band.even is not Even.VALUE:
            continue  # greys steered from side to side differ too little to be told
        bent = _bunched(row, evidence)
        if bent is not None:
            yield bent
        yield from _between(row, evidence)
        if band.even is Even.VALUE:
            yield from _short(row, evidence)


def jumps_of(evidence: Evidence) -> dict[str, tuple[float, float]]:
    """Give how large each step is, as a share of the step asked for, with its sigma.

    Steps are named by the id of the first of their two cells.
    """
    jumps: dict[str, tuple[float, float]] = {}
    for band in evidence.asked.bands:
        if band.even is Even.HUE:
            jumps |= _hue_jumps(evidence, band)
            continue
        row = _row(evidence, band) if band.even in (Even.VALUE, Even.DISTANCE) else None
        if row is None:
            continue
        for n, one, _ in _neighbours(row):
            asked = float(row.asked[n + 1] - row.asked[n])
            jump = float(row.alone[n + 1] - row.alone[n]) / asked
            doubt = row.doubt_between(n) / asked
            jumps[one.cell.id] = (jump, doubt)
    return jumps


def _hue_jumps(evidence: Evidence, band: Band) -> dict[str, tuple[float, float]]:
    """Give how large the steps of hue round a wheel are; otherwise like `jumps_of`."""
    jumps = {}
    for one, two in pairwise((*band.cells, band.cells[0])):
        first, second = evidence.strays.get(one.id), evidence.strays.get(two.id)
        if first is None or second is None or first.hue is None or second.hue is None:
            continue
        asked = hue_step(one.hvc.hue100 or 0.0, two.hvc.hue100 or 0.0)
        if abs(asked) < _LEAST_TURN:
            continue
        sigma = np.hypot(first.hue_sigma, second.hue_sigma) / abs(asked)
        jumps[one.id] = (1.0 + (second.hue - first.hue) / asked, float(sigma))
    return jumps


def _neighbours(row: Row) -> Iterator[tuple[int, Stray, Stray]]:
    """Give each pair of cells that are neighbours on the sheet, with the index of the first."""
    order = {cell.id: n for n, cell in enumerate(row.band.cells)}
    for n, (one, two) in enumerate(pairwise(row.strays)):
        if order[two.cell.id] - order[one.cell.id] == 1:
            yield n, one, two


def _row(evidence: Evidence, band: Band) -> Row | None:
    strays = tuple(s for s in evidence.in_band(band) if s.cell.id not in evidence.empty)
    if len(strays) < 2:
        return None
    where = {cell.id: n for n, cell in enumerate(band.cells)}
    held = [s.cell for s in strays]
    drifts = drifts_of_cells(
        held, [s.printed for s in strays], [s.seen for s in strays], evidence.surface
    )
    covariance = along_a_row(
        [cell.lab for cell in held], drifts, evidence.known.spread(drifts.tubes)
    )
    at = [where[stray.cell.id] for stray in strays]
    if band.even is Even.VALUE:
        values = np.array([cell.hvc.value for cell in band.cells])
        span = float(values[-1] - values[0])
        asked = (values - values[0]) / span
        painted = (np.array([s.seen.hvc.value for s in strays]) - values[0]) / span
        alone = painted
        covariance = covariance / (PER_VALUE * span) ** 2
    else:
        # All rows of a sheet may be crowded alike, so the shared error is not taken off here.
        asked, length, (painted, alone) = _along(
            band, [s.seen.lab for s in strays], [s.lab for s in strays]
        )
        covariance = covariance / max(length, 1e-6) ** 2
    if not np.all(np.diff(asked) > 1e-6):
        return None
    return Row(
        band=band,
        strays=strays,
        asked=asked[at],
        painted=painted,
        alone=alone,
        covariance=covariance,
    )


def _along(band: Band, *painted: Sequence[Triple]) -> tuple[Floats, float, list[Floats]]:
    """Give the expected places of a band's cells (0..1), its length (CIEDE2000), and other places.

    The others are those of each list of painted colours along the same line.
    """
    labs = np.array([cell.lab for cell in band.cells])
    lengths = np.concatenate([[0.0], np.cumsum(ciede2000(labs[1:], labs[:-1]))])
    if lengths[-1] <= 0.0:
        return np.zeros(len(labs)), 0.0, [np.zeros(len(row)) for row in painted]
    asked = lengths / lengths[-1]
    places = np.linspace(0.0, len(labs) - 1.0, (len(labs) - 1) * _FINE + 1)
    whole = np.arange(len(labs))
    way = np.stack([np.interp(places, whole, column) for column in labs.T], axis=-1)
    nearest = [np.argmin(ciede2000(np.array(row)[:, None], way[None]), axis=1) for row in painted]
    lie = [np.interp(places[near], whole, asked) for near in nearest]
    return asked, float(lengths[-1]), lie


def _bunched(row: Row, evidence: Evidence) -> Finding | None:
    """Find steps crowded at an end: raising every place to a power fits far better than not."""
    ends = [
        abs(painted - asked)
        for painted, asked in zip(row.painted, row.asked, strict=True)
        if asked in (0.0, 1.0)
    ]
    seen = max(_FEWEST_TO_BUNCH, _LEAST_SEEN * len(row.band.cells))
    if len(row.strays) < seen or max(ends, default=0.0) > _END_DOUBT:
        return None
    bend, better = _bend(row.asked, row.painted, row.covariance)
    alone, alone_better = _bend(row.asked, row.alone, row.covariance)
    agree = abs(bend) > _BENT and alone * np.sign(bend) > _BENT_ALONE
    if not agree or not (better > _BENT_SURE or min(better, alone_better) > _BENT_SURE_ALONE):
        return None
    if row.band.even is Even.VALUE and short_ends(row).explains > better - _BENT_MORE:
        return None  # evenly spread from an end that stops early
    end = row.band.cells[0 if bend > 0 else -1]
    which = evidence.names[end.id]
    if row.band.even is Even.VALUE:
        lighter_last = row.band.cells[-1].hvc.value > row.band.cells[0].hvc.value
        which = "dark" if (bend > 0) == lighter_last else "light"
    inner = [cell.id for cell in row.band.cells[1:-1]]
    return Finding(
        kind=FindingKind.BUNCHED,
        cells=tuple(inner),
        amount=abs(bend),
        towards=which,
        row=row.band.label,
    )


def _bend(asked: Floats, painted: Floats, covariance: Floats) -> tuple[float, float]:
    """Give the logarithm of the likeliest power, and twice its log-likelihood ratio over none."""
    bent = np.clip(asked, 0.0, 1.0)[None] ** _BENDS[:, None]
    evened = np.linalg.solve(np.linalg.cholesky(covariance), (painted - bent).T).T
    off = np.minimum(np.abs(evened), _OUTLIER)
    unlikely = np.sum(off**2, axis=1)
    best = int(np.argmin(unlikely))
    return float(np.log(_BENDS[best])), float(unlikely[len(_BENDS) // 2] - unlikely[best])


def _between(row: Row, evidence: Evidence) -> Iterator[Finding]:
    """Find steps that are none, too large or the wrong way, beyond what a careful hand does."""
    of_value = row.band.even is Even.VALUE
    sure = SURE_OF_VALUE if of_value else SURE_OF_COLOUR
    for n, one, two in _neighbours(row):
        asked = float(row.asked[n + 1] - row.asked[n])
        jump = float(row.alone[n + 1] - row.alone[n]) / asked
        doubt = row.doubt_between(n) / asked
        both = (one.cell.id, two.cell.id)
        if jump < -sure * doubt:
            towards = "dark" if of_value else ""
            yield Finding(kind=FindingKind.ORDER, cells=both, amount=jump, towards=towards)
        elif jump < TOGETHER_UNDER and 1.0 - jump > sure * doubt:
            yield Finding(kind=FindingKind.TOGETHER, cells=both, amount=1.0 - jump)
        elif jump > JUMP_OVER and jump - 1.0 > sure * doubt:
            yield Finding(kind=FindingKind.JUMP, cells=both, amount=jump)


@dataclass(frozen=True, kw_only=True)
class ShortEnds:
    """How far the ends of a row of values stop early, by all its cells, its steps spread evenly."""

    first: float  # shares of the way, with one sigma each
    first_sigma: float
    last: float
    last_sigma: float
    explains: float  # twice the log-likelihood ratio over ends in their places


def short_ends(row: Row) -> ShortEnds:
    """Fit ends that stop early to the places of all cells, by generalised least squares."""
    design = np.stack([1.0 - row.asked, -row.asked], axis=1)
    weighed = design.T @ np.linalg.inv(row.covariance)
    covariance = np.linalg.inv(weighed @ design)
    drift = row.painted - row.asked
    first, last = (covariance @ weighed @ drift).tolist()
    sigmas = np.sqrt(np.diagonal(covariance)).tolist()
    explains = float(drift @ weighed.T @ covariance @ weighed @ drift)
    return ShortEnds(
        first=first, first_sigma=sigmas[0], last=last, last_sigma=sigmas[1], explains=explains
    )


def _short(row: Row, evidence: Evidence) -> Iterator[Finding]:
    """Find ends of a value scale that stop early, beside what these paints give."""
    ends, cells = short_ends(row), row.band.cells
    seen = {stray.cell.id for stray in row.strays}
    span = cells[-1].hvc.value - cells[0].hvc.value
    steps = len(cells) - 1
    for cell, way, short, sigma in (
        (cells[0], 1.0, ends.first, ends.first_sigma),
        (cells[-1], -1.0, ends.last, ends.last_sigma),
    ):
        if cell.id not in seen:
            continue
        # What the paints give may lie elsewhere than the key.
        lacks = way * (cell.hvc.value - evidence.printed_value(cell.id)) / span
        by, doubt = abs(span) * (short + lacks), _SHORT_SURE * abs(span) * sigma
        if by - doubt > SHORT_BY:
            dark = (way * span) > 0.0
            kind = FindingKind.SHORT_DARK if dark else FindingKind.SHORT_LIGHT
            yield Finding(kind=kind, cells=(cell.id,), amount=by * steps / abs(span))
