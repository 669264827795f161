"""Photograph bytes to pixels, no larger than the reader can use."""

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.errors import BadPicture
from noema.core.language import N_, gettext

ENOUGH_MEGAPIXELS = 8.0
"""Halving a picture above this still leaves more pixels on the sheet than are straightened."""

_CANT = N_("The picture can't be opened: photograph the sheet again.")


def decode_picture(data: bytes, megapixels: float) -> NDArray[np.uint8]:
    """Decode a JPEG, PNG or WebP of a stated size to RGB bytes (h, w, 3), upright as EXIF says."""
    flag = {1: cv2.IMREAD_COLOR_RGB, 2: cv2.IMREAD_REDUCED_COLOR_2, 4: cv2.IMREAD_REDUCED_COLOR_4}[
        halvings(megapixels)
    ]
    try:
        # Reduced decoding averages 2 x 2 pixels, which also calms the camera's noise.
        picture = cv2.imdecode(np.frombuffer(data, dtype=np.uint8), flag)
    except cv2.error as wrong:
        raise BadPicture(gettext(_CANT)) from wrong
    if picture is None:
        raise BadPicture(gettext(_CANT))
    if flag != cv2.IMREAD_COLOR_RGB:
        picture = cv2.cvtColor(picture, cv2.COLOR_BGR2RGB)
    return np.asarray(picture, dtype=np.uint8)


def halvings(megapixels: float) -> int:
    """Say by what a picture's sides are divided: 1, 2 or 4."""
    if megapixels <= ENOUGH_MEGAPIXELS:
        return 1
    return 2 if megapixels <= 4.0 * ENOUGH_MEGAPIXELS else 4


def made_smaller(rgb: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """Bring RGB bytes (h, w, 3) decoded elsewhere to the size the reader uses."""
    by = halvings(rgb.shape[0] * rgb.shape[1] / 1e6)
    if by == 1:
        return rgb
    size = (rgb.shape[1] // by, rgb.shape[0] // by)
    return np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
