"""A picture's own files: as pages show it, and as it is thought about."""

from dataclasses import dataclass
from io import BytesIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from noema.core.colour.srgb import linear_to_srgb
from noema.core.colour.wide import SRGB_TO_WIDE
from noema.core.photo.picture import Picture
from noema.core.pictures.colours import PictureColours, colours_of_picture, colours_of_wide
from noema.formats.photo_file import jpeg_bytes

LONGEST_SHOWN_PX = 1600
Bytes = NDArray[np.uint8]


@dataclass(frozen=True, kw_only=True)
class MadeFiles:
    """What is made of a picture once, when it comes."""

    shown: bytes  # JPEG in sRGB
    small: bytes  # of linear BT.2020, for `colours_from`
    width_px: int  # of what is shown
    height_px: int


def made_files(picture: Picture) -> MadeFiles:
    """Make a picture's files; colours beyond sRGB are kept in the small one."""
    rgb = _shown(picture)
    return MadeFiles(
        shown=jpeg_bytes(rgb),
        small=colours_to_bytes(colours_of_picture(picture)),
        width_px=rgb.shape[1],
        height_px=rgb.shape[0],
    )


def colours_to_bytes(colours: PictureColours) -> bytes:
    """Write a small picture as a compressed NumPy array."""
    out = BytesIO()
    np.savez_compressed(out, wide=colours.wide.astype(np.float16))
    return out.getvalue()


def colours_from(data: bytes) -> PictureColours:
    """Read what `colours_to_bytes` wrote."""
    with np.load(BytesIO(data), allow_pickle=False) as arrays:
        return colours_of_wide(arrays["wide"].astype(float))


def rgb_from(data: bytes, longest_px: int = LONGEST_SHOWN_PX) -> Bytes:
    """Read pixels (h, w, 3) of a picture that Noema made, smaller if it is larger than wanted."""
    with Image.open(BytesIO(data)) as image:
        image.draft("RGB", (longest_px, longest_px))
        image.thumbnail((longest_px, longest_px), Image.Resampling.BILINEAR)
        return np.asarray(image.convert("RGB"))


def png_bytes(rgb: Bytes) -> bytes:
    """Write pixels (h, w, 3) or grey (h, w) as a PNG."""
    out = BytesIO()
    Image.fromarray(rgb).save(out, "PNG")
    return out.getvalue()


def _shown(picture: Picture) -> Bytes:
    """Give a picture in sRGB, its longer side at most 1600 px."""
    image = Image.fromarray(picture.rgb)
    image.thumbnail((LONGEST_SHOWN_PX, LONGEST_SHOWN_PX), Image.Resampling.LANCZOS)
    rgb = np.asarray(image)
    if picture.icc is None:
        return rgb
    to_srgb = np.linalg.inv(SRGB_TO_WIDE) @ picture.to_wide
    linear = np.clip(np.asarray(picture.linear(rgb), dtype=float) @ to_srgb.T, 0.0, 1.0)
    return np.asarray(np.rint(255.0 * linear_to_srgb(linear)), dtype=np.uint8)
