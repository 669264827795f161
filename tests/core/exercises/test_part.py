"""Some cells of an exercise, to be painted again."""

import pytest

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement
from noema.core.exercises.part import MOST_ACROSS, fewer_steps, part_of, with_ends
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import fits
from tests.core.exercises.grounds import EVERY, asked, choose

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
    assert part_of(WHEEL, {"tint-in-3"}).cells[0].label == "orange, inner tint"


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
    with pytest.raises(BadExercise, match="Choose some cells"):
        part_of(WHEEL, cells)


def test_fewer_steps_are_every_second_one_and_keep_their_row():
    scale = asked("value-scale", choose(steps=9), "split-six+black")
    part = part_of(scale, fewer_steps(scale))
    assert [cell.label for cell in part.cells] == [cell.label for cell in scale.cells][::2]
    assert [band.label for band in part.bands] == [band.label for band in scale.bands]


def test_a_shorter_wheel_is_still_a_wheel():
    part = part_of(WHEEL, fewer_steps(WHEEL))
    assert part.arrangement is Arrangement.WHEEL
    assert [len(band.cells) for band in part.bands] == [6, 6]
    assert [c.label for c in part.bands[0].cells] == [c.label for c in WHEEL.bands[0].cells][::2]


@pytest.mark.parametrize("steps", range(5, 12))
def test_steps_left_are_equal_and_ends_stay(steps):
    scale = asked("value-scale", choose(steps=steps), "split-six+black")
    kept = fewer_steps(scale)
    places = [n for n, cell in enumerate(scale.cells) if cell.id in kept]
    assert (places[0], places[-1]) == (0, steps - 1)
    assert len({after - one for one, after in zip(places, places[1:], strict=False)}) == 1


def test_what_a_row_is_about_stays():
    chart = asked("intensity-chart", choose(steps=9), "split-six+black")
    kept = fewer_steps(chart)
    about = {c.id for c in chart.cells if c.is_end or c.role.stands_apart}
    assert about < kept < {c.id for c in chart.cells}


@pytest.mark.parametrize(("kind", "wanted", "name"), EVERY)
def test_no_exercise_grows_and_its_shorter_form_stands_on_a_sheet(kind, wanted, name):
    whole = asked(kind, wanted, name)
    kept = fewer_steps(whole)
    assert 0 < len(kept) <= len(whole.cells)
    assert {cell.of for cell in whole.cells if cell.id in kept and cell.of} <= kept
    part = part_of(whole, kept)
    assert {cell.id for cell in part.cells} == kept
    assert fits(part, Paper.A4)
