"""Files that should be photographs: looked at before anything is believed."""

import warnings
from dataclasses import dataclass
from io import BytesIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from noema.core.errors import BadPicture

FORMATS = ("JPEG", "PNG")
MOST_BYTES = 30 * 1024 * 1024
MOST_MEGAPIXELS = 60.0
LEAST_SIDE_PX = 400

_TOO_LARGE = (
    "The picture says it has more pixels than any sheet needs: send one of at most "
    f"{MOST_MEGAPIXELS:.0f} megapixels."
)


@dataclass(frozen=True, kw_only=True)
class PhotoFile:
    """A file that opens as a photograph."""

    width_px: int
    height_px: int

    @property
    def megapixels(self) -> float:
        """Its size."""
        return self.width_px * self.height_px / 1e6


def check_photo(data: bytes) -> PhotoFile:
    """Look at a file's header, then open it whole; refuse it in a sentence that says why."""
    if not data:
        raise BadPicture("The file is empty: choose the photograph again.")
    if len(data) > MOST_BYTES:
        raise BadPicture("The file is over 30 MB: send a smaller photograph.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            return _checked(data)
    except Image.DecompressionBombError as wrong:
        raise BadPicture(_TOO_LARGE) from wrong
    except UnidentifiedImageError as wrong:
        raise BadPicture("This is no JPEG or PNG picture: choose a photograph.") from wrong
    except (OSError, SyntaxError, ValueError, EOFError) as wrong:
        raise BadPicture("The picture is damaged or cut short: send it again.") from wrong


def _checked(data: bytes) -> PhotoFile:
    with Image.open(BytesIO(data), formats=FORMATS) as image:
        width, height = image.size
        if width * height / 1e6 > MOST_MEGAPIXELS:
            raise BadPicture(_TOO_LARGE)
        if min(width, height) < LEAST_SIDE_PX:
            raise BadPicture(
                f"The picture is only {width} × {height} pixels: take it with the camera itself."
            )
        # A JPEG drawn at an eighth is read to its end all the same, in a fraction of the time.
        image.draft("RGB", (width // 8, height // 8))
        image.load()
    return PhotoFile(width_px=width, height_px=height)


def jpeg_bytes(rgb: NDArray[np.uint8]) -> bytes:
    """Write pixels (h, w, 3) as a JPEG for people to look at."""
    out = BytesIO()
    Image.fromarray(rgb).save(out, "JPEG", quality=88)
    return out.getvalue()
