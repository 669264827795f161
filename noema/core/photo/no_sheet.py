"""Why no sheet was found in a photograph."""

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.parameters.identify import IDENTIFY, IdentifyParameters
from noema.core.photo.reading import SheetFlag


def why_no_sheet(
    picture: NDArray[np.uint8], some_marks: bool, parameters: IdentifyParameters = IDENTIFY
) -> tuple[SheetFlag, ...]:
    """Say what may have hidden a sheet that wasn't found in an RGB picture (h, w, 3)."""
    if float(np.percentile(picture[::8, ::8], 95)) < parameters.dark_byte:
        return (SheetFlag.NO_SHEET, SheetFlag.DARK)
    if _is_soft(picture, parameters):
        return (SheetFlag.NO_SHEET, SheetFlag.BLURRED)
    return (SheetFlag.NO_SHEET, SheetFlag.CROPPED) if some_marks else (SheetFlag.NO_SHEET,)


def _is_soft(picture: NDArray[np.uint8], parameters: IdentifyParameters) -> bool:
    """Whether there is light and dark in a picture but no edge between them."""
    scale = parameters.soft_side_px / max(picture.shape[:2])
    small = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    calm = cv2.GaussianBlur(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), (0, 0), 1.0)
    low, high = np.percentile(calm, [2, 98])
    edges = np.percentile(np.abs(cv2.Laplacian(calm, cv2.CV_64F)), 99.5)
    return bool(high - low > parameters.soft_contrast and edges < parameters.soft_edge)
