"""What a reading goes by: printers, tubes, and paint that isn't what its tube says."""

from dataclasses import replace

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.errors import BadFile
from noema.core.photo.knowledge import (
    Knowledge,
    Known,
    knowledge_of,
    knowledge_sentence,
    with_known_print,
    with_known_tubes,
)
from noema.core.photo.print_colours import combined, look_of_samples
from noema.core.photo.read import read_photo
from noema.core.sheet.calibration_sheet import PAPER, PRINTED, squares_in_order
from noema.core.sheet.layout import PatchKind
from noema.formats.photo_file import open_photo
from noema.stand_ins.printer import Press, patch_labs
from noema.stand_ins.studio import take_picture
from tools.photographs import any_sheet_of

SEED = 1033  # a wheel's kind of sheet with coloured patches
LAYOUT, PDF = any_sheet_of(SEED)
PICTURE = take_picture(LAYOUT, PDF, seed=SEED, preset="class", size_px=(1600, 1200))
OPENED = open_photo(PICTURE.jpeg)


def away(layout) -> np.ndarray:
    cells = read_photo(OPENED, layout).reading.cells
    return np.array(
        [
            ciede2000(cell.lab, truth.lab)
            for cell, truth in zip(cells, PICTURE.truth, strict=True)
            if truth.lab is not None
        ]
    )


def test_a_known_print_is_written_into_the_layout_and_paper_with_it():
    labs = {sent: Known(lab=(50.0, 0.0, 0.0), sigma=0.6) for sent in PRINTED}
    labs[PAPER] = Known(lab=(93.0, 0.0, 1.0), sigma=0.5)
    known = with_known_print(LAYOUT, labs, "meter")
    assert knowledge_of(LAYOUT) == (Knowledge.NONE,)
    assert knowledge_of(known) == (Knowledge.PRINTER,)
    papers = {p.lab for p in known.reference if p.kind is PatchKind.PAPER}
    assert papers == {(93.0, 0.0, 1.0)}
    assert all(patch.lab is not None for patch in known.reference)


def laid_by(labs) -> dict:
    """What a printer is known to lay, from the colours of a layout's patches."""
    patches = {patch.id: patch for patch in LAYOUT.reference}
    return {
        PAPER if patches[name].kind is PatchKind.PAPER else patches[name].nominal_srgb: Known(
            lab=lab, sigma=0.6
        )
        for name, lab in labs.items()
    }


def test_the_printer_a_sheet_came_from_is_believed():
    known = with_known_print(LAYOUT, laid_by(PICTURE.patches), "printer calibration")
    assert read_photo(OPENED, known).reading.knowledge == (Knowledge.PRINTER,)


@pytest.mark.parametrize(
    "other", [Press(dyes=(0.4, -0.35, 0.35)), Press(has_colours=False)], ids=["inks", "no colours"]
)
def test_a_printers_name_isnt_believed_against_the_picture(other):
    wrong = with_known_print(LAYOUT, laid_by(patch_labs(LAYOUT, other)), "printer calibration")
    read = read_photo(OPENED, wrong).reading
    assert read.knowledge == (Knowledge.OTHER_PRINT,)
    assert "doesn't look like" in knowledge_sentence(read.knowledge)
    assert away(wrong) == pytest.approx(away(LAYOUT), abs=0.3)


def test_cells_straight_from_measured_tubes_anchor_the_others():
    tubes = {cell.id: cell.lab for cell in PICTURE.truth[::3]}
    known = with_known_tubes(LAYOUT, tubes)
    assert knowledge_of(known) == (Knowledge.TUBES,)
    assert np.median(away(known)) < np.median(away(LAYOUT))


def test_paint_that_isnt_what_its_tube_says_anchors_nothing():
    wrong = {cell.id: (60.0, -70.0, 60.0) for cell in PICTURE.truth[::3]}
    assert away(with_known_tubes(LAYOUT, wrong)) == pytest.approx(away(LAYOUT))


def test_what_a_reading_went_by_is_said():
    assert "isn't calibrated" in knowledge_sentence([Knowledge.NONE])
    both = knowledge_sentence([Knowledge.PRINTER, Knowledge.TUBES])
    assert both.count(".") == 2
    grey = replace(LAYOUT, grey_only=True)
    assert "without colours" in knowledge_sentence(knowledge_of(grey))


@pytest.mark.parametrize("rows", [1, 3])
@pytest.mark.parametrize("paper", [True, False])
def test_a_meters_file_is_taken_in_the_pages_order(rows, paper):
    order = squares_in_order()[: rows * len(PRINTED)]
    labs = [(float(sum(sent)) / 8.0, 0.0, 0.0) for sent in order]
    look = look_of_samples([*labs, (94.0, 0.0, 0.0)] if paper else labs)
    assert len(look) == len(PRINTED) + paper
    assert all(look[sent].lab[0] == pytest.approx(sum(sent) / 8.0) for sent in PRINTED)


def test_a_file_of_another_length_is_refused():
    with pytest.raises(BadFile, match="holds 5 colours"):
        look_of_samples([(50.0, 0.0, 0.0)] * 5)


def test_looks_that_disagree_are_doubted_and_many_make_it_surer():
    one, other = (Known(lab=(lightness, 0.0, 0.0), sigma=1.0) for lightness in (40.0, 48.0))
    sent = PRINTED[0]
    assert combined([{sent: one}] * 4)[sent].sigma < combined([{sent: one}])[sent].sigma
    assert combined([{sent: one}, {sent: other}])[sent].sigma > 2.0
    assert combined([{sent: one}] * 999)[sent].sigma >= 0.4
