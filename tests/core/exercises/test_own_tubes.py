"""Tubes as they come, beside an exercise: on its sheet, in its readings, counted for nobody."""

from dataclasses import replace

import cv2
import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Ground
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.own_tubes import with_own_tubes
from noema.core.exercises.painted_keys import as_tubes_are
from noema.core.exercises.part import part_of
from noema.core.judging.class_tubes import SheetOfClass, tubes_of_class
from noema.core.judging.judge import judge
from noema.core.judging.verdict import Verdict
from noema.core.photo.reading import CellFlag
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.shelf import builtin_set
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import GAP_MM, LEAST_CELL_MM, plan_of, worksheet_layout
from noema.formats.asked_json import asked_from_json, asked_to_json
from noema.stand_ins.makers import mixed_by_eye, tubes_of_a_maker
from tests.core.exercises.grounds import EVERY, asked, choose
from tests.core.judging.readings import SPLIT, read_labs

GROUND = Ground(paints=SPLIT, table=USUAL_HUES)
DRY = SPLIT.binder.dry
PLAIN = asked("colour-wheel", choose(hues=12, rings=("tint-in",)), "split-six+black")
WHEEL = with_own_tubes(PLAIN, GROUND)


def judged(reading, exercise=WHEEL):
    return judge(reading, exercise, Key.PAINTS, Level.BEGINNER, paints=SPLIT)


def test_every_tube_of_a_mix_stands_alone_somewhere():
    alone = [cell.parts[0].tube.name for cell in WHEEL.on_paper if len(cell.parts) == 1]
    used = {part.tube.name for cell in WHEEL.cells for part in cell.parts}
    assert set(alone) == used
    assert WHEEL.tubes
    assert {cell.parts[0].tube.name for cell in WHEEL.tubes}.isdisjoint(
        cell.parts[0].tube.name for cell in PLAIN.cells if len(cell.parts) == 1
    )


@pytest.mark.parametrize("paper", list(Paper))
@pytest.mark.parametrize(("kind", "wanted", "name"), EVERY)
def test_they_find_room_apart_from_all_else(kind, wanted, name, paper):
    ground = Ground(paints=builtin_set(name), table=USUAL_HUES)
    exercise = with_own_tubes(asked(kind, wanted, name), ground)
    layout = worksheet_layout(exercise, paper, "K7Q2-04", grey_only=False)
    assert [cell.id for cell in layout.cells] == [cell.id for cell in exercise.on_paper]
    marks = [np.array(mark.corners_mm) for mark in layout.markers]
    boxes = [np.array(cell.polygon_mm, np.float32) for cell in layout.cells]
    own = boxes[len(exercise.cells) :]
    printed = [np.array(one.polygon_mm, np.float32) for one in layout.reference]
    for box in own:
        assert np.ptp(box, axis=0).min() >= LEAST_CELL_MM - 0.01
        for other in (*marks, *printed, *(one for one in boxes if one is not box)):
            assert not _overlap(box, np.asarray(other, np.float32))
        for other in (one for one in boxes if one is not box):
            assert _gap(box, other) >= GAP_MM - 0.01


def test_where_there_is_no_room_it_is_said():
    twelve = replace(WHEEL, tubes=WHEEL.tubes * 4)
    with pytest.raises(BadExercise, match="find no room beside a wheel: leave them out"):
        plan_of(twelve, Paper.A4)


def _overlap(one, other):
    return cv2.intersectConvexConvex(cv2.convexHull(one), cv2.convexHull(other))[0] > 0.01


def _gap(one, other):
    """The room between a box and another outline, mm."""
    low, high = one.min(axis=0), one.max(axis=0)
    ends = np.concatenate([other, (other + np.roll(other, 1, axis=0)) / 2.0])
    return np.linalg.norm(np.maximum(np.maximum(low - ends, ends - high), 0.0), axis=1).min()


def test_they_are_judged_for_nobody():
    right = judged(read_labs(WHEEL))
    assert [cell.id for cell in right.cells] == [cell.id for cell in WHEEL.cells]
    odd = {cell.id: (20.0, 5.0, 5.0) for cell in WHEEL.tubes}
    wrong = judged(read_labs(WHEEL, odd))
    assert all(cell.verdict is Verdict.HOLDS for cell in wrong.cells)
    assert not wrong.findings
    bare = {cell.id: (CellFlag.UNPAINTED,) for cell in WHEEL.tubes}
    empty = judged(read_labs(WHEEL, {one: (95.0, 0.0, 1.0) for one in bare}, flags=bare))
    assert not empty.findings


def test_a_class_tells_more_of_its_tubes_with_them():
    maker = tubes_of_a_maker(SPLIT.tubes, np.random.default_rng(7))

    def learned(exercise):
        sheets = []
        for seed in range(8):
            rng = np.random.default_rng(seed)
            labs = {
                cell.id: mixed_by_eye(cell.parts, cell.lab, maker, DRY, rng, 0.15)[0]
                for cell in exercise.on_paper
            }
            sheets.append(SheetOfClass(asked=exercise, cells=read_labs(exercise, labs).cells))
        return tubes_of_class(sheets, DRY)

    def away(known):
        names = [cell.parts[0].tube.name for cell in WHEEL.tubes if cell.hvc.value < 9.0]
        return [
            float(ciede2000(_masstone(known.as_it_is(SPLIT.tube(name))), _masstone(maker[name])))
            for name in names
        ]

    assert sum(away(learned(WHEEL))) < 0.8 * sum(away(learned(PLAIN)))


def _masstone(tube):
    return lab_of_parts([Part(tube=tube, amount=1.0)], DRY)


def test_they_are_kept_moved_and_left_out_of_a_redo():
    assert asked_from_json(asked_to_json(WHEEL), SPLIT).tubes[0].parts == WHEEL.tubes[0].parts
    known = tubes_of_class(
        [SheetOfClass(asked=WHEEL, cells=read_labs(WHEEL, cast=(-6.0, 2.0, 2.0)).cells)] * 6, DRY
    )
    moved = as_tubes_are(WHEEL, known, DRY)
    assert [one.id for one in moved.tubes] == [one.id for one in WHEEL.tubes]
    assert moved.tubes != WHEEL.tubes
    assert part_of(WHEEL, [WHEEL.cells[0].id]).tubes == ()
