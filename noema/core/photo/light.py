"""The light on the page, fitted to blank paper.

A quadratic surface in the logarithm of each channel takes the lamps, a Gaussian process
what is left: soft shadows, bent paper, the corners of the lens. How sure it is away from paper goes
into each cell's sigma.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.errors import BadSheet
from noema.core.language import gettext
from noema.core.photo.parameters.light import LIGHT, LightParameters
from noema.core.statistics.gaussian import (
    leave_one_out,
    negative_log_likelihood,
    squared_exponential,
)
from noema.core.statistics.robust import TrimmedFit, robust_sigma, trimmed_fit

Floats = NDArray[np.float64]

_COARSE = 48  # points a side at which the field is worked out before it is widened


@dataclass(frozen=True, kw_only=True, eq=False)
class LightField:
    """A smooth light over the page."""

    coefficients: Floats  # (6, 3) of the surface
    size_mm: tuple[float, float]
    points_mm: Floats  # (n, 2) blank paper
    pull: Floats  # (n, 3) what each point adds round itself
    precision: Floats  # (n, n) inverse of what points have in common
    amplitude: float
    parameters: LightParameters
    miss: Floats  # (n, 3) logarithm of paper's light less what all other paper makes of it

    def at(self, points_mm: Floats) -> Floats:
        """Give the linear camera RGB of blank paper at points (n, 2), shape (n, 3)."""
        near = _kernel(points_mm, self.points_mm, self.amplitude, self.parameters)
        return np.asarray(
            np.exp(_terms(points_mm, self.size_mm) @ self.coefficients + near @ self.pull)
        )

    @property
    def middle(self) -> float:
        """The light on paper in the middle of the page, as the camera recorded it, 0..1."""
        return float(self.at(np.array([self.size_mm]) / 2.0).mean())

    def over(self, width_px: int, height_px: int) -> NDArray[np.float32]:
        """Give the field for a straightened picture of the whole page, (h, w, 3)."""
        across = (np.arange(_COARSE) + 0.5) / _COARSE
        x, y = across * self.size_mm[0], across * self.size_mm[1]
        # On a grid the process is a product of one along the page and one across it.
        along, down = (
            _falling(s[:, None] - p, self.parameters)
            for s, p in zip((x, y), self.points_mm.T, strict=True)
        )
        drawn = np.einsum("ij,jc,kj->ikc", down, self.pull, along, optimize=True)
        grid = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
        surface = (_terms(grid, self.size_mm) @ self.coefficients).reshape(_COARSE, _COARSE, 3)
        coarse = np.exp(surface + self.amplitude**2 * drawn).astype(np.float32)
        wide = cv2.resize(coarse, (width_px, height_px), interpolation=cv2.INTER_LINEAR)
        return np.asarray(wide, dtype=np.float32)

    def sigma_at(self, points_mm: Floats) -> Floats:
        """Give one sigma of the field's logarithm at points (n, 2), shape (n,)."""
        near = _kernel(points_mm, self.points_mm, self.amplitude, self.parameters)
        known = np.einsum("ij,jk,ik->i", near, self.precision, near)
        far = np.sqrt(np.maximum(self.amplitude**2 - known, 0.0))
        beside = [self.scatter_beside(point) for point in points_mm]
        return np.asarray(np.hypot(far, beside))

    def scatter_beside(self, point_mm: Floats) -> float:
        """Give how much paper about a point departs from the field, in logarithm."""
        near = self._beside(point_mm)
        if len(near) < self.parameters.fewest_beside:
            return self.parameters.floor
        return max(float(robust_sigma(near)), self.parameters.floor)

    def step_beside(self, point_mm: Floats) -> float:
        """Give by how much paper on two sides of a point departs differently: a shadow's edge."""
        near = self._beside(point_mm)
        if len(near) < self.parameters.fewest_beside:
            return 0.0
        low, high = np.percentile(near, [20, 80])
        return float(high - low)

    def _beside(self, point_mm: Floats) -> Floats:
        away = np.linalg.norm(self.points_mm - point_mm, axis=1)
        nearest = np.argsort(away, kind="stable")[: self.parameters.nearest]
        return np.asarray(
            self.miss[nearest[away[nearest] < self.parameters.beside_mm]].mean(axis=1)
        )


def fit_light(
    points_mm: Floats,
    paper_rgb: Floats,
    size_mm: tuple[float, float],
    parameters: LightParameters = LIGHT,
) -> LightField:
    """Fit the field to the linear RGB (n, 3) of paper at points (n, 2), ignoring marked paper."""
    if len(points_mm) < parameters.fewest_points:
        raise BadSheet(
            gettext(
                "The layout names %(count)s places of blank paper that can be "
                "seen: at least %(fewest_points)s are needed to judge the light.",
                count=len(points_mm),
                fewest_points=parameters.fewest_points,
            )
        )
    kept = slice(None, None, 1 + len(points_mm) // parameters.most_points)
    points, logs = points_mm[kept], np.log(np.maximum(paper_rgb[kept], 1e-5))
    terms = _terms(points, size_mm)
    noise = np.full(len(points), parameters.floor**2)
    surface = trimmed_fit(
        terms, logs, far=2.0 * parameters.far, least=parameters.floor, rounds=parameters.rounds
    )
    alike = _kernel(points, points, 1.0, parameters)
    amplitude = min(
        parameters.amplitudes,
        key=lambda one: _unlikeliness(one**2 * alike, surface, parameters),
    )
    shared = amplitude**2 * alike
    found = leave_one_out(shared, noise, surface.left)
    for _ in range(parameters.rounds):
        size = np.linalg.norm(found.miss, axis=1) / np.sqrt(3.0)
        usual = max(float(robust_sigma(size)), parameters.floor)
        # Paper is never brighter than itself: what lies far off is pencil, paint or an edge.
        noise = parameters.floor**2 + usual**2 * (1.0 + (size / (parameters.far * usual)) ** 4)
        found = leave_one_out(shared, noise, surface.left)
    return LightField(
        coefficients=surface.coefficients,
        size_mm=size_mm,
        points_mm=points,
        pull=found.weights,
        precision=found.precision,
        amplitude=amplitude,
        parameters=parameters,
        miss=found.miss,
    )


def _unlikeliness(shared: Floats, surface: TrimmedFit, parameters: LightParameters) -> float:
    """Score what neighbours share: less is more likely, with long tails cut."""
    cut = np.clip(surface.left, -8.0 * surface.sigma, 8.0 * surface.sigma)
    # Scatter a few times the floor is noise; what neighbours share is light.
    noise = np.full(len(cut), (2.0 * parameters.floor) ** 2)
    return negative_log_likelihood(cut, shared + np.diag(noise))


def _kernel(
    left_mm: Floats, right_mm: Floats, amplitude: float, parameters: LightParameters
) -> Floats:
    across, down = (_falling(left_mm[:, None, n] - right_mm[:, n], parameters) for n in (0, 1))
    return np.asarray(amplitude**2 * across * down)


def _falling(away_mm: Floats, parameters: LightParameters) -> Floats:
    return squared_exponential(away_mm[..., None], parameters.length_mm)


def _terms(points_mm: Floats, size_mm: tuple[float, float]) -> Floats:
    x, y = (points_mm / np.array(size_mm) * 2.0 - 1.0).T
    return np.stack([np.ones_like(x), x, y, x * x, y * y, x * y], axis=1)
