"""The strip keeps its marks, patches and window apart."""

from itertools import combinations

import pytest

from noema.core.sheet.drawing import Mark
from noema.core.sheet.layout import PatchKind
from noema.core.sheet.paper import FRAMES, Paper
from noema.core.sheet.strip import draw_strips, strip_layout


def bounds(polygon):
    xs, ys = zip(*polygon, strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def test_nothing_on_it_overlaps_and_all_lies_inside():
    layout = strip_layout()
    things = [layout.qr_polygon_mm, layout.cells[0].polygon_mm]
    things += [one.corners_mm for one in layout.markers]
    things += [one.polygon_mm for one in layout.reference]
    for one, other in combinations(map(bounds, things), 2):
        apart = one[2] <= other[0] or other[2] <= one[0] or one[3] <= other[1] or other[3] <= one[1]
        assert apart, (one, other)
    for left, top, right, bottom in map(bounds, things):
        assert left >= 5.0
        assert top >= 5.0
        assert right <= layout.width_mm - 5.0
        assert bottom <= layout.height_mm - 5.0


def test_its_marks_are_no_other_paper_s():
    ids = [marker.id for frame in FRAMES for marker in frame.markers]
    assert len(ids) == len(set(ids))


@pytest.mark.parametrize("grey_only", [False, True])
def test_greys_and_bare_paper_lie_round_the_window(grey_only):
    kinds = [one.kind for one in strip_layout(grey_only=grey_only).reference]
    assert kinds.count(PatchKind.PAPER) >= 20
    assert (PatchKind.COLOUR in kinds) is not grey_only


@pytest.mark.parametrize("paper", list(Paper))
def test_a_page_holds_two_strips_whole(paper):
    page = draw_strips(paper)
    marks = [one for one in page.items if isinstance(one, Mark)]
    assert len(marks) == 16
    for mark in marks:
        left, top, right, bottom = bounds(mark.square_mm)
        assert left > 0
        assert top > 0
        assert right < page.width_mm
        assert bottom < page.height_mm
