"""Files say what their numbers mean, and are believed beyond what a screen can show."""

from io import BytesIO

import numpy as np
import pytest
from PIL import Image, ImageCms

from noema.core.colour.srgb import lab_to_linear, srgb_to_linear
from noema.core.colour.wide import srgb_linear_to_wide, wide_to_lab
from noema.formats import colour_profile
from noema.formats.colour_profile import space_of
from noema.formats.photo_file import open_photo
from noema.stand_ins.colour_file import Space, encoded, from_linear_srgb, icc_profile

CYAN = (60.0, -33.0, -33.0)  # beyond sRGB, within the wider spaces
FINE = {"PNG": {}, "WEBP": {"lossless": True}, "JPEG": {"quality": 98}, "HEIF": {"quality": 98}}
WIDER = [Space.DISPLAY_P3, Space.ADOBE_RGB]


def coded(lab, space: Space) -> np.ndarray:
    linear = lab_to_linear(np.array(lab)) @ from_linear_srgb(space).T
    return np.rint(encoded(np.clip(linear, 0, 1), space) * 255).astype(np.uint8)


def file_of(lab, space: Space, kind: str = "PNG") -> bytes:
    pixels = np.broadcast_to(coded(lab, space), (480, 640, 3))
    out = BytesIO()
    Image.fromarray(np.ascontiguousarray(pixels)).save(
        out, kind, icc_profile=icc_profile(space) or b"", **FINE[kind]
    )
    return out.getvalue()


def read_back(data: bytes) -> np.ndarray:
    picture = open_photo(data)
    linear = picture.linear(picture.rgb)[240, 320].astype(float)
    return wide_to_lab(picture.to_wide @ linear)


@pytest.mark.parametrize("space", WIDER, ids=lambda space: space.value)
@pytest.mark.parametrize("kind", ["PNG", "WEBP", "JPEG", "HEIF"])
def test_a_colour_beyond_srgb_comes_through_every_sort_of_file(kind, space):
    assert read_back(file_of(CYAN, space, kind)) == pytest.approx(CYAN, abs=1.2)


def test_srgb_cant_hold_that_colour():
    assert np.hypot(*(read_back(file_of(CYAN, Space.SRGB))[1:] - np.array(CYAN[1:]))) > 4.0


@pytest.mark.parametrize("space", WIDER, ids=lambda space: space.value)
def test_a_space_has_the_primaries_and_white_its_standard_names(space):
    found = space_of(icc_profile(space))
    wanted = srgb_linear_to_wide(np.linalg.inv(from_linear_srgb(space)).T).T
    assert found.to_wide == pytest.approx(wanted, abs=0.002)
    assert found.to_wide @ np.ones(3) == pytest.approx(np.ones(3), abs=0.002)


def test_a_curve_a_channel_is_followed_closely_and_so_is_any_profile(monkeypatch):
    icc = icc_profile(Space.DISPLAY_P3)
    bytes_rgb = np.random.default_rng(2).integers(0, 256, (40, 40, 3)).astype(np.uint8)
    by_curves = space_of(icc).linear(bytes_rgb)
    assert by_curves == pytest.approx(srgb_to_linear(bytes_rgb / 255.0), abs=1e-3)
    monkeypatch.setattr(colour_profile, "_ALIKE", 1e-9)
    space_of.cache_clear()
    assert space_of(icc).linear(bytes_rgb) == pytest.approx(by_curves, abs=0.004)
    space_of.cache_clear()


def test_srgb_itself_needs_no_detour():
    srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    assert space_of(srgb) is None


@pytest.mark.parametrize("wrong", [b"", b"no profile at all", bytes(400)])
def test_a_broken_profile_is_ignored(wrong):
    assert space_of(wrong) is None


def test_a_damaged_profile_is_ignored_or_used_but_never_stops_a_photograph():
    whole = icc_profile(Space.DISPLAY_P3)
    for length in range(130, len(whole), 17):
        space_of(whole[:length])
