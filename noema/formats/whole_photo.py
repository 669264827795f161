"""Whether a file opens as a photograph, whole: found out in a process of its own.

Run: python -m noema.formats.whole_photo MEMORY_MB SECONDS, with the file as input. It imports
little, so that it starts fast.
"""

import re
import struct
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from io import BytesIO

from PIL import Image, UnidentifiedImageError
from pillow_heif import register_heif_opener

from noema.core.errors import BadPicture
from noema.core.language import N_, gettext
from noema.formats.apart import refuse, take_limited

register_heif_opener(thumbnails=False)

FORMATS = ("JPEG", "PNG", "WEBP", "HEIF")
MOST_MEGAPIXELS = 60.0
LEAST_SIDE_PX = 400
_MOST_SCANS = 64  # of a JPEG: cameras write ten at most
_SCAN = re.compile(rb"\xff\xda")

_DAMAGED = (
    OSError,
    SyntaxError,
    ValueError,
    EOFError,
    struct.error,
    IndexError,
    KeyError,
    RuntimeError,  # what the HEIC decoder says of sizes its file lies about
)
_TOO_LARGE = N_(
    "The picture says it has more pixels than any sheet needs: send one of at most %(most)s "
    "megapixels."
)


@dataclass(frozen=True, kw_only=True)
class PhotoFile:
    """A file that opens as a photograph."""

    width_px: int
    height_px: int
    icc: bytes | None  # its colour profile
    coded_by: str  # one of FORMATS

    @property
    def megapixels(self) -> float:
        """Its size."""
        return self.width_px * self.height_px / 1e6


@contextmanager
def opened(
    data: bytes, least_side_px: int = LEAST_SIDE_PX
) -> Iterator[tuple[Image.Image, PhotoFile]]:
    """Open a file by its header; what is wrong with it, there or later, is said in a sentence."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(BytesIO(data), formats=FORMATS) as image:
                yield image, _header(image, least_side_px)
    except Image.DecompressionBombError as wrong:
        raise BadPicture(gettext(_TOO_LARGE, most=f"{MOST_MEGAPIXELS:.0f}")) from wrong
    except UnidentifiedImageError as wrong:
        raise BadPicture(
            gettext("This is no JPEG, PNG, HEIC or WebP picture: choose a photograph.")
        ) from wrong
    except _DAMAGED as wrong:
        raise BadPicture(gettext("The picture is damaged or cut short: send it again.")) from wrong


def _header(image: Image.Image, least_side_px: int) -> PhotoFile:
    width, height = image.size
    if width * height / 1e6 > MOST_MEGAPIXELS:
        raise BadPicture(gettext(_TOO_LARGE, most=f"{MOST_MEGAPIXELS:.0f}"))
    if min(width, height) < least_side_px:
        raise BadPicture(
            gettext(
                "The picture is only %(width)s × %(height)s pixels: take it with "
                "the camera itself.",
                width=width,
                height=height,
            )
        )
    icc = image.info.get("icc_profile")
    return PhotoFile(
        width_px=width,
        height_px=height,
        icc=icc if isinstance(icc, bytes) and icc else None,
        coded_by=image.format or "JPEG",
    )


def open_whole(data: bytes) -> None:
    """Open a file to its end."""
    with opened(data) as (image, found):
        if found.coded_by == "JPEG" and len(_SCAN.findall(data)) > _MOST_SCANS:
            raise BadPicture(
                gettext("The picture is coded in more passes than any camera's: send the original.")
            )
        if found.coded_by in ("PNG", "WEBP") and getattr(image, "n_frames", 1) > 1:
            raise BadPicture(gettext("The file is a moving picture: send a photograph."))
        # A JPEG drawn at an eighth is read to its end all the same, in a fraction of the time.
        image.draft("RGB", (found.width_px // 8, found.height_px // 8))
        image.load()


def main() -> None:
    """Open what comes in, within the limits given."""
    try:
        open_whole(take_limited())
    except BadPicture as wrong:
        refuse(str(wrong))


if __name__ == "__main__":
    main()
