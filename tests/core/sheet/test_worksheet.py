"""Every kind's sheet is worth painting on: sizes, gaps, margins, on both papers."""

import json
from pathlib import Path

import cv2
import jsonschema
import numpy as np
import pypdfium2
import pytest

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, Band
from noema.core.exercises.piles import say_mixes
from noema.core.photo.code import read_code
from noema.core.photo.marks import find_marks
from noema.core.photo.straighten import place_page
from noema.core.sheet.drawing import Anchor, Shape, Words
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.key_sheet import LEAST_LETTERS_MM, draw_key_sheets
from noema.core.sheet.layout import PatchKind
from noema.core.sheet.paper import MARGIN_MM, Paper
from noema.core.sheet.worksheet import GAP_MM, LEAST_CELL_MM, plan_of, worksheet_layout
from noema.formats.layout_json import layout_to_json
from noema.formats.sheet_pdf import posters_pdf, sheets_pdf, words_width_mm
from noema.formats.sheet_svg import sheet_svg
from tests.core.exercises.grounds import EVERY, asked, choose

SCHEMA = json.loads((Path(__file__).parents[3] / "docs/layout.schema.json").read_text())
PX_PER_MM = 6
WORDS = Printed(student="Łucja Ångström", school_class="Year 8", due="Due in week 6")


def filled(polygons, layout):
    """How many polygons cover each pixel, at 6 pixels a millimetre."""
    size = (round(layout.height_mm * PX_PER_MM), round(layout.width_mm * PX_PER_MM))
    total = np.zeros(size, np.uint8)
    for polygon in polygons:
        one = np.zeros(size, np.uint8)
        cv2.fillPoly(one, [np.rint(np.array(polygon) * PX_PER_MM).astype(np.int32)], 1)
        total += one
    return total


def window(points, more_mm):
    """The pixels round a cell, and some millimetres more."""
    low = np.maximum((points.min(axis=0) - more_mm) * PX_PER_MM, 0).astype(int)
    high = ((points.max(axis=0) + more_mm) * PX_PER_MM).astype(int)
    return slice(low[1], high[1]), slice(low[0], high[0])


@pytest.mark.parametrize(
    ("kind", "wanted", "name", "paper"),
    [
        *((*one, Paper.A4) for one in EVERY),
        *((*one, Paper.LETTER) for one in EVERY if one[2] != "darks"),
    ],
)
@pytest.mark.parametrize("roomy", [{}, {"larger": True, "volumes": True}])
def test_cells_are_large_apart_and_inside_the_margin(kind, wanted, name, paper, roomy):
    layout = worksheet_layout(asked(kind, wanted, name), paper, "K7Q2-04", grey_only=False, **roomy)
    jsonschema.validate(layout_to_json(layout), SCHEMA)
    cells = [cell.polygon_mm for cell in layout.cells]
    cover = filled(cells, layout)
    assert cover.max() == 1
    inside = 2 * cv2.distanceTransform(cover, cv2.DIST_L2, 5) / PX_PER_MM
    printed = [p.polygon_mm for p in layout.reference if p.kind is not PatchKind.PAPER]
    room = 2 * cv2.distanceTransform(1 - filled([*cells, *printed], layout), cv2.DIST_L2, 5)
    page = np.array([layout.width_mm, layout.height_mm])
    for polygon in cells:
        points = np.array(polygon)
        assert points.min() >= MARGIN_MM
        assert (points.max(axis=0) <= page - MARGIN_MM).all()
        assert inside[window(points, 0)].max() >= LEAST_CELL_MM - 0.4
        assert room[window(points, GAP_MM)].max() / PX_PER_MM >= GAP_MM - 0.5
    papers = [p.polygon_mm for p in layout.reference if p.kind is PatchKind.PAPER]
    assert (filled([*papers, *cells], layout) <= 1).all()


