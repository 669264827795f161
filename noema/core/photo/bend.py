"""How curled paper and the lens depart from a plane: a smooth shift over the page."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.parameters.place import PLACE, PlaceParameters

Floats = NDArray[np.float64]

_SCALE_MM = 100.0
_PLANE = 3  # terms of a plane, which costs no bending


@dataclass(frozen=True, kw_only=True, eq=False)
class Bend:
    """A smooth shift."""

    shift: Callable[[Floats], Floats]  # of points (n, 2), (n, 2), in mm
    misfit_mm: float = 0.0  # of the landmarks it was fitted to, in the middle

    def at(self, points_mm: Floats) -> Floats:
        """Give by how much points (n, 2) of the page are seen shifted, (n, 2) in mm."""
        return np.asarray(self.shift(points_mm))


def fit_bend(
    points_mm: Floats, shifts_mm: Floats, sigma_mm: Floats, parameters: PlaceParameters = PLACE
) -> Bend | None:
    """Fit a plate to shifts (n, 2) seen at points (n, 2), leaving out what doesn't belong.

    A thin plate (Duchon 1977; Wahba 1990), smoothed by how sure each landmark is.
    """
    kept = np.ones(len(points_mm), dtype=bool)
    found = None
    for _ in range(parameters.rounds):
        if kept.sum() < parameters.fewest_landmarks:
            return found
        shift = _plate(points_mm[kept], shifts_mm[kept], sigma_mm[kept], parameters)
        miss = np.linalg.norm(shifts_mm - shift(points_mm), axis=1)
        middle = float(np.median(miss[kept]))
        found = Bend(shift=shift, misfit_mm=middle)
        again = miss < np.maximum(parameters.far * max(middle, parameters.least_mm), 2.0 * sigma_mm)
        if np.array_equal(again, kept):
            break
        kept = again
    return found


def _plate(
    points_mm: Floats, shifts_mm: Floats, sigma_mm: Floats, parameters: PlaceParameters
) -> Callable[[Floats], Floats]:
    """Solve for a plate; written out, for the library's takes longer to import than to read by."""
    points, count = points_mm / _SCALE_MM, len(points_mm)
    system = np.zeros((count + _PLANE, count + _PLANE))
    smooth = np.diag(parameters.smooth * (sigma_mm / parameters.sure_mm) ** 2)
    system[:count, :count] = _bending(points, points) + smooth
    system[:count, count:] = _plane(points)
    system[count:, :count] = _plane(points).T
    wanted = np.concatenate([shifts_mm, np.zeros((_PLANE, shifts_mm.shape[1]))])
    weights = np.linalg.solve(system, wanted)

    def shift(at_mm: Floats) -> Floats:
        at = at_mm / _SCALE_MM
        return np.asarray(_bending(at, points) @ weights[:count] + _plane(at) @ weights[count:])

    return shift


def _bending(left: Floats, right: Floats) -> Floats:
    """Give r squared times the logarithm of r between points, (n, m)."""
    squares = np.sum((left[:, None] - right) ** 2, axis=-1)
    return np.asarray(0.5 * squares * np.log(np.where(squares > 0.0, squares, 1.0)))


def _plane(points: Floats) -> Floats:
    return np.column_stack([np.ones(len(points)), points])
