"""What a file's numbers mean: ICC profiles (ICC.1:2022) through a colour management library."""

from dataclasses import dataclass
from functools import lru_cache, partial

import cv2
import numpy as np
import pyvips
from numpy.typing import NDArray

from noema.core.colour.adaptation import D65_TO_D50
from noema.core.colour.srgb import LINEAR_TO_XYZ_D65
from noema.core.colour.wide import XYZ_D50_TO_WIDE
from noema.core.photo.picture import Linearise, linear_of_srgb

_SRGB = (LINEAR_TO_XYZ_D65.T / 100.0).astype(np.float32)
_COLOUR_SPACE = slice(16, 20)  # of a profile's head: which numbers it speaks of
_ALIKE = 0.004  # linear: so close to sRGB, or to a curve a channel, a profile is that
_REMEMBERED = 16  # profiles: a class's phones have few
_PURE = np.array([[[255, 0, 0], [0, 255, 0], [0, 0, 255]]], np.uint8)
_RAMPS = np.stack(
    [np.arange(0, 256, 15)[:, None] * row for row in ([1, 1, 1], *np.eye(3))], axis=0
).astype(np.uint8)

_EACH = np.stack([np.arange(256)[:, None] * row for row in np.eye(3)], axis=0).astype(np.uint8)
_MIXED = np.stack(np.meshgrid(*[np.arange(0, 256, 51).astype(np.uint8)] * 3), axis=-1).reshape(
    1, -1, 3
)

pyvips.cache_set_max(0)  # photographs don't come twice


@dataclass(frozen=True, kw_only=True, eq=False)
class FileSpace:
    """What a file's numbers mean."""

    linear: Linearise
    to_wide: NDArray[np.float64]  # (3, 3) from its linear channels to linear BT.2020


@lru_cache(maxsize=_REMEMBERED)
def space_of(icc: bytes) -> FileSpace | None:
    """Give what an RGB profile says; None for sRGB and for a profile that can't be used."""
    if icc[_COLOUR_SPACE] != b"RGB ":
        return None
    try:
        pure = _xyz_d65(_PURE, icc)[0]
        if not np.isfinite(pure).all() or abs(np.linalg.det(pure)) < _ALIKE:
            return None
        if np.abs(_xyz_d65(_RAMPS, icc) - linear_of_srgb(_RAMPS) @ _SRGB).max() < _ALIKE:
            return None
    except pyvips.Error:
        return None
    back = np.linalg.inv(pure).astype(np.float32)
    return FileSpace(
        linear=_linearise(icc, back),
        to_wide=np.asarray(XYZ_D50_TO_WIDE @ D65_TO_D50 @ (100.0 * pure.T)),
    )


def _linearise(icc: bytes, back: NDArray[np.float32]) -> Linearise:
    """Give a table where a profile has a curve a channel, as phones' have; else the profile."""
    each = _linear(_EACH, icc, back)
    curves = np.stack([each[n, :, n] for n in range(3)], axis=-1)[None]
    by_curves = partial(_by_curves, curves=curves)
    if np.abs(by_curves(_MIXED) - _linear(_MIXED, icc, back)).max() < _ALIKE:
        return by_curves
    return partial(_linear, icc=icc, back=back)


def _by_curves(rgb: NDArray[np.uint8], curves: NDArray[np.float32]) -> NDArray[np.float32]:
    return np.asarray(cv2.LUT(rgb, curves), dtype=np.float32)


def _linear(rgb: NDArray[np.uint8], icc: bytes, back: NDArray[np.float32]) -> NDArray[np.float32]:
    return np.asarray(_xyz_d65(rgb, icc) @ back, dtype=np.float32)


def _xyz_d65(rgb: NDArray[np.uint8], icc: bytes) -> NDArray[np.float32]:
    """Give XYZ under D65, white Y = 1, of bytes (h, w, 3)."""
    height, width, bands = rgb.shape
    given = pyvips.Image.new_from_memory(
        np.ascontiguousarray(rgb).tobytes(), width, height, bands, "uchar"
    ).copy(interpretation="srgb")
    given.set_type(pyvips.GValue.blob_type, "icc-profile-data", icc)
    # Floating point all the way, so nothing is cut to the colours of a screen.
    xyz = given.icc_import(pcs="xyz", intent="relative", embedded=True)
    values = np.frombuffer(xyz.write_to_memory(), dtype=np.float32).reshape(height, width, 3)
    return np.asarray(values / np.float32(100.0), dtype=np.float32)
