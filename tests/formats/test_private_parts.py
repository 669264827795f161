"""Where and when a picture was taken leaves it; the picture, its turn and its camera stay."""

from io import BytesIO

import numpy as np
import pillow_heif
import pytest
from PIL import Image, PngImagePlugin

from noema.formats.photo_file import check_photo, for_browsers, open_photo, upright_size
from noema.formats.private_parts import without_private

RGB = np.random.default_rng(3).integers(0, 255, (420, 500, 3), dtype=np.uint8)
PLACE, OWNER = b"Harbour Lane 7", b"Owner Of This"
XMP = b'<x:xmpmeta xmlns:x="adobe:ns:meta/"><place>Harbour Lane 7</place></x:xmpmeta>'


def exif(*, private=True):
    told = Image.Exif()
    told[0x0112], told[0x010F], told[0x0110] = 6, "Maker", "Model 7"
    told.get_ifd(0x8769)[0x829A] = 0.01
    if private:
        told[0x013B] = OWNER.decode()
        told[0x0132] = "2026:11:29 09:00:00"
        told.get_ifd(0x8769)[0xA431] = "serial 123456"
        told.get_ifd(0x8825).update({1: "N", 2: (51.0, 30.0, 9.25), 28: PLACE})
    return told.tobytes()


def written(kind, exif_bytes, *, xmp=XMP):
    out = BytesIO()
    image = Image.fromarray(RGB)
    if kind == "HEIF":
        heif = pillow_heif.from_pillow(image)
        heif.save(out, quality=80, exif=exif_bytes, **({"xmp": xmp} if xmp else {}))
        return out.getvalue()
    more = {}
    if kind == "PNG" and xmp:
        text = PngImagePlugin.PngInfo()
        text.add_text("Author", OWNER.decode())
        text.add_itxt("XML:com.adobe.xmp", xmp.decode())
        more["pnginfo"] = text
    elif xmp:
        more["xmp"] = xmp
    if kind == "JPEG" and xmp:
        more["comment"] = PLACE
        more["progressive"] = True
    image.save(out, kind, exif=exif_bytes, **more)
    return out.getvalue() + (b"movie of Harbour Lane 7" if kind == "JPEG" and xmp else b"")


KINDS = ("JPEG", "PNG", "WEBP", "HEIF")


@pytest.mark.parametrize("kind", KINDS)
def test_what_is_private_leaves_and_the_rest_stays(kind):
    given = written(kind, exif())
    assert PLACE in given
    kept = without_private(given)
    for told in (PLACE, OWNER, b"2026:11:29", b"123456"):
        assert told not in kept
    check_photo(kept)
    assert np.array_equal(open_photo(kept).rgb, open_photo(given).rgb)
    assert open_photo(kept).camera == "Maker Model 7"
    assert upright_size(kept) == upright_size(given)
    with Image.open(BytesIO(kept)) as image:
        told = image.getexif()
        assert not told.get_ifd(0x8825)
        assert float(told.get_ifd(0x8769)[0x829A]) == pytest.approx(0.01)
    assert without_private(kept) == kept


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_what_is_shown_is_without_it_whatever_was_kept(kind):
    shown, _ = for_browsers(written(kind, exif()))
    assert PLACE not in shown


@pytest.mark.parametrize("kind", KINDS)
def test_a_picture_without_any_stays_byte_for_byte(kind):
    given = written(kind, exif(private=False), xmp=None)
    assert without_private(given) == given


@pytest.mark.parametrize("kind", KINDS)
def test_damage_is_no_harm(kind):
    given = written(kind, exif())
    rng = np.random.default_rng(5)
    for _ in range(60):
        cut = bytearray(given[: int(rng.integers(8, len(given)))])
        for _ in range(4):
            cut[int(rng.integers(0, len(cut)))] = int(rng.integers(0, 256))
        without_private(bytes(cut))
