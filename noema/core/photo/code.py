"""The QR code on a sheet."""

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.parameters.identify import IDENTIFY, IdentifyParameters
from noema.core.photo.straighten import Placed, straighten
from noema.core.sheet.layout import Polygon


def read_code(
    picture: NDArray[np.uint8],
    placed: Placed,
    square_mm: Polygon,
    parameters: IdentifyParameters = IDENTIFY,
) -> str | None:
    """Read the QR code standing at a known square of the page, or give None."""
    (left, top), (right, bottom) = square_mm[0], square_mm[2]
    size = (right - left + 2 * parameters.quiet_mm, bottom - top + 2 * parameters.quiet_mm)
    corner = (left - parameters.quiet_mm, top - parameters.quiet_mm)
    quick, thorough = cv2.QRCodeDetectorAruco(), cv2.QRCodeDetector()
    for detector, calmed in ((quick, False), (thorough, False), (quick, True), (thorough, True)):
        for px_per_mm in parameters.code_px_per_mm:
            flat = straighten(picture, placed, size, corner, px_per_mm)
            look = cv2.cvtColor(flat, cv2.COLOR_RGB2GRAY)
            if calmed:
                look = cv2.GaussianBlur(look, (0, 0), parameters.calmed_px)
            text, _, _ = detector.detectAndDecode(look)
            if text:
                return str(text)
    return None
