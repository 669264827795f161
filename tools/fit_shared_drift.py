"""Fits how a reader's errors go together over the colours of a sheet.

Run: .venv/bin/python -m tools.fit_shared_drift [sheets [seeds from]]
Stand-in sheets painted right are photographed and read as a class's; the sizes and reaches of the
process in core/judging/shared_drift.py are those under which what the readings stray is likeliest.
Copy what is printed there, then measure with tools/mistakes.py, whose seeds are others.
"""

import sys
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import minimize

from noema.core.colour.chroma_weighted import chroma_weight
from noema.core.judging.evidence import is_trusted, sigmas_of
from noema.core.judging.shared_drift import (
    IN_COLOUR,
    IN_LIGHTNESS,
    ROUGH,
    ErrorSizes,
    coordinates,
    shared_covariance,
)
from noema.core.statistics.gaussian import negative_log_likelihood
from noema.stand_ins.processes import own_processes
from tools.handed_in import handed_in

FIRST_SEED, SHEETS = 340_000, 200
FEWEST_CELLS = 4
SCALED = ("everywhere", "gain", "near", "own")
FAR = 3.0  # sigmas beyond which a drift is its painter's, and cut off
LEAST, MOST = 1e-3, 3.0
SHRUNK = 3.0  # times L*'s reach is that of a* and b*, shrunk as `chroma_weighted` has them
REACHES = (8.0, 80.0)


@dataclass(frozen=True, kw_only=True)
class Drifts:
    """How far the cells of one sheet were read from what is truly painted."""

    expected: np.ndarray  # (n, 3) Lab as painted
    drifts: np.ndarray  # (n, 3) a* and b* shrunk
    lightness: np.ndarray  # (n,) one sigma
    colour: np.ndarray  # (n,)


def drifts_of(seed: int) -> Drifts | None:
    """Paint, photograph and read one sheet; None where too little of it can be trusted."""
    sheet = handed_in(seed, None)
    if sheet is None:
        return None
    truth = sheet.painted.hand.meant
    pairs = [(truth[seen.id], seen) for seen in sheet.reading.cells if is_trusted(seen)]
    if len(pairs) < FEWEST_CELLS:
        return None
    expected = np.array([lab for lab, _ in pairs])
    scale = np.ones_like(expected)
    scale[:, 1:] = chroma_weight(expected)[:, None]
    lightness, colour = sigmas_of([seen for _, seen in pairs])
    drifts = (np.array([seen.lab for _, seen in pairs]) - expected) / scale
    return Drifts(expected=expected, drifts=drifts, lightness=lightness, colour=colour)


def sized(sizes: ErrorSizes, logs: np.ndarray) -> ErrorSizes:
    """Give sizes whose logarithms are those given, the reach last."""
    values = dict(zip(SCALED, np.exp(logs[:-1]).tolist(), strict=True))
    reach = float(np.exp(logs[-1]))
    return replace(sizes, reach=(reach, reach / SHRUNK, reach / SHRUNK), **values)


def unlikeliness(sizes: ErrorSizes, axes: tuple[int, ...], sheets: list[Drifts]) -> float:
    """Give twice the negative logarithm of how likely the drifts of all sheets are."""
    total = 0.0
    for sheet in sheets:
        for axis in axes:
            _, sigma = coordinates(sheet.lightness, sheet.colour)[axis]
            alone = sizes.own + (ROUGH / sigma) ** 2
            covariance = shared_covariance(sheet.expected, axis, sizes) + np.diag(alone)
            cut = np.clip(sheet.drifts[:, axis] / sigma, -FAR, FAR)
            total += negative_log_likelihood(cut, covariance)
    return total


def fitted(sizes: ErrorSizes, axes: tuple[int, ...], sheets: list[Drifts]) -> ErrorSizes:
    """Fit sizes and reach, starting from those given."""
    start = np.log([*(getattr(sizes, name) for name in SCALED), sizes.reach[0]])
    bounds = [*[(np.log(LEAST), np.log(MOST))] * len(SCALED), tuple(np.log(REACHES))]
    found = minimize(
        lambda logs: unlikeliness(sized(sizes, logs), axes, sheets),
        start,
        method="L-BFGS-B",
        bounds=bounds,
    )
    return sized(sizes, found.x)


def main() -> None:
    count, first = (*map(int, sys.argv[1:]), *(SHEETS, FIRST_SEED)[len(sys.argv) - 1 :])
    with own_processes() as pool:
        drawn = pool.map(drifts_of, range(first, first + count), chunksize=4)
        sheets = [one for one in drawn if one is not None]
    for name, sizes, axes in (
        ("IN_LIGHTNESS", IN_LIGHTNESS, (0,)),
        ("IN_COLOUR", IN_COLOUR, (1, 2)),
    ):
        found = fitted(sizes, axes, sheets)
        before, after = (unlikeliness(one, axes, sheets) for one in (sizes, found))
        shown = {one: round(getattr(found, one), 3) for one in SCALED}
        reach = tuple(round(part, 1) for part in found.reach)
        print(f"{name}: {shown} reach={reach}; twice the log likelihood {before - after:+.1f}")


if __name__ == "__main__":
    main()
