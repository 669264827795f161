"""Laws of the value scale's page."""

import pytest

from noema.core.exercises.media import Medium
from noema.core.exercises.value_scale import ValueScale
from noema.core.sheet.drawing import Words
from noema.core.sheet.layout import PatchKind, Polygon
from noema.core.sheet.paper import FRAMES, Paper
from noema.core.sheet.value_scale_sheet import SheetWords, draw_value_scale, value_scale_layout
from noema.formats.sheet_pdf import words_width_mm

EVERY = [(steps, paper) for steps in range(5, 12) for paper in Paper]


def edges(polygon: Polygon) -> tuple[float, float, float, float]:
    across, down = zip(*polygon, strict=True)
    return min(across), min(down), max(across), max(down)


def overlap(one: Polygon, two: Polygon) -> bool:
    left, top, right, bottom = edges(one)
    left2, top2, right2, bottom2 = edges(two)
    return left < right2 and left2 < right and top < bottom2 and top2 < bottom


def layout_of(steps: int, paper: Paper):
    return value_scale_layout(ValueScale(steps=steps, medium=Medium.ACRYLIC), paper, "K7Q2-04")


@pytest.mark.parametrize(("steps", "paper"), EVERY)
def test_nothing_overlaps_and_all_lies_on_the_page(steps, paper):
    layout = layout_of(steps, paper)
    places = [m.corners_mm for m in layout.markers]
    places += [p.polygon_mm for p in layout.reference] + [c.polygon_mm for c in layout.cells]
    places.append(layout.qr_polygon_mm)
    for n, one in enumerate(places):
        left, top, right, bottom = edges(one)
        assert left >= 9.99
        assert top >= 9.99
        assert right <= layout.width_mm - 9.99
        assert bottom <= layout.height_mm - 9.99
        assert not any(overlap(one, two) for two in places[n + 1 :])


@pytest.mark.parametrize(("steps", "paper"), EVERY)
def test_cells_can_be_painted(steps, paper):
    layout = layout_of(steps, paper)
    for cell in layout.cells:
        left, top, right, bottom = edges(cell.polygon_mm)
        assert right - left >= 18.0
        assert bottom - top >= 18.0
    gaps = [
        edges(after.polygon_mm)[0] - edges(before.polygon_mm)[2]
        for before, after in zip(layout.cells, layout.cells[1:], strict=False)
    ]
    assert min(gaps) >= 2.99


def test_enough_is_known_on_the_page():
    layout = layout_of(9, Paper.A4)
    greys = {p.nominal_srgb for p in layout.reference if p.kind is PatchKind.GREY}
    assert len(greys) >= 5
    assert sum(p.kind is PatchKind.PAPER for p in layout.reference) >= 20


def test_papers_are_told_apart_by_their_marks():
    numbers = [marker.id for frame in FRAMES for marker in frame.markers]
    assert len(numbers) == len(set(numbers))


@pytest.mark.parametrize("paper", Paper)
@pytest.mark.parametrize("medium", Medium)
def test_words_stay_clear_of_the_edge_and_the_code(paper, medium):
    scale = ValueScale(steps=9, medium=medium)
    layout = value_scale_layout(scale, paper, "K7Q2-104")
    words = SheetWords(student="M" * 12, school_class="Year 8", due="Due in week 6 of 12")
    for item in draw_value_scale(layout, scale, words).items:
        if isinstance(item, Words) and item.anchor.value == "start":
            assert item.at_mm[0] + words_width_mm(item) <= layout.width_mm - 10.0
