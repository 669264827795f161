"""Photograph bytes to pixels, no larger than the reader can use."""

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.errors import BadPicture

_ENOUGH_MEGAPIXELS = 8.0
"""Halving a picture above this still leaves more pixels on the sheet than are straightened."""


def decode_picture(data: bytes, megapixels: float) -> NDArray[np.uint8]:
    """Decode a JPEG or PNG of a stated size to RGB bytes (h, w, 3), upright as EXIF says."""
    flag = cv2.IMREAD_COLOR_RGB
    if megapixels > _ENOUGH_MEGAPIXELS:
        # Reduced decoding averages 2 x 2 pixels, which also calms the camera's noise.
        flag = cv2.IMREAD_REDUCED_COLOR_2
    if megapixels > 4.0 * _ENOUGH_MEGAPIXELS:
        flag = cv2.IMREAD_REDUCED_COLOR_4
    try:
        picture = cv2.imdecode(np.frombuffer(data, dtype=np.uint8), flag)
    except cv2.error as wrong:
        raise BadPicture("The picture can't be opened: photograph the sheet again.") from wrong
    if picture is None:
        raise BadPicture("The picture can't be opened: photograph the sheet again.")
    if flag != cv2.IMREAD_COLOR_RGB:
        picture = cv2.cvtColor(picture, cv2.COLOR_BGR2RGB)
    return np.asarray(picture, dtype=np.uint8)
