"""Several photographs of one sheet are read as one."""

from dataclasses import replace

import pytest

from noema.core.colour.hvc import hvc_of
from noema.core.photo.parameters.together import TOGETHER
from noema.core.photo.reading import CellFlag, CellReading, Reading, SheetFlag
from noema.core.photo.together import read_together, same_paint


def cell(name="c1", lab=(50.0, 20.0, 10.0), sigma=2.0, flags=()):
    return CellReading(
        id=name,
        lab=lab,
        hvc=hvc_of(lab),
        sigma=sigma,
        sigma_value=0.2,
        sigma_step=0.1,
        sigma_hue=2.0,
        sigma_chroma=0.4,
        coverage=1.0,
        unevenness=0.02,
        spill=0.0,
        flags=flags,
    )


def reading(*cells, flags=()):
    return Reading(sheet="K7Q2-04", found=True, flags=flags, cells=cells)


def test_one_photograph_stays_as_it_was_read():
    one = reading(cell())
    assert read_together([one]) == one
    missed = Reading(sheet=None, found=False, flags=(SheetFlag.NO_SHEET,), cells=())
    assert read_together([missed, one]) == one
    assert read_together([missed, missed]) == missed


def test_the_mean_is_weighted_by_how_sure_each_is_and_surer_than_any():
    sure, unsure = cell(lab=(50.0, 20.0, 10.0), sigma=1.0), cell(lab=(50.5, 20.0, 10.0), sigma=2.0)
    (found,) = read_together([reading(sure), reading(unsure)]).cells
    assert found.lab == pytest.approx((50.1, 20.0, 10.0))
    assert found.hvc == hvc_of(found.lab)
    assert found.sigma <= 1.0
    (found,) = read_together([reading(sure), reading(sure)]).cells
    left = (TOGETHER.shared + (1.0 - TOGETHER.shared) / 2.0) ** 0.5
    assert found.sigma == pytest.approx(left)
    assert found.sigma_value == pytest.approx(0.2 * left)


def test_what_all_share_stays_however_many_there_are():
    (found,) = read_together([reading(cell())] * 40).cells
    assert found.sigma == pytest.approx(2.0 * TOGETHER.shared**0.5, rel=0.02)


def test_a_cell_comes_from_where_nothing_lies_over_it():
    shines = cell(lab=(70.0, 10.0, 5.0), sigma=0.5, flags=(CellFlag.GLARE,))
    (found,) = read_together([reading(shines), reading(cell())]).cells
    assert found.lab == (50.0, 20.0, 10.0)
    assert found.flags == ()


def test_what_lies_over_a_cell_in_all_of_them_is_said():
    shines, shaded = cell(flags=(CellFlag.GLARE,)), cell(sigma=3.0, flags=(CellFlag.SHADOW,))
    (found,) = read_together([reading(shines), reading(shaded)]).cells
    assert found.flags == (CellFlag.GLARE,)
    assert found.sigma == 2.0


def test_how_it_was_painted_is_said_where_most_show_it():
    patchy = cell(flags=(CellFlag.PARTLY_PAINTED,))
    assert read_together([reading(patchy)] * 2 + [reading(cell())]).cells[0].flags == patchy.flags
    assert read_together([reading(patchy)] + [reading(cell())] * 2).cells[0].flags == ()


def test_photographs_that_disagree_are_doubted_more():
    one, other = cell(), cell(lab=(50.0, 30.0, 10.0))
    (found,) = read_together([reading(one), reading(other)]).cells
    assert found.sigma > 2.0


def test_a_flag_of_the_sheet_stays_only_if_all_have_it():
    dark, fine = reading(cell(), flags=(SheetFlag.UNEVEN_LIGHT,)), reading(cell())
    assert read_together([dark, dark]).flags == (SheetFlag.UNEVEN_LIGHT,)
    assert read_together([dark, fine]).flags == ()


@pytest.mark.parametrize(
    ("again", "same"),
    [
        (cell(lab=(53.0, 20.0, 10.0)), True),
        (cell(lab=(65.0, 20.0, 10.0)), False),  # painted over
        (cell(lab=(65.0, 20.0, 10.0), flags=(CellFlag.GLARE,)), True),  # nobody can tell
        (cell(lab=(65.0, 20.0, 10.0), sigma=14.0), True),
        (cell(flags=(CellFlag.UNPAINTED,)), False),
    ],
)
def test_paint_that_was_gone_over_is_told(again, same):
    assert same_paint(reading(cell()), reading(again)) is same
    assert same_paint(reading(again), reading(cell())) is same


def test_another_sheets_cells_are_no_same_paint():
    assert not same_paint(reading(cell()), reading(cell(), cell("c2")))
    lost = replace(reading(cell()), found=False)
    assert not same_paint(lost, reading(cell()))
