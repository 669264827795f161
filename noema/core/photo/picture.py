"""A photograph as pixels, with what its numbers mean."""

from collections.abc import Callable
from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.colour.srgb import srgb_to_linear
from noema.core.colour.wide import SRGB_TO_WIDE

Bytes = NDArray[np.uint8]
Linearise = Callable[[Bytes], NDArray[np.float32]]
"""From a file's bytes (h, w, 3) to its own channels made linear (h, w, 3), white at 1."""

_LINEAR = srgb_to_linear(np.arange(256) / 255.0).astype(np.float32)


def linear_of_srgb(rgb: Bytes) -> NDArray[np.float32]:
    """Undo the sRGB curve, for files that don't say what they are."""
    return np.asarray(cv2.LUT(rgb, _LINEAR), dtype=np.float32)


@dataclass(frozen=True, kw_only=True, eq=False)
class Picture:
    """A photograph, upright."""

    rgb: Bytes  # (h, w, 3) as the file has them
    linear: Linearise = linear_of_srgb
    to_wide: NDArray[np.float64] = field(default_factory=lambda: SRGB_TO_WIDE)  # (3, 3)
    icc: bytes | None = None  # the file's colour profile, where `linear` follows one
    camera: str = ""  # make and model of what took it, as the file says
