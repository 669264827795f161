"""Photographs decoded no larger than the reader can use, upright as EXIF says."""

from io import BytesIO

import numpy as np
import pytest
from PIL import Image

from noema.core.errors import BadPicture
from noema.core.photo.decode import decode_picture

ORIENTATION = 0x0112
TURNED = {1: "upper left", 3: "lower right", 6: "upper right", 8: "lower left"}


def jpeg(size, orientation=1) -> bytes:
    picture = np.zeros((size[1], size[0], 3), dtype=np.uint8)
    picture[: size[1] // 3, : size[0] // 3] = (250, 30, 30)
    exif = Image.Exif()
    exif[ORIENTATION] = orientation
    out = BytesIO()
    Image.fromarray(picture).save(out, "JPEG", quality=95, exif=exif)
    return out.getvalue()


def corner_of_red(picture: np.ndarray) -> str:
    rows, columns = np.nonzero(picture[..., 0] > 128)
    upper = rows.mean() < picture.shape[0] / 2
    left = columns.mean() < picture.shape[1] / 2
    return f"{'upper' if upper else 'lower'} {'left' if left else 'right'}"


@pytest.mark.parametrize("orientation", TURNED)
@pytest.mark.parametrize(("size", "megapixels"), [((900, 600), 0.54), ((4000, 3000), 12.0)])
def test_exif_is_followed_at_every_size(orientation, size, megapixels):
    picture = decode_picture(jpeg(size, orientation), megapixels)
    assert corner_of_red(picture) == TURNED[orientation]
    landscape = orientation in (1, 3)
    assert (picture.shape[1] > picture.shape[0]) == landscape


def test_red_stays_red():
    for megapixels in (1.0, 12.0, 50.0):
        picture = decode_picture(jpeg((1200, 900)), megapixels)
        red, green, blue = picture[10, 10]
        assert red > 200 > 80 > max(green, blue)


@pytest.mark.parametrize("megapixels", [(12.0, 2), (50.0, 4), (2.0, 1)])
def test_large_pictures_come_smaller(megapixels):
    size, factor = megapixels
    assert decode_picture(jpeg((1600, 1200)), size).shape[:2] == (1200 // factor, 1600 // factor)


def test_what_cant_be_opened_is_refused():
    with pytest.raises(BadPicture, match="photograph the sheet again"):
        decode_picture(b"no picture", 1.0)
    with pytest.raises(BadPicture):
        decode_picture(b"", 1.0)
