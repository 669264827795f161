"""sRGB against IEC 61966-2-1 and the Lab of its primaries under D50 (Bradford)."""

import numpy as np
import pytest

from noema.core.colour.srgb import (
    lab_to_hex,
    lab_to_linear,
    linear_to_lab,
    linear_to_srgb,
    srgb_to_linear,
)

PRIMARIES = {
    (1.0, 0.0, 0.0): (54.29, 80.80, 69.89),
    (0.0, 1.0, 0.0): (87.82, -79.27, 80.99),
    (0.0, 0.0, 1.0): (29.57, 68.30, -112.03),
    (1.0, 1.0, 1.0): (100.0, 0.0, 0.0),
}


@pytest.mark.parametrize(("rgb", "lab"), PRIMARIES.items())
def test_primaries(rgb, lab):
    assert linear_to_lab(rgb) == pytest.approx(lab, abs=0.05)


def test_there_and_back_beyond_the_gamut():
    linear = np.array([[-0.05, 0.3, 1.2], [0.0, 0.5, 0.002]])
    assert srgb_to_linear(linear_to_srgb(linear)) == pytest.approx(linear)
    assert lab_to_linear(linear_to_lab(linear[1:])) == pytest.approx(linear[1:], abs=1e-9)


def test_shown_colours_are_clipped_not_wrapped():
    assert lab_to_hex([[50.0, 120.0, 90.0]])[0].startswith("#ff")
