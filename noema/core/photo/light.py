"""The light on the page, evened out from blank paper.

A quadratic surface in the logarithm of each channel takes the lamps, a Gaussian process (Rasmussen
and Williams 2006, equations 2.23 and 2.24) what is left: soft shadows, bent paper, the corners of
the lens. How sure it is away from paper goes into each cell's sigma.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.errors import BadSheet

Floats = NDArray[np.float64]

_TERMS = 6
_COARSE = 48  # points a side at which the field is worked out before it is widened
_ROUNDS = 4
_FEWEST = 8  # points of paper: two more than the surface has terms
_MOST = 300  # more points add time, not knowledge
_FAR = 3.0  # scaled median deviations beyond which a paper patch is taken as marked or shaded
_FLOOR = 0.004  # of the logarithm of light: what even clean paper scatters
_LENGTH_MM = 32.0  # over which shadows and bends change
_AMPLITUDES = (0.003, 0.01, 0.03, 0.08, 0.2)  # of what the surface leaves, logarithm of light
_NEAREST, _BESIDE_MM = 10, 24.0  # points of paper that speak for a place
_FEWEST_BESIDE = 3


@dataclass(frozen=True, kw_only=True, eq=False)
class LightField:
    """A smooth light over the page."""

    coefficients: Floats  # (6, 3) of the surface
    size_mm: tuple[float, float]
    points_mm: Floats  # (n, 2) blank paper
    pull: Floats  # (n, 3) what each point adds round itself
    precision: Floats  # (n, n) inverse of what points have in common
    amplitude: float
    miss: Floats  # (n, 3) logarithm of paper's light less what all other paper makes of it

    def at(self, points_mm: Floats) -> Floats:
        """Give the linear camera RGB of blank paper at points (n, 2), shape (n, 3)."""
        near = _kernel(points_mm, self.points_mm, self.amplitude)
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
            _falling(s[:, None] - p) for s, p in zip((x, y), self.points_mm.T, strict=True)
        )
        drawn = np.einsum("ij,jc,kj->ikc", down, self.pull, along, optimize=True)
        grid = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
        surface = (_terms(grid, self.size_mm) @ self.coefficients).reshape(_COARSE, _COARSE, 3)
        coarse = np.exp(surface + self.amplitude**2 * drawn).astype(np.float32)
        wide = cv2.resize(coarse, (width_px, height_px), interpolation=cv2.INTER_LINEAR)
        return np.asarray(wide, dtype=np.float32)

    def sigma_at(self, points_mm: Floats) -> Floats:
        """Give one sigma of the field's logarithm at points (n, 2), shape (n,)."""
        near = _kernel(points_mm, self.points_mm, self.amplitude)
        known = np.einsum("ij,jk,ik->i", near, self.precision, near)
        far = np.sqrt(np.maximum(self.amplitude**2 - known, 0.0))
        beside = [self.scatter_beside(point) for point in points_mm]
        return np.asarray(np.hypot(far, beside))

    def scatter_beside(self, point_mm: Floats) -> float:
        """Give how much paper about a point departs from the field, in logarithm."""
        near = self._beside(point_mm)
        if len(near) < _FEWEST_BESIDE:
            return _FLOOR
        return float(max(1.4826 * np.median(np.abs(near)), _FLOOR))

    def step_beside(self, point_mm: Floats) -> float:
        """Give by how much paper on two sides of a point departs differently: a shadow's edge."""
        near = self._beside(point_mm)
        if len(near) < _FEWEST_BESIDE:
            return 0.0
        low, high = np.percentile(near, [20, 80])
        return float(high - low)

    def _beside(self, point_mm: Floats) -> Floats:
        away = np.linalg.norm(self.points_mm - point_mm, axis=1)
        nearest = np.argsort(away, kind="stable")[:_NEAREST]
        return np.asarray(self.miss[nearest[away[nearest] < _BESIDE_MM]].mean(axis=1))


