"""How curled paper and the lens depart from a plane: a smooth shift over the page."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import RBFInterpolator

Floats = NDArray[np.float64]

_SCALE_MM = 100.0
_SMOOTH = 0.02  # of the plate, against one landmark known to _SURE_MM
_SURE_MM = 0.15
_FEWEST = 12
_ROUNDS = 3
_FAR = 3.5  # times the middle misfit from which a landmark is taken for another thing
_LEAST_MM = 0.12


@dataclass(frozen=True, kw_only=True, eq=False)
class Bend:
    """A smooth shift."""

    shift: Callable[[Floats], Floats]  # of points (n, 2), (n, 2), in mm
    misfit_mm: float = 0.0  # of the landmarks it was fitted to, in the middle

    def at(self, points_mm: Floats) -> Floats:
        """Give by how much points (n, 2) of the page are seen shifted, (n, 2) in mm."""
        return np.asarray(self.shift(points_mm))


def fit_bend(points_mm: Floats, shifts_mm: Floats, sigma_mm: Floats) -> Bend | None:
    """Fit a plate to shifts (n, 2) seen at points (n, 2), leaving out what doesn't belong.

    A thin plate (Duchon 1977; Wahba 1990), smoothed by how sure each landmark is.
    """
    kept = np.ones(len(points_mm), dtype=bool)
    found = None
    for _ in range(_ROUNDS):
        if kept.sum() < _FEWEST:
            return found
        shift = _plate(points_mm[kept], shifts_mm[kept], sigma_mm[kept])
        miss = np.linalg.norm(shifts_mm - shift(points_mm), axis=1)
        middle = float(np.median(miss[kept]))
        found = Bend(shift=shift, misfit_mm=middle)
        again = miss < np.maximum(_FAR * max(middle, _LEAST_MM), 2.0 * sigma_mm)
        if np.array_equal(again, kept):
            break
        kept = again
    return found


def _plate(points_mm: Floats, shifts_mm: Floats, sigma_mm: Floats) -> Callable[[Floats], Floats]:
    plate = RBFInterpolator(
        points_mm / _SCALE_MM,
        shifts_mm,
        kernel="thin_plate_spline",
        smoothing=_SMOOTH * (sigma_mm / _SURE_MM) ** 2,
    )
    return lambda points: plate(points / _SCALE_MM)
