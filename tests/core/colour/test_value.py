"""Value against ASTM D1535, and Lab against XYZ."""

import numpy as np
import pytest

from noema.core.colour.adaptation import C_XYZ, D50_XYZ, D65_XYZ, bradford
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.value import lightness_to_value, value_to_lab, value_to_y, y_to_value

# ASTM D1535-14, the quintic with the perfect diffuser at 100: value, Y.
TABLE = [(1.0, 1.180), (2.0, 3.048), (5.0, 19.271), (9.0, 76.695), (10.0, 100.0)]


@pytest.mark.parametrize(("value", "luminance"), TABLE)
def test_published_values(value, luminance):
    assert value_to_y(value) == pytest.approx(luminance, abs=0.002)
    assert y_to_value(luminance) == pytest.approx(value, abs=0.001)


def test_value_rises_with_luminance_all_the_way():
    values = y_to_value(np.linspace(0, 100, 500))
    assert (np.diff(values) > 0).all()
    assert y_to_value(-3.0) == 0.0


def test_neutral_lab_and_value_go_both_ways():
    values = np.linspace(0.2, 9.9, 40)
    assert lightness_to_value(value_to_lab(values)[:, 0]) == pytest.approx(values, abs=1e-3)


@pytest.mark.parametrize("white", [D65_XYZ, C_XYZ])
def test_adaptation_takes_white_to_white_and_back(white):
    there, back = bradford(white, D50_XYZ), bradford(D50_XYZ, white)
    assert there @ white == pytest.approx(D50_XYZ)
    assert there @ back == pytest.approx(np.eye(3), abs=1e-12)


def test_lab_and_xyz_go_both_ways_down_to_black():
    rng = np.random.default_rng(1)
    xyz = rng.uniform(0, 100, (200, 3))
    xyz[0] = 0.0
    assert lab_to_xyz(xyz_to_lab(xyz)) == pytest.approx(xyz, abs=1e-9)