def fit_light(points_mm: Floats, paper_rgb: Floats, size_mm: tuple[float, float]) -> LightField:
    """Fit the field to the linear RGB (n, 3) of paper at points (n, 2), ignoring marked paper."""
    if len(points_mm) < _FEWEST:
        raise BadSheet(
            f"The layout names {len(points_mm)} places of blank paper that can be seen: at least "
            f"{_FEWEST} are needed to judge the light."
        )
    kept = slice(None, None, 1 + len(points_mm) // _MOST)
    points, logs = points_mm[kept], np.log(np.maximum(paper_rgb[kept], 1e-5))
    terms = _terms(points, size_mm)
    noise = np.full(len(points), _FLOOR**2)
    coefficients, left, spread = _surface(terms, logs)
    alike = _kernel(points, points, 1.0)
    amplitude = min(
        _AMPLITUDES, key=lambda one: _negative_log_likelihood(one**2 * alike, left, spread)
    )
    shared = amplitude**2 * alike
    precision, pull, miss = _pulled(shared, noise, left)
    for _ in range(_ROUNDS):
        size = np.linalg.norm(miss, axis=1) / np.sqrt(3.0)
        usual = max(1.4826 * float(np.median(size)), _FLOOR)
        # Paper is never brighter than itself: what lies far off is pencil, paint or an edge.
        noise = _FLOOR**2 + usual**2 * (1.0 + (size / (_FAR * usual)) ** 4)
        precision, pull, miss = _pulled(shared, noise, left)
    return LightField(
        coefficients=coefficients,
        size_mm=size_mm,
        points_mm=points,
        pull=pull,
        precision=precision,
        amplitude=amplitude,
        miss=miss,
    )


def _pulled(shared: Floats, noise: Floats, left: Floats) -> tuple[Floats, Floats, Floats]:
    """Give the precision, each point's pull, and what all others miss of it (equation 5.12)."""
    precision = np.asarray(np.linalg.inv(shared + np.diag(noise)), dtype=np.float64)
    pull = np.asarray(precision @ left)
    return precision, pull, np.asarray(pull / np.diag(precision)[:, None])


def _surface(terms: Floats, logs: Floats) -> tuple[Floats, Floats, float]:
    """Fit the lamps' surface; also give what it leaves (n, 3) and that scatter's size."""
    weight = np.ones(len(logs))
    coefficients = np.zeros((_TERMS, 3))
    left, spread = logs, _FLOOR
    for _ in range(_ROUNDS):
        solved = np.linalg.lstsq(terms * weight[:, None], logs * weight[:, None])[0]
        coefficients = np.asarray(solved, dtype=np.float64)
        left = logs - terms @ coefficients
        size = np.linalg.norm(left, axis=1) / np.sqrt(3.0)
        spread = max(1.4826 * float(np.median(size)), _FLOOR)
        weight = (size < 2.0 * _FAR * spread).astype(float)
    return coefficients, left, spread


def _negative_log_likelihood(shared: Floats, left: Floats, spread: float) -> float:
    """Score what neighbours share: less is more likely, with long tails cut."""
    cut = np.clip(left, -8.0 * spread, 8.0 * spread)
    # Scatter a few times the floor is noise; what neighbours share is light.
    noise = np.full(len(left), (2.0 * _FLOOR) ** 2)
    together = shared + np.diag(noise)
    fit = float(np.sum(cut * np.linalg.solve(together, cut)))
    return fit / 3.0 + 2.0 * float(np.sum(np.log(np.diag(np.linalg.cholesky(together)))))


def _kernel(left_mm: Floats, right_mm: Floats, amplitude: float) -> Floats:
    across, down = (_falling(left_mm[:, None, n] - right_mm[:, n]) for n in (0, 1))
    return np.asarray(amplitude**2 * across * down)


def _falling(away_mm: Floats) -> Floats:
    return np.asarray(np.exp(-0.5 * (away_mm / _LENGTH_MM) ** 2))


def _terms(points_mm: Floats, size_mm: tuple[float, float]) -> Floats:
    x, y = (points_mm / np.array(size_mm) * 2.0 - 1.0).T
    return np.stack([np.ones_like(x), x, y, x * x, y * y, x * y], axis=1)
