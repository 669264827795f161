"""What isn't a photograph is refused with a reason, before anything is believed."""

import struct
import zlib
from io import BytesIO

import pytest
from PIL import Image

from noema.core.errors import BadPicture
from noema.formats.photo_file import check_photo


def encoded(kind: str, size=(800, 600), **more) -> bytes:
    out = BytesIO()
    Image.effect_noise(size, 40).convert("RGB").save(out, kind, **more)
    return out.getvalue()


def png_claiming(width: int, height: int) -> bytes:
    """A PNG whose header claims a size that its data doesn't have."""

    def chunk(kind: bytes, body: bytes) -> bytes:
        checked = kind + body
        return struct.pack(">I", len(body)) + checked + struct.pack(">I", zlib.crc32(checked))

    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", header)
        + chunk(b"IDAT", zlib.compress(b"\0" * 1000))
        + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "HEIF"])
def test_photographs_pass(kind):
    assert check_photo(encoded(kind)).megapixels == pytest.approx(0.48)


REFUSED = {
    "empty": (b"", "empty"),
    "text": (b"this is no picture at all", "no JPEG, PNG, HEIC or WebP"),
    "gif": (encoded("GIF"), "no JPEG, PNG, HEIC or WebP"),
    "cut jpeg": (encoded("JPEG")[:9000], "damaged or cut short"),
    "cut png": (encoded("PNG")[:9000], "damaged or cut short"),
    "bomb": (png_claiming(40_000, 40_000), "at most 60 megapixels"),
    "large": (png_claiming(9000, 9000), "at most 60 megapixels"),
    "lying header": (png_claiming(5000, 5000), "damaged or cut short"),
    "tiny": (encoded("JPEG", (120, 90)), "120 × 90"),
    "huge": (b"\xff\xd8" + b"\0" * (30 * 1024 * 1024), "over 30 MB"),
}


@pytest.mark.parametrize("wrong", REFUSED)
def test_the_rest_is_refused(wrong):
    data, reason = REFUSED[wrong]
    with pytest.raises(BadPicture, match=reason):
        check_photo(data)
