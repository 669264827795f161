"""Files that should be photographs: looked at before anything is believed."""

from io import BytesIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from noema.core.errors import BadPicture
from noema.core.language import gettext
from noema.core.photo.decode import decode_picture, made_smaller
from noema.core.photo.picture import Picture
from noema.formats import whole_photo
from noema.formats.apart import Limits, opened_apart
from noema.formats.colour_profile import space_of
from noema.formats.private_parts import without_private
from noema.formats.whole_photo import LEAST_SIDE_PX, PhotoFile, opened

MOST_BYTES = 30 * 1024 * 1024
_LIMITS = Limits(memory_mb=700, time_s=10)


def check_photo(data: bytes) -> PhotoFile:
    """Open a file whole, in a process of its own; refuse it in a sentence that says why."""
    if not data:
        raise BadPicture(gettext("The file is empty: choose the photograph again."))
    if len(data) > MOST_BYTES:
        raise BadPicture(gettext("The file is over 30 MB: send a smaller photograph."))
    opened_apart(whole_photo.__name__, data, _LIMITS)
    with opened(data) as (_, found):
        return found


def open_photo(data: bytes, least_side_px: int = LEAST_SIDE_PX) -> Picture:
    """Open a file that was checked, upright, with what its numbers mean."""
    with opened(data, least_side_px) as (image, found):
        camera = _camera_of(image)
        if found.coded_by == "HEIF":
            # Its own turn is in the file's frame and already followed; EXIF only repeats it.
            rgb = made_smaller(np.asarray(image.convert("RGB"), dtype=np.uint8))
        else:
            rgb = decode_picture(data, found.megapixels)
    space = None if found.icc is None else space_of(found.icc)
    if space is None:
        return Picture(rgb=rgb, camera=camera)
    return Picture(
        rgb=rgb, linear=space.linear, to_wide=space.to_wide, icc=found.icc, camera=camera
    )


def upright_size(data: bytes) -> tuple[int, int]:
    """Give a photograph's width and height as it is shown, upright."""
    with opened(data) as (image, found):
        turned = image.getexif().get(_ORIENTATION, 1) in _ON_ITS_SIDE and found.coded_by != "HEIF"
    size = (found.width_px, found.height_px)
    return size[::-1] if turned else size


def may_be_photographed(data: bytes) -> bool:
    """Say whether a file is of a kind cameras write: JPEG or HEIC."""
    return data[:2] == b"\xff\xd8" or needs_turning(data)


def needs_turning(data: bytes) -> bool:
    """Say whether a photograph is of a kind browsers can't show: HEIC."""
    return data[4:8] == b"ftyp"


def for_browsers(data: bytes) -> tuple[bytes, str]:
    """Give a photograph as every browser shows it, with its media type; HEIC becomes JPEG.

    Where it was taken, and other private parts, are left out.
    """
    if needs_turning(data):
        picture = open_photo(data)
        return jpeg_bytes(picture.rgb, picture.icc), "image/jpeg"
    shown = without_private(data)
    if data.startswith(b"\x89PNG"):
        return shown, "image/png"
    return shown, "image/webp" if data[:4] == b"RIFF" else "image/jpeg"


_ORIENTATION, _MAKE, _MODEL = 0x0112, 0x010F, 0x0110  # EXIF
_LONGEST_NAME = 80  # characters of a camera's
_ON_ITS_SIDE = (5, 6, 7, 8)


def _camera_of(image: Image.Image) -> str:
    """Give make and model of what took a picture; empty where the file doesn't say."""
    exif = image.getexif()
    said = (exif.get(tag) for tag in (_MAKE, _MODEL))
    words = " ".join(one for one in said if isinstance(one, str)).replace("\0", " ").split()
    return " ".join(words)[:_LONGEST_NAME]


def jpeg_bytes(rgb: NDArray[np.uint8], icc: bytes | None = None) -> bytes:
    """Write pixels (h, w, 3) as a JPEG for people to look at, with their colour profile."""
    out = BytesIO()
    Image.fromarray(rgb).save(out, "JPEG", quality=88, icc_profile=icc)
    return out.getvalue()
