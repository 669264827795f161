"""HVC against the public renotation tables and their reference implementation."""

import warnings

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvc_of, hvc_to_lab, is_extrapolated, lab_to_hvc
from noema.core.colour.renotation import GRID
from noema.core.colour.value import lightness_to_value, value_to_lab

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    from colour import XYZ_to_xyY
    from colour.notation.datasets.munsell import MUNSELL_COLOURS_REAL
    from colour.notation.munsell import munsell_colour_to_xyY

from noema.core.colour.adaptation import D50_TO_C
from noema.core.colour.lab import lab_to_xyz

LETTERS = ["R", "YR", "Y", "GY", "G", "BG", "B", "PB", "P", "RP"]


def hue100(name: str) -> float:
    letters = name.lstrip("0123456789.")
    return (float(name[: -len(letters)]) + 10 * LETTERS.index(letters)) % 100


REAL = np.array([(hue100(n), v, c) for (n, v, c), _ in MUNSELL_COLOURS_REAL])


def test_round_trip_over_all_real_colours():
    lab = hvc_to_lab(REAL)
    there_and_back = ciede2000(hvc_to_lab(lab_to_hvc(lab)), lab)
    assert len(REAL) == 2734
    assert np.percentile(there_and_back, 99) < 0.05
    assert there_and_back.max() < 0.05


@pytest.mark.parametrize(
    "notation",
    ["5R 5/10", "2.5Y 8/12", "7.3GY 6.4/5.1", "1.2B 3.7/4.4", "9.9PB 2.2/9", "6RP 7.5/3.3"],
)
def test_between_tabulated_colours_as_the_reference_interpolates(notation):
    hue, rest = notation.split()
    value, chroma = map(float, rest.split("/"))
    xyz = lab_to_xyz(hvc_to_lab([hue100(hue), value, chroma])) @ D50_TO_C.T
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        expected = munsell_colour_to_xyY(notation)
    assert XYZ_to_xyY(xyz / 100.0) == pytest.approx(expected, abs=2e-4)


def test_neutrals_have_no_hue():
    greys = lab_to_hvc(value_to_lab(np.arange(1.0, 10.0)))
    assert np.isnan(greys[:, 0]).all()
    assert (greys[:, 2] == 0).all()
    assert greys[:, 1] == pytest.approx(np.arange(1.0, 10.0), abs=0.01)
    assert hvc_of([50.0, 0.3, 0.2]).notation == "N"


def test_any_shape_goes_through():
    grid = np.full((2, 3, 3), [50.0, 20.0, 10.0])
    assert lab_to_hvc(grid).shape == (2, 3, 3)
    assert lab_to_hvc(np.empty((0, 3))).shape == (0, 3)


def test_beyond_the_table_is_marked():
    assert not is_extrapolated([5.0, 5.0, 10.0])
    assert is_extrapolated([5.0, 5.0, GRID.tabulated.max() + 4.0])


def test_lightness_and_value_agree():
    assert lightness_to_value(value_to_lab([2.0, 5.5, 9.0])[:, 0]) == pytest.approx([2, 5.5, 9])


@pytest.mark.parametrize(
    ("number", "said"),
    [(5.0, "5.0R"), (0.0, "10.0RP"), (99.96, "10.0RP"), (10.0, "10.0R"), (15.04, "5.0YR")],
)
def test_notation(number, said):
    assert HVC(hue100=number, value=5.0, chroma=4.0).notation == said
