"""Bent paper is laid flat by its own print, and a misplaced page is refused."""

from dataclasses import replace

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.photo.bend import fit_bend
from noema.core.photo.landmarks import find_landmarks, register
from noema.core.photo.marks import FoundMarks, find_marks
from noema.core.photo.read import read_found
from noema.core.photo.stages.identify import Identified, IdentifiedSheet
from noema.core.photo.stages.place import Sought
from noema.core.photo.straighten import place_page
from noema.core.sheet.paper import LANDSCAPE, Paper
from noema.formats.photo_file import open_photo
from noema.stand_ins.camera import photograph
from noema.stand_ins.printer import Press, print_page
from noema.stand_ins.shot import Shot
from tests.core.photo.sheets import sheet_with_code

LAYOUT, PDF = sheet_with_code("K7Q2-04")
PRINTED = print_page(PDF, 0, Press(), 8.0)
CURLED = Shot(tilt=30.0, curl_mm=15.0, wrinkle_mm=0.8, lens=0.015)


def seen(shot: Shot):
    return open_photo(photograph(PRINTED, shot, (1800, 1350), default_rng(2)))


def misses(picture, placed) -> np.ndarray:
    """How far from their places printed patches are seen, in mm."""
    return np.linalg.norm(find_landmarks(picture.rgb, placed, LAYOUT).shifts_mm, axis=1)


def test_curled_paper_is_bent_until_its_print_fits():
    picture = seen(CURLED)
    flat = place_page(find_marks(picture.rgb), LAYOUT.markers)
    registered = register(picture.rgb, flat, LAYOUT)
    assert registered.sound
    assert np.median(misses(picture, flat)) > 0.4
    assert np.percentile(misses(picture, registered.placed), 90) < 0.35


def test_flat_paper_stays_flat():
    picture = seen(Shot(tilt=10.0))
    flat = place_page(find_marks(picture.rgb), LAYOUT.markers)
    bent = register(picture.rgb, flat, LAYOUT).placed
    places = np.array([[50.0, 50.0], [150.0, 100.0], [250.0, 170.0]])
    assert np.abs(bent.bend.at(places)).max() < 0.25


def test_marks_that_misplace_the_page_are_not_believed():
    picture = seen(Shot(tilt=10.0))
    found = find_marks(picture.rgb)
    three = list(range(3))
    wrong = found.corners_px[three] + np.array([70.0, 40.0])
    marks = FoundMarks(ids=tuple(found.ids[n] for n in three), corners_px=wrong)
    flat = place_page(marks, LAYOUT.markers)
    assert flat is not None
    own = IdentifiedSheet(marks=marks, frame=LANDSCAPE[Paper.A4], flat=flat)
    sought = Sought(picture=picture, layout=LAYOUT)
    reading = read_found(sought, Identified(marks=marks), own, check_code=False).reading
    assert not reading.found


@pytest.mark.parametrize("strays", [0, 4])
def test_a_plate_follows_a_smooth_shift_and_leaves_strays_out(strays):
    rng = default_rng(5)
    at = rng.uniform(0.0, 1.0, (60, 2)) * (297.0, 210.0)

    def bulge(points):
        size = 2.0 * np.exp(-np.sum((points - (150.0, 100.0)) ** 2, axis=1) / 80.0**2)
        return np.stack([size, 0.5 * size], axis=1)

    shifts = bulge(at) + rng.normal(0.0, 0.05, (60, 2))
    shifts[:strays] += 5.0
    bend = fit_bend(at, shifts, np.full(60, 0.15))
    inside = rng.uniform(0.2, 0.8, (30, 2)) * (297.0, 210.0)
    assert np.abs(bend.at(inside) - bulge(inside)).max() < 0.3


def test_too_few_landmarks_bend_nothing():
    few = np.array([[0.0, 0.0], [100.0, 0.0], [0.0, 100.0]])
    assert fit_bend(few, few * 0.0, np.full(3, 0.15)) is None


def test_where_no_patch_can_be_seen_marks_are_enough():
    picture = seen(Shot())
    bare = replace(LAYOUT, reference=())
    placed = place_page(find_marks(picture.rgb), LAYOUT.markers)
    assert register(picture.rgb, placed, bare).sound
