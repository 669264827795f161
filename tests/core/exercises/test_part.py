"""Some cells of an exercise, to be painted again."""

import pytest

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement
from noema.core.exercises.part import MOST_ACROSS, part_of, with_ends
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import fits
from tests.core.exercises.grounds import asked, choose

WHEEL = asked("colour-wheel", choose(hues=12, rings=("tint-in",)), "split-six+black")
TINTS = asked("tint-ladder", choose(steps=7), "split-six+black")


def test_only_the_cells_named_are_kept_with_their_colours():
    part = part_of(WHEEL, {"h3", "tint-in-3"})
    assert [cell.id for cell in part.cells] == ["h3", "tint-in-3"]
    assert [cell.lab for cell in part.cells] == [
        cell.lab for cell in WHEEL.cells if cell.id in ("h3", "tint-in-3")
    ]
    assert part.arrangement is Arrangement.ROWS


def test_a_ring_cell_says_its_hue_where_the_wheel_is_gone():
    assert part_of(WHEEL, {"tint-in-3"}).cells[0].label == "orange, tint-in"


def test_many_cells_wrap_into_rows_that_fit_a_page():
    part = part_of(WHEEL, {cell.id for cell in WHEEL.cells[:-1]})
    assert max(len(band.cells) for band in part.bands) <= MOST_ACROSS
    assert fits(part, Paper.A4)


def test_the_ends_of_a_row_come_along():
    step = TINTS.bands[1].cells[3].id
    row = TINTS.bands[1].cells
    assert with_ends(TINTS, {step}) == {row[0].id, step, row[-1].id}
    assert with_ends(WHEEL, {"h3"}) == {"h3"}


@pytest.mark.parametrize("cells", [set(), {"nobody"}])
def test_no_cells_or_others_are_refused(cells):
    with pytest.raises(BadExercise, match="painted again"):
        part_of(WHEEL, cells)
