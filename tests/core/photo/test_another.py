"""Another picture is asked for where light hides something, and only there."""

from dataclasses import replace

import pytest

from noema.core.colour.hvc import hvc_of
from noema.core.photo.another import why_another
from noema.core.photo.reading import CellFlag, CellReading, Reading, SheetFlag

GREY = (60.0, 0.0, 0.0)


def reading(*flags: CellFlag, sheet: tuple[SheetFlag, ...] = ()) -> Reading:
    """A reading of four cells, each with one of the flags as long as they last."""
    cell = CellReading(
        id="",
        lab=GREY,
        hvc=hvc_of(GREY),
        sigma=2.0,
        sigma_value=0.2,
        sigma_step=0.1,
        sigma_hue=2.0,
        sigma_chroma=0.5,
        coverage=1.0,
        unevenness=0.02,
        spill=0.0,
        flags=(),
    )
    cells = tuple(
        replace(cell, id=f"c{n}", flags=flags[n : n + 1]) for n in range(max(4, len(flags)))
    )
    return Reading(sheet="K7Q2-04", found=True, flags=sheet, cells=cells)


def test_a_clear_picture_is_enough():
    assert why_another(reading()) == ""


@pytest.mark.parametrize(
    "flag", [CellFlag.UNPAINTED, CellFlag.PARTLY_PAINTED, CellFlag.UNEVEN], ids=lambda f: f.value
)
def test_how_it_was_painted_no_other_picture_changes(flag):
    assert why_another(reading(flag, flag)) == ""


def test_the_sentence_names_what_hides_the_paint_and_how_many_cells():
    assert why_another(reading(CellFlag.GLARE)).startswith("Light shines on 1 cell:")
    assert why_another(reading(CellFlag.GLARE, CellFlag.GLARE)).startswith("Light shines on 2")
    assert why_another(reading(CellFlag.SHADOW)).startswith("A shadow ends on 1 cell:")
    assert "can't be seen well" in why_another(reading(CellFlag.CLIPPED, CellFlag.OUTSIDE))
    assert "hold still" in why_another(reading(sheet=(SheetFlag.BLURRED,)))


def test_shine_that_turning_moves_is_said_before_what_it_does_not():
    both = why_another(reading(CellFlag.GLARE, CellFlag.OUTSIDE))
    assert "turn the sheet" in both


def test_nothing_is_asked_where_no_sheet_was_found():
    nothing = Reading(sheet=None, found=False, flags=(SheetFlag.BLURRED,), cells=())
    assert why_another(nothing) == ""
