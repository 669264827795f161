"""The page found from its marks, and refused when the marks don't agree."""

import numpy as np
import pytest

from noema.core.photo.marks import FoundMarks
from noema.core.photo.straighten import place_page, polygon_pixels, straighten, to_picture
from noema.core.sheet.layout import box
from noema.core.sheet.paper import LANDSCAPE, Paper

FRAME = LANDSCAPE[Paper.A4]
LEANING = np.array([[8.0, 0.9, 300.0], [-0.7, 7.5, 400.0], [0.0004, 0.0007, 1.0]])
NUDGE_PX = 0.2


def seen(homography, ids=range(8), nudge=0.0):
    rng = np.random.default_rng(1)
    marks = [marker for marker in FRAME.markers if marker.id in ids]
    corners = np.array([marker.corners_mm for marker in marks]).reshape(-1, 4, 2)
    mapped = np.concatenate([corners, np.ones((*corners.shape[:2], 1))], axis=2) @ homography.T
    points = mapped[..., :2] / mapped[..., 2:] + rng.normal(0, nudge, corners.shape)
    return FoundMarks(ids=tuple(marker.id for marker in marks), corners_px=points)


def test_the_page_is_placed_to_a_fraction_of_a_pixel():
    placed = place_page(seen(LEANING, nudge=NUDGE_PX), FRAME.markers)
    for place in [box(20, 20, 10, 10), box(150, 100, 30, 20), box(260, 180, 10, 10)]:
        points = np.array([[*point, 1.0] for point in place]) @ LEANING.T
        assert to_picture(placed, place) == pytest.approx(points[:, :2] / points[:, 2:], abs=0.5)


@pytest.mark.parametrize("ids", [(0, 2, 5, 7), (0, 2, 5), (1, 3, 6)])
def test_some_marks_may_be_hidden(ids):
    assert place_page(seen(LEANING, ids, NUDGE_PX), FRAME.markers) is not None


@pytest.mark.parametrize("ids", [(), (0,), (0, 7)])
def test_too_few_marks_make_no_page(ids):
    assert place_page(seen(LEANING, ids), FRAME.markers) is None


def test_marks_of_another_paper_make_no_page():
    assert place_page(seen(LEANING), LANDSCAPE[Paper.LETTER].markers) is None


def test_marks_that_dont_lie_on_one_page_make_no_page():
    rng = np.random.default_rng(2)
    found = seen(LEANING)
    torn = FoundMarks(ids=found.ids, corners_px=found.corners_px + rng.normal(0, 80, (8, 1, 2)))
    assert place_page(torn, FRAME.markers) is None


def test_one_mark_misread_doesnt_move_the_page():
    found = seen(LEANING)
    moved = found.corners_px.copy()
    moved[3] += 150.0
    placed = place_page(FoundMarks(ids=found.ids, corners_px=moved), FRAME.markers)
    true = np.array([[148.5, 105.0, 1.0]]) @ LEANING.T
    middle = to_picture(placed, ((148.5, 105.0),) * 3)[0]
    assert middle == pytest.approx(true[0, :2] / true[0, 2], abs=1.0)


def test_a_straightened_picture_shows_the_right_place():
    plain = np.diag([4.0, 4.0, 1.0])
    picture = np.zeros((840, 1188, 3), dtype=np.uint8)
    picture[200:240, 400:480] = 255
    placed = place_page(seen(plain), FRAME.markers)
    flat = straighten(picture, placed, (20.0, 10.0), corner_mm=(100.0, 50.0), px_per_mm=2.0)
    assert flat.shape == (20, 40, 3)
    assert flat[2:-2, 2:-2].min() == 255


def test_pixels_inside_a_polygon_shrink_with_the_inset_and_stay_on_the_page():
    whole = polygon_pixels(box(10, 10, 20, 10), 0.0, (400, 400), 4.0)
    inner = polygon_pixels(box(10, 10, 20, 10), 2.0, (400, 400), 4.0)
    assert len(whole) == pytest.approx(80 * 40, rel=0.06)
    assert len(inner) == pytest.approx(64 * 24, rel=0.1)
    assert inner.min(axis=0).tolist() > whole.min(axis=0).tolist()
    assert len(polygon_pixels(box(-20, -20, 10, 10), 0.0, (400, 400), 4.0)) == 0