@pytest.mark.parametrize("paper", Paper)
@pytest.mark.parametrize("kind", ["colour-wheel", "intensity-chart", "colour-match"])
def test_the_pdf_stands_where_the_layout_says_and_can_be_found(kind, paper):
    exercise = asked(kind, choose(), "split-six")
    layout = worksheet_layout(exercise, paper, "K7Q2-04", grey_only=False)
    drawing = draw_worksheet(layout, exercise, paper, WORDS)
    page = pypdfium2.PdfDocument(sheets_pdf([drawing], "t"))[0]
    picture = page.render(scale=12 * 25.4 / 72).to_numpy()[..., :3][..., ::-1].copy()
    found = find_marks(picture)
    known = {m.id: m.corners_mm for m in layout.markers}
    assert sorted(found.ids) == sorted(known)
    for mark, corners in zip(found.ids, found.corners_px, strict=True):
        assert (corners + 0.5) / 12 == pytest.approx(np.array(known[mark]), abs=0.2)
    placed = place_page(found, layout.markers)
    assert read_code(picture, placed, layout.qr_polygon_mm) == "K7Q2-04"
    lines = (picture.max(axis=2) < 215).astype(np.uint8)
    away = cv2.distanceTransform(1 - lines, cv2.DIST_L2, 5) / 12
    for cell in layout.cells:
        points = np.array(cell.polygon_mm)
        for x, y in (points + np.roll(points, -1, axis=0)) / 2:
            assert away[int(y * 12), int(x * 12)] < 0.2, cell.id


@pytest.mark.parametrize(("kind", "wanted", "name"), EVERY[::3])
def test_labels_never_cover_a_cell(kind, wanted, name):
    exercise = asked(kind, wanted, name)
    layout = worksheet_layout(exercise, Paper.A4, "K7Q2-04", grey_only=True)
    drawing = draw_worksheet(layout, exercise, Paper.A4, WORDS)
    cover = filled([cell.polygon_mm for cell in layout.cells], layout)
    for words in (item for item in drawing.items if isinstance(item, Words)):
        width = words_width_mm(words)
        left = words.at_mm[0] - {"start": 0, "middle": width / 2, "end": width}[words.anchor.value]
        top, bottom = words.at_mm[1] - 0.7 * words.size_mm, words.at_mm[1]
        area = cover[
            int(top * PX_PER_MM) : int(bottom * PX_PER_MM),
            int(left * PX_PER_MM) : int((left + width) * PX_PER_MM),
        ]
        assert not area.any(), words.text


@pytest.mark.parametrize(
    ("kind", "wanted"),
    [
        ("value-scale", choose(steps=9)),
        ("tint-ladder", choose(steps=7, tubes=("scarlet", "lemon-yellow"))),
        ("intensity-chart", choose()),
    ],
)
def test_a_beginners_sheet_names_the_volumes_of_every_mix(kind, wanted):
    exercise = asked(kind, wanted, "split-six+black")
    words = Printed(shows_parts=True)
    layout = worksheet_layout(exercise, Paper.A4, "K7Q2-04", grey_only=True, volumes=True)
    drawing = draw_worksheet(layout, exercise, Paper.A4, words)
    lines = [item for item in drawing.items if isinstance(item, Words)]
    for cell in layout.cells:
        mixed = len(next(one for one in exercise.cells if one.id == cell.id).parts) > 1
        xs, top = [x for x, _ in cell.polygon_mm], min(y for _, y in cell.polygon_mm)
        middle = (min(xs) + max(xs)) / 2.0
        over = [
            one
            for one in lines
            if abs(one.at_mm[0] - middle) < 0.5 and top - 8.0 < one.at_mm[1] < top
        ]
        assert any(one.size_mm < 2.5 for one in over) is mixed, cell.id
        for one in over:
            assert words_width_mm(one) < max(xs) - min(xs) + GAP_MM


@pytest.mark.parametrize(("kind", "wanted", "name"), EVERY[::2])
def test_a_key_sheet_is_read_from_a_metre_and_says_every_mix(kind, wanted, name):
    exercise = asked(kind, wanted, name)
    pages = draw_key_sheets(exercise, Paper.A4, "Year 8")
    lines = [(page, item) for page in pages for item in page.items if isinstance(item, Words)]
    assert min(item.size_mm for _, item in lines) >= LEAST_LETTERS_MM
    shown = {item.name for page in pages for item in page.items if isinstance(item, Shape)}
    assert {cell.id for cell in exercise.cells} <= shown
    whole = " ".join(item.text for _, item in lines).replace(" ", "")
    for mix in say_mixes(exercise).values():
        assert mix.replace(" ", "") in whole
    for page, item in lines:
        wide = words_width_mm(item)
        left = {
            Anchor.START: item.at_mm[0],
            Anchor.MIDDLE: item.at_mm[0] - wide / 2.0,
            Anchor.END: item.at_mm[0] - wide,
        }[item.anchor]
        assert left > 4.0, item.text
        assert left + wide < page.width_mm - 4.0, item.text
        assert item.at_mm[1] < page.height_mm - 4.0, item.text


