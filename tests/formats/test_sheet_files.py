"""The PDF, the SVG and the layout say the same page."""

import json
import re

import numpy as np
import pypdfium2
import pytest

from noema.core.errors import BadFile
from noema.core.photo.code import read_code
from noema.core.photo.marks import find_marks
from noema.core.photo.straighten import place_page
from noema.core.sheet.calibration_sheet import calibration_layout
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout
from noema.formats.layout_json import layout_from_text, layout_to_json
from noema.formats.sheet_pdf import sheets_pdf
from noema.formats.sheet_svg import sheet_svg
from tests.core.exercises.grounds import plain

PX_PER_MM = 12.0
WORDS = Printed(student="Łucja Ångström", school_class="Year 8", due="Due in week 6")


def sheet(paper: Paper, steps: int = 9):
    asked = plain(steps)
    layout = worksheet_layout(asked, paper, "K7Q2-04", grey_only=True)
    return layout, draw_worksheet(layout, asked, paper, WORDS)


def rendered(pdf: bytes) -> np.ndarray:
    page = pypdfium2.PdfDocument(pdf)[0]
    return page.render(scale=PX_PER_MM * 25.4 / 72.0).to_numpy()[..., :3][..., ::-1].copy()


@pytest.mark.parametrize("paper", Paper)
def test_marks_and_cells_stand_where_the_layout_says(paper):
    layout, drawing = sheet(paper)
    picture = rendered(sheets_pdf([drawing], "t"))
    found = find_marks(picture)
    known = {m.id: m.corners_mm for m in layout.markers}
    assert sorted(found.ids) == sorted(known)
    for mark, corners in zip(found.ids, found.corners_px, strict=True):
        assert (corners + 0.5) / PX_PER_MM == pytest.approx(np.array(known[mark]), abs=0.2)
    dark = picture[..., 0] < 200
    for cell in layout.cells:
        (left, top), (right, bottom) = cell.polygon_mm[0], cell.polygon_mm[2]
        across = np.flatnonzero(dark[int((top + bottom) / 2 * PX_PER_MM)]) / PX_PER_MM
        assert np.abs(across - left).min() < 0.2
        assert np.abs(across - right).min() < 0.2


@pytest.mark.parametrize("paper", Paper)
def test_the_printed_code_can_be_read(paper):
    layout, drawing = sheet(paper)
    picture = rendered(sheets_pdf([drawing], "t"))
    placed = place_page(find_marks(picture), layout.markers)
    assert read_code(picture, placed, layout.qr_polygon_mm) == "K7Q2-04"


def test_a_class_is_one_vector_pdf_a_page_a_student():
    pages = [sheet(Paper.A4)[1]] * 24
    pdf = sheets_pdf(pages, "class")
    assert len(pypdfium2.PdfDocument(pdf)) == 24
    assert b"/Subtype /Image" not in pdf
    assert pdf == sheets_pdf(pages, "class")


def test_the_svg_is_as_large_as_the_paper_and_grey():
    layout, drawing = sheet(Paper.LETTER, steps=11)
    svg = sheet_svg(drawing)
    assert f'viewBox="0 0 {layout.width_mm} {layout.height_mm}"' in svg
    assert all(f'id="{cell.id}"' in svg for cell in layout.cells)
    colours = set(re.findall(r"#([0-9a-f]{6})", svg))
    assert all(c[:2] == c[2:4] == c[4:] for c in colours)


@pytest.mark.parametrize("paper", Paper)
def test_layouts_come_back_from_json(paper):
    layout, _ = sheet(paper)
    back = layout_from_text(json.dumps(layout_to_json(layout)))
    assert layout_to_json(back) == layout_to_json(layout)


def test_a_layout_says_that_its_cells_are_ink():
    page = calibration_layout(Paper.A4, "PRNT-01")
    assert layout_from_text(json.dumps(layout_to_json(page))).cells_printed
    before = layout_to_json(page)
    del before["print"]["cells"]  # as layouts were written until now
    assert not layout_from_text(json.dumps(before)).cells_printed


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("{", "not JSON"),
        ("[]", "format noema-sheet/1"),
        ('{"format": "noema-sheet/2"}', "format noema-sheet/1"),
        ('{"format": "noema-sheet/1"}', "incomplete"),
    ],
)
def test_other_layouts_are_refused(text, reason):
    with pytest.raises(BadFile, match=reason):
        layout_from_text(text)
