"""The observer's weights against their source, and plain reflectances."""

import warnings

import numpy as np
import pytest

from noema.core.colour.spectra import WAVELENGTHS_NM, XYZ_WEIGHTS, reflectance_to_lab

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    from colour import SDS_ILLUMINANTS, SpectralDistribution, sd_to_XYZ


def test_white_is_the_d50_white():
    assert XYZ_WEIGHTS.sum(axis=0) == pytest.approx([96.422, 100.0, 82.521], abs=1e-3)
    assert WAVELENGTHS_NM[[0, -1]].tolist() == [400, 700]


def test_greys_of_any_reflectance_are_neutral():
    labs = reflectance_to_lab(np.full((9, 31), 0.1) * np.arange(1, 10)[:, None])
    assert np.abs(labs[:, 1:]).max() < 1e-3
    assert (np.diff(labs[:, 0]) > 0).all()


@pytest.mark.parametrize("edge", [480, 530, 590])
def test_a_smooth_reflectance_as_the_reference_integrates_it(edge):
    reflectance = 0.05 + 0.8 / (1 + np.exp(-(WAVELENGTHS_NM - edge) / 15))
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        given = dict(zip(WAVELENGTHS_NM, reflectance, strict=True))
        xyz = sd_to_XYZ(SpectralDistribution(given), illuminant=SDS_ILLUMINANTS["D50"])
    assert reflectance @ XYZ_WEIGHTS == pytest.approx(xyz, abs=0.35)