def test_a_poster_is_cut_into_tiles_that_hold_all_of_it():
    exercise = asked("tint-ladder", choose(), "split-six")
    pages = draw_key_sheets(exercise, Paper.A4, "")
    poster = pypdfium2.PdfDocument(posters_pdf(pages, "t", across=2))
    assert len(poster) == 4 * len(pages)
    text = " ".join(poster[n].get_textpage().get_text_bounded() for n in range(4))
    assert "row 2, column 2" in text
    larger = pypdfium2.PdfDocument(sheets_pdf(pages, "t", larger=2.0))[0]
    assert larger.get_width() == pytest.approx(2.0 * 297.0 / 25.4 * 72.0, rel=1e-3)


@pytest.mark.parametrize("kind", ["tint-ladder", "colour-wheel", "value-scale"])
def test_a_sheet_done_again_carries_what_was_said_clear_of_all_else(kind):
    exercise = asked(kind, choose(), "split-six+black")
    layout = worksheet_layout(exercise, Paper.A4, "K7Q2-04", grey_only=False)
    said = "Green, tint-in: about half a step too dark. " * 4
    both = [
        draw_worksheet(layout, exercise, Paper.A4, Printed(student="Ida", last_time=text))
        for text in ("", said)
    ]
    plain, again = ([i for i in one.items if isinstance(i, Words)] for one in both)
    added = [words for words in again if words not in plain]
    assert added[0].text.startswith("Last time: Green")
    assert 2 <= len(added) <= 7
    boxes = [np.array(cell.polygon_mm) for cell in layout.cells]
    for words in added:
        wide = 1.4 * len(words.text)
        left = words.at_mm[0] - (wide if words.anchor is Anchor.END else 0.0)
        for box in boxes:
            beside = left > box[:, 0].max() or left + wide < box[:, 0].min()
            assert (
                beside or words.at_mm[1] < box[:, 1].min() or words.at_mm[1] - 3 > box[:, 1].max()
            )
    for other in plain:
        near = [w for w in added if abs(w.at_mm[1] - other.at_mm[1]) < 2.0]
        assert not near or other.at_mm[0] < 60.0 or other.at_mm[0] < near[0].at_mm[0] - 5.0


def test_a_grey_sheet_has_no_coloured_patch_and_a_key_sheet_no_mark():
    exercise = asked("colour-wheel", choose(), "split-six")
    grey = worksheet_layout(exercise, Paper.A4, "K7Q2-04", grey_only=True)
    assert {p.kind for p in grey.reference} == {PatchKind.PAPER, PatchKind.GREY}
    colour = worksheet_layout(exercise, Paper.A4, "K7Q2-04", grey_only=False)
    assert PatchKind.COLOUR in {p.kind for p in colour.reference}
    key = sheet_svg(draw_key_sheets(exercise, Paper.A4, "Year 8")[0])
    assert "Key sheet" in key
    page = pypdfium2.PdfDocument(sheets_pdf(draw_key_sheets(exercise, Paper.A4, ""), "t"))[0]
    picture = page.render(scale=4).to_numpy()[..., :3].copy()
    assert len(find_marks(picture).ids) == 0


def test_a_class_set_of_wheels_is_small():
    exercise = asked("colour-wheel", choose(rings=("tint-in", "neutral-2")), "split-six")
    drawings = []
    for number in range(1, 33):
        code = f"K7Q2-{number:02d}"
        layout = worksheet_layout(exercise, Paper.A4, code, grey_only=False)
        drawings.append(draw_worksheet(layout, exercise, Paper.A4, WORDS))
    assert len(sheets_pdf(drawings, "t")) < 3_000_000


def test_rows_that_do_not_fit_are_refused_with_what_would():
    exercise = asked("tint-ladder", choose(steps=11), "split-six")
    many = Asked(**{**vars(exercise), "bands": (*exercise.bands, *exercise.bands)})
    with pytest.raises(BadExercise, match="take fewer rows or steps"):
        plan_of(many, Paper.A4)
    wheel = asked("colour-wheel", choose(hues=24), "split-six")
    ring = Band(label="again", cells=wheel.bands[0].cells)
    crowded = Asked(**{**vars(wheel), "bands": (*wheel.bands, ring, ring)})
    assert crowded.arrangement is Arrangement.WHEEL
    with pytest.raises(BadExercise, match="fewer rings or fewer hues"):
        plan_of(crowded, Paper.A4)
