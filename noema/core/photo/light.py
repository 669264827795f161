"""The light on the page, evened out from blank paper."""

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
_FAR = 3.0  # scaled median deviations beyond which a paper patch is taken as marked or shaded
_FLOOR = 0.004  # of the logarithm of light: what even clean paper scatters


@dataclass(frozen=True, kw_only=True, eq=False)
class LightField:
    """A smooth light over the page, a quadratic surface in the logarithm of each channel."""

    coefficients: Floats  # (6, 3)
    size_mm: tuple[float, float]
    scatter: float  # one sigma of the logarithm of light that the surface leaves unexplained

    def at(self, points_mm: Floats) -> Floats:
        """Give the linear camera RGB of blank paper at points (n, 2), shape (n, 3)."""
        return np.exp(_terms(points_mm, self.size_mm) @ self.coefficients)

    def over(self, width_px: int, height_px: int) -> NDArray[np.float32]:
        """Give the field for a straightened picture of the whole page, (h, w, 3)."""
        across = (np.arange(_COARSE) + 0.5) / _COARSE
        x, y = np.meshgrid(across * self.size_mm[0], across * self.size_mm[1])
        points = np.stack([x.ravel(), y.ravel()], axis=1)
        coarse = self.at(points).reshape(_COARSE, _COARSE, 3).astype(np.float32)
        wide = cv2.resize(coarse, (width_px, height_px), interpolation=cv2.INTER_LINEAR)
        return np.asarray(wide, dtype=np.float32)


def _terms(points_mm: Floats, size_mm: tuple[float, float]) -> Floats:
    x, y = (points_mm / np.array(size_mm) * 2.0 - 1.0).T
    return np.stack([np.ones_like(x), x, y, x * x, y * y, x * y], axis=1)


def fit_light(points_mm: Floats, paper_rgb: Floats, size_mm: tuple[float, float]) -> LightField:
    """Fit the field to the linear RGB (n, 3) of paper at points (n, 2), ignoring marked paper."""
    if len(points_mm) < _FEWEST:
        raise BadSheet(
            f"The layout names {len(points_mm)} places of blank paper that can be seen: at least "
            f"{_FEWEST} are needed to judge the light."
        )
    terms = _terms(points_mm, size_mm)
    logs = np.log(np.maximum(paper_rgb, 1e-5))
    weight = np.ones(len(logs))
    coefficients = np.zeros((_TERMS, 3))
    residual = np.zeros(len(logs))
    for _ in range(_ROUNDS):
        solved = np.linalg.lstsq(terms * weight[:, None], logs * weight[:, None])[0]
        coefficients = np.asarray(solved, dtype=np.float64)
        residual = (logs - terms @ coefficients).mean(axis=1)
        spread = max(1.4826 * float(np.median(np.abs(residual))), _FLOOR)
        # Paper is never brighter than itself: dark outliers are pencil, paint or shadow.
        weight = (np.abs(residual) < _FAR * spread).astype(float)
    kept = residual[weight > 0]
    scatter = float(np.sqrt(np.mean(kept**2))) if len(kept) > _TERMS else 0.05
    return LightField(coefficients=coefficients, size_mm=size_mm, scatter=scatter)
