"""Hints while aiming: a good picture is let through, each fault is named."""

from dataclasses import replace

import cv2
import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.photo.aiming import Aim, glance
from noema.formats.photo_file import open_photo
from noema.stand_ins.camera import photograph
from noema.stand_ins.printer import Press, print_page
from noema.stand_ins.shot import Shot
from tests.core.photo.sheets import sheet_with_code

_, PDF = sheet_with_code("K7Q2-04")
SIZE = (1000, 750)
GOOD = Shot(turn=4.0, tilt=3.0, fill=0.85)


@pytest.fixture(scope="module")
def page():
    return print_page(PDF, 0, Press(), 6.0)


def seen(page, shot: Shot) -> np.ndarray:
    return open_photo(photograph(page, shot, SIZE, default_rng(2))).rgb


def test_a_good_aim_is_let_through(page):
    found = glance(seen(page, GOOD))
    assert found.ready, found.words
    assert all(0.0 <= part <= 1.0 for corner in found.corners for part in corner)


@pytest.mark.parametrize(
    ("shot", "aim"),
    [
        (replace(GOOD, fill=0.4), Aim.CLOSER),
        (replace(GOOD, tilt=38.0), Aim.ABOVE),
        (replace(GOOD, fill=1.15), Aim.ALL_IN),
    ],
)
def test_a_poor_aim_is_told(page, shot, aim):
    found = glance(seen(page, shot))
    assert not found.ready
    assert aim.value in found.words


def with_shadow(rgb):
    rgb = rgb.copy()
    rgb[:, :300] = (rgb[:, :300] * 0.6).astype(np.uint8)
    return rgb


def much_darker_on_one_side(rgb):
    fall = np.linspace(1.0, 0.5, rgb.shape[1])[None, :, None]
    return (rgb * fall).astype(np.uint8)


def shining(rgb):
    return cv2.circle(rgb.copy(), (500, 375), 45, (255, 255, 255), -1)


def soft(rgb):
    return cv2.GaussianBlur(rgb, (0, 0), 2.6)


@pytest.mark.parametrize(
    ("spoil", "aim"),
    [
        (with_shadow, Aim.SHADOW),
        (much_darker_on_one_side, Aim.EVEN),
        (shining, Aim.SHINE),
        (soft, Aim.SHARP),
    ],
)
def test_a_poor_picture_is_told(page, spoil, aim):
    assert aim.value in glance(spoil(seen(page, GOOD))).words


def test_no_sheet_is_told():
    desk = default_rng(1).integers(90, 120, (750, 1000, 3)).astype(np.uint8)
    found = glance(desk)
    assert (found.corners, found.ready) == ((), False)
    assert found.words
