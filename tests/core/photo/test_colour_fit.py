"""The colour fit: cameras of every sort brought back to true colours."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.difference import ciede2000
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.spectra import XYZ_WEIGHTS, reflectance_to_lab
from noema.core.colour.wide import WIDE_TO_XYZ_D50, XYZ_D50_TO_WIDE, srgb_linear_to_wide
from noema.core.photo.colour_fit import TrainingSamples, fit_colour, root_terms, weight_of
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.printer import Press
from noema.stand_ins.spectra import everyday_spectra

PAPER = Press().paper
RATIO = (PAPER @ XYZ_WEIGHTS) / lab_to_xyz([100.0, 0.0, 0.0])


def true_rgb(spectra):
    return (spectra @ XYZ_WEIGHTS) / RATIO @ XYZ_D50_TO_WIDE.T


def taught_by(seen, true, sigma, ink=False) -> TrainingSamples:
    count = len(seen)
    return TrainingSamples(
        seen=seen, true=true, sigma=np.full(count, sigma), ink=np.full(count, ink, dtype=bool)
    )


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
    usual = fit_colour()
    training = fit_colour(taught_by(seen[::4], true_rgb(spectra[::4]), 0.004))
    rest = np.arange(len(seen)) % 4 > 0
    before, after = (np.median(errors(fit, seen[rest], spectra[rest])) for fit in (usual, training))
    assert after < 1.2 * before  # a camera that happens to be usual has little to learn
    assert after < 2.5


def test_terms_scale_with_exposure_so_that_the_light_doesnt_matter():
    rgb = np.array([[0.4, 0.2, 0.1]])
    assert root_terms(0.5 * rgb) == pytest.approx(0.5 * root_terms(rgb))


def test_paper_stays_paper():
    white = np.ones((1, 3))
    fit = fit_colour(taught_by(white, white, 0.004))
    assert fit.true(white) == pytest.approx(white, abs=0.02)


def test_ink_teaches_much_of_paint_and_more_of_ink():
    sent = default_rng(5).integers(40, 240, (24, 3)).astype(np.uint8)
    press = Press()
    of_paint, of_ink = [], []
    for seed in range(12):
        optics = draw_optics(default_rng(seed), "class")
        inks, spectra = press.lays(sent), everyday_spectra()[::3]
        known, paint = (optics.seen(one) / optics.seen(PAPER[None]) for one in (inks, spectra))
        kept = (paint > 0.01).all(axis=1)
        training = taught_by(known[::2], true_rgb(inks[::2]), 0.01, ink=True)
        pairs = ((of_paint, paint[kept], spectra[kept]), (of_ink, known[1::2], inks[1::2]))
        for found, seen, of in pairs:
            ink = found is of_ink
            before, after = fit_colour(of_ink=ink), fit_colour(training, of_ink=ink)
            found.append([np.median(errors(fit, seen, of)) for fit in (before, after)])
    (paint_before, paint_after), (ink_before, ink_after) = (
        np.mean(found, axis=0) for found in (of_paint, of_ink)
    )
    assert paint_after < 0.8 * paint_before
    assert ink_after < 0.5 * ink_before


def test_an_old_tube_is_told_by_the_print_and_doubted_more_than_daylight():
    sent = default_rng(6).integers(40, 240, (12, 3)).astype(np.uint8)
    inks, paint = Press().lays(sent), everyday_spectra()[::5]
    doubts = {"FL2": [], "D65": []}
    for seed in range(400):
        optics = draw_optics(default_rng(seed), "class")
        if optics.lamp in doubts:
            white = optics.seen(PAPER[None])
            known, seen = (srgb_linear_to_wide(optics.seen(one) / white) for one in (inks, paint))
            training = taught_by(known, true_rgb(inks), 0.01, ink=True)
            kept = seen[(seen > 0.005).all(axis=1)]
            fit = fit_colour(training)
            variance = np.einsum("nii->ni", sum(fit.covariances_of(kept)))
            spread = np.sqrt((variance * weight_of(fit.true(kept)) ** 2).sum(axis=1))
            doubts[optics.lamp].append(np.median(spread))
    assert np.median(doubts["FL2"]) > 1.03 * np.median(doubts["D65"])
