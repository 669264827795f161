"""What isn't a photograph is refused with a reason, before anything is believed."""

import struct
import zlib
from io import BytesIO

import numpy as np
import pytest
from PIL import Image

from noema.core.errors import BadPicture
from noema.formats.photo_file import check_photo, open_photo
from noema.formats.scan import is_scan
from tools.fuzz_photos import strange_file


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


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
@pytest.mark.parametrize(
    ("orientation", "corner"), [(1, (0, 0)), (3, (1, 1)), (6, (0, 1)), (8, (1, 0))]
)
def test_every_sort_is_opened_upright(kind, orientation, corner):
    pixels = np.full((600, 800, 3), 40, np.uint8)
    pixels[:200, :250] = (250, 240, 230)
    exif = Image.Exif()
    exif[0x0112] = orientation
    out = BytesIO()
    Image.fromarray(pixels).save(out, kind, exif=exif)
    rgb = open_photo(out.getvalue()).rgb
    assert (rgb.shape[0] > rgb.shape[1]) == (orientation in (6, 8))
    down, across = corner
    assert rgb[-50 if down else 50, -50 if across else 50].min() > 200


@pytest.mark.parametrize("seed", range(60))
def test_strange_files_are_refused_in_a_sentence_or_opened(seed):
    data = strange_file(seed)
    if is_scan(data):
        return
    try:
        check_photo(data)
    except BadPicture as refused:
        said = str(refused)
    else:
        assert open_photo(data).rgb.shape[2] == 3
        said = "opened."
    assert said.endswith(".")


def heic_claiming(height: int) -> bytes:
    """A HEIC whose header claims a height that its picture doesn't have."""
    whole = encoded("HEIF")
    at = whole.index(b"ispe") + 12
    return whole[:at] + struct.pack(">I", height) + whole[at + 4 :]


REFUSED = {
    "empty": (b"", "empty"),
    "text": (b"this is no picture at all", "no JPEG, PNG, HEIC or WebP"),
    "gif": (encoded("GIF"), "no JPEG, PNG, HEIC or WebP"),
    "cut jpeg": (encoded("JPEG")[:9000], "damaged or cut short"),
    "cut png": (encoded("PNG")[:9000], "damaged or cut short"),
    "bomb": (png_claiming(40_000, 40_000), "at most 60 megapixels"),
    "large": (png_claiming(9000, 9000), "at most 60 megapixels"),
    "lying header": (png_claiming(5000, 5000), "damaged or cut short"),
    "lying heic": (heic_claiming(5000), "damaged or cut short"),
    "tiny": (encoded("JPEG", (120, 90)), "120 × 90"),
    "huge": (b"\xff\xd8" + b"\0" * (30 * 1024 * 1024), "over 30 MB"),
}


@pytest.mark.parametrize("wrong", REFUSED)
def test_the_rest_is_refused(wrong):
    data, reason = REFUSED[wrong]
    with pytest.raises(BadPicture, match=reason):
        check_photo(data)
