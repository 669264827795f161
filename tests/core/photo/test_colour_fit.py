"""The colour fit: cameras of every sort brought back to true colours."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.difference import ciede2000
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.spectra import XYZ_WEIGHTS, reflectance_to_lab
from noema.core.colour.wide import WIDE_TO_XYZ_D50, XYZ_D50_TO_WIDE
from noema.core.photo.colour_fit import fit_colour, root_terms
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.printer import Press
from noema.stand_ins.spectra import everyday_spectra

NONE = np.empty((0, 3))
PAPER = Press().paper
RATIO = (PAPER @ XYZ_WEIGHTS) / lab_to_xyz([100.0, 0.0, 0.0])


def true_rgb(spectra):
    return (spectra @ XYZ_WEIGHTS) / RATIO @ XYZ_D50_TO_WIDE.T


def errors(fit, seen, spectra):
    xyz = np.maximum(fit.true(seen) @ WIDE_TO_XYZ_D50.T, 1e-6) * RATIO
    return ciede2000(xyz_to_lab(xyz), reflectance_to_lab(spectra))


@pytest.mark.parametrize("seed", range(5))
def test_known_paints_teach_a_camera(seed):
    optics = draw_optics(default_rng(seed), "class")
    spectra = everyday_spectra()
    seen = optics.seen(spectra) / optics.seen(PAPER[None])
    kept = (seen > 0.01).all(axis=1)
    seen, spectra = seen[kept], spectra[kept]
    usual = fit_colour(NONE, NONE, NONE)
    taught = fit_colour(seen[::4], true_rgb(spectra[::4]), np.full((len(seen[::4]), 3), 0.004))
    rest = np.arange(len(seen)) % 4 > 0
    before, after = (np.median(errors(fit, seen[rest], spectra[rest])) for fit in (usual, taught))
    assert after < 1.2 * before  # a camera that happens to be usual has little to learn
    assert after < 2.5


def test_terms_scale_with_exposure_so_that_the_light_doesnt_matter():
    rgb = np.array([[0.4, 0.2, 0.1]])
    assert root_terms(0.5 * rgb) == pytest.approx(0.5 * root_terms(rgb))


def test_paper_stays_paper():
    white = np.ones((1, 3))
    fit = fit_colour(white, white, np.full((1, 3), 0.004))
    assert fit.true(white) == pytest.approx(white, abs=0.02)
