"""Paint and print as reflectances: the colours asked for, and what the eye doesn't see."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.difference import ciede2000
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.shelf import BLACK, TUBES, WHITE
from noema.stand_ins.colour_file import Space, from_linear_srgb
from noema.stand_ins.optics import EYE, draw_optics
from noema.stand_ins.painter import Hand, PaintedCell, paint
from noema.stand_ins.printer import Press
from noema.stand_ins.sitting import recipe_of
from noema.stand_ins.spectra import class_mixes, mixed_spectra, paint_spectra
from tests.core.exercises.grounds import plain
from tools.photographs import sheet_of

EASY = np.array([[55.0, 3.0, 8.0], [70.0, -2.0, 1.0], [45.0, 25.0, 15.0], [60.0, -8.0, 25.0]])


@pytest.mark.parametrize("mixing", [paint_spectra, mixed_spectra])
def test_paint_has_the_colours_asked_for(mixing):
    spectra = mixing(EASY, default_rng(2))
    assert ((spectra > 0.0) & (spectra < 1.0)).all()
    assert ciede2000(reflectance_to_lab(spectra), EASY) == pytest.approx(0.0, abs=0.1)


def test_two_classes_mix_one_colour_otherwise_and_a_camera_sees_it():
    first, second = (mixed_spectra(EASY, default_rng(seed)) for seed in (3, 4))
    camera = draw_optics(default_rng(1), "class")
    assert np.abs(EYE.seen(first) - EYE.seen(second)).max() < 0.002
    assert np.abs(camera.seen(first) - camera.seen(second)).max() > 0.01


SCALE = plain(9).cells


def test_a_row_of_the_same_tubes_errs_as_one():
    labs = np.array([cell.lab for cell in SCALE])
    camera = draw_optics(default_rng(1), "class")

    def jumps(spectra):  # from step to step, of red against green
        cast = np.log(camera.seen(spectra) / EYE.seen(spectra))
        return np.abs(np.diff(cast[:, 0] - cast[:, 1])).mean()

    mixed = mixed_spectra(labs, default_rng(5), [recipe_of(cell) for cell in SCALE])
    assert ciede2000(reflectance_to_lab(mixed), labs) == pytest.approx(0.0, abs=0.1)
    assert jumps(mixed) < 0.2 * jumps(mixed_spectra(labs, default_rng(5)))


def test_a_wash_is_mixed_as_thin_as_its_colour_asks():
    part = Part(tube=TUBES["ultramarine"], amount=1.0)
    pale = np.array([[80.0, -2.0, -18.0]])
    wash = mixed_spectra(pale, default_rng(3), [(part,)])
    assert ciede2000(reflectance_to_lab(wash), pale) == pytest.approx(0.0, abs=0.1)


def test_a_plain_scale_is_mixed_of_black_and_white():
    for cell in SCALE:
        recipe = recipe_of(cell)
        assert {part.tube.name for part in recipe} == {WHITE, BLACK}
        assert lab_of_parts(recipe)[0] == pytest.approx(cell.lab[0], abs=2.5)


def test_a_class_has_white_and_can_mix_pale_and_intense_paint():
    labs = reflectance_to_lab(class_mixes(default_rng(5), 400))
    chroma = np.hypot(labs[:, 1], labs[:, 2])
    assert labs[:, 0].max() > 90.0
    assert chroma.max() > 75.0
    assert np.median(chroma) < 45.0


def test_yellow_beyond_srgb_is_the_files_to_cut_off():
    layout, _ = sheet_of(1)
    yellow = mixed_spectra(np.array([[83.0, 4.0, 84.0]]), default_rng(7))
    lab = tuple(reflectance_to_lab(yellow)[0].tolist())
    cells = tuple(PaintedCell(id=cell.id, lab=lab, spectrum=yellow[0]) for cell in layout.cells)
    white = EYE.seen(Press().paper[None])[0].astype(np.float32)
    blank = np.broadcast_to(white, (420, 600, 3))
    page = paint(blank, layout, cells, Hand(streaks=0.0, missed=0.0), default_rng(8))
    px_per_mm = page.shape[1] / layout.width_mm
    x, y = np.mean(layout.cells[0].polygon_mm, axis=0) * px_per_mm
    seen = page[int(y), int(x)]
    assert seen[2] < 0.0
    assert (from_linear_srgb(Space.DISPLAY_P3) @ seen)[2] > 0.0
