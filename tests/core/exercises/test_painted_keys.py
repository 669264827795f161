"""Keys that wait for paint: between own ends, and a teacher's sheet."""

from itertools import pairwise

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.value import value_to_lab
from noema.core.exercises.asked import CellShape
from noema.core.exercises.painted_keys import as_painted, between_own_ends
from tests.core.exercises.grounds import asked, choose, plain

SCALE = plain(5)

EVEN_ENOUGH = 1.2  # a way known at its steps only is cut along chords


def grey(value):
    lightness, a, b = value_to_lab(value).tolist()
    return (lightness, a, b)


def moved(lab, by):
    lightness, a, b = (np.array(lab) + by).tolist()
    return (lightness, a, b)


def by_id(exercise):
    return {cell.id: cell for cell in exercise.cells}


def test_a_value_scale_runs_evenly_between_own_ends():
    own = between_own_ends(SCALE, {"c1": grey(3.0), "c5": grey(9.0), "c3": grey(8.0)})
    assert [cell.hvc.value for cell in own.cells] == pytest.approx([3.0, 4.5, 6.0, 7.5, 9.0])


@pytest.mark.parametrize("painted", [{}, {"c1": grey(6.0), "c5": grey(6.4)}, {"c3": grey(2.0)}])
def test_without_ends_or_room_between_them_the_scale_stays(painted):
    own = between_own_ends(SCALE, painted)
    assert [c.hvc.value for c in own.cells] == pytest.approx([c.hvc.value for c in SCALE.cells])


@pytest.mark.parametrize("kind", ["tint-ladder", "chromatic-greys", "family-chart"])
def test_ladders_keep_even_steps_between_ends_of_another_colour(kind):
    exercise = asked(kind, choose(), "split-six")
    shift = np.array([-4.0, 6.0, -5.0])
    painted = {c.id: moved(c.lab, shift) for c in exercise.cells if c.is_end}
    own = between_own_ends(exercise, painted)
    for band in own.bands[:1]:
        labs = [cell.lab for cell in band.cells]
        steps = [float(ciede2000(one, two)) for one, two in pairwise(labs)]
        assert max(steps) <= EVEN_ENOUGH * min(steps)
        assert labs[0] == pytest.approx(painted[band.cells[0].id])
        assert labs[-1] == pytest.approx(painted[band.cells[-1].id])


def test_between_own_ends_the_neutral_still_leans_nowhere():
    chart = asked("intensity-chart", choose(steps=7, pairs=("red-green",)), "split-six")
    painted = {c.id: moved(c.lab, (3.0, 8.0, 8.0)) for c in chart.cells if c.is_end}
    own = between_own_ends(chart, painted)
    neutral = next(cell for cell in own.cells if cell.shape is CellShape.DIAMOND)
    before = by_id(chart)[neutral.id]
    assert neutral.lab[1:] == pytest.approx(before.lab[1:])
    assert neutral.lab[0] > before.lab[0]


def test_on_a_wheel_mixes_and_rings_move_with_the_primaries_they_are_mixed_from():
    wheel = asked("colour-wheel", choose(hues=12, rings=("tint-in",)), "three-traditional")
    cells = by_id(wheel)
    yellow, red = (cells[i] for i in ("h1", "h5"))
    painted = {c.id: c.lab for c in wheel.cells if c.is_end} | {
        yellow.id: moved(yellow.lab, (-8.0, 0.0, 0.0))
    }
    after = by_id(between_own_ends(wheel, painted))
    drops = {i: cells[i].lab[0] - after[i].lab[0] for i in cells}
    assert drops[yellow.id] == pytest.approx(8.0)
    assert drops[red.id] == pytest.approx(0.0, abs=0.01)
    assert 8.0 > drops["h2"] > drops["h3"] > drops["h4"] > 0.0
    assert drops["tint-in-1"] > 1.0
    assert drops["tint-in-7"] == pytest.approx(0.0, abs=0.5)


def test_grid_cells_move_with_their_tubes():
    grid = asked("mixing-grid", choose(tubes=("rose", "ultramarine", "lemon-yellow")), "split-six")
    cells = by_id(grid)
    rose = next(c for c in grid.cells if c.is_end and c.parts[0].tube.name == "rose")
    after = by_id(between_own_ends(grid, {rose.id: moved(rose.lab, (5.0, 0.0, 0.0))}))
    for cell in grid.cells:
        of_rose = any(part.tube.name == "rose" for part in cell.parts)
        assert (after[cell.id].lab[0] > cells[cell.id].lab[0] + 0.05) == of_rose


def test_a_teachers_sheet_is_taken_cell_by_cell():
    taught = as_painted(SCALE, {"c2": grey(3.9), "c4": grey(8.1)})
    assert [cell.hvc.value for cell in taught.cells] == pytest.approx(
        [2.5, 3.9, SCALE.cells[2].hvc.value, 8.1, 9.5]
    )
    assert "teacher" in taught.cells[1].note
    assert "teacher" not in taught.cells[2].note
