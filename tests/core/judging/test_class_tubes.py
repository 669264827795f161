"""What a class's sheets tell of its tubes, and keys that follow them."""

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.painted_keys import as_tubes_are
from noema.core.judging.class_tubes import FEWEST_SHEETS, SheetOfClass, tubes_of_class
from noema.core.judging.judge import judge
from noema.core.judging.verdict import Verdict
from noema.core.pigments.bending import BENDS, bent
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.words.known_tubes import tubes_learned
from noema.formats.known_tubes_json import known_tubes_from_json, known_tubes_to_json
from noema.stand_ins.makers import mixed_by_eye, tubes_of_a_maker
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
DRY = SPLIT.binder.dry
MAKER = tubes_of_a_maker(SPLIT.tubes, np.random.default_rng(7))


def painted(seed, care=0.15):
    """A wheel mixed by eye from a maker's tubes."""
    rng = np.random.default_rng(seed)
    labs = {
        cell.id: mixed_by_eye(cell.parts, cell.lab, MAKER, DRY, rng, care)[0]
        for cell in WHEEL.cells
    }
    return read_labs(WHEEL, labs)


def learned(count=12):
    sheets = [SheetOfClass(asked=WHEEL, cells=painted(seed).cells) for seed in range(count)]
    return tubes_of_class(sheets, DRY)


KNOWN = learned()


def test_a_class_tells_what_its_tubes_are():
    """Of the tubes that stand alone on the sheet; of mixes alone little can be told."""
    alone = {cell.parts[0].tube.name for cell in WHEEL.cells if len(cell.parts) == 1}
    before, after = [], []
    for name in alone:
        tube, truth = SPLIT.tube(name), lab_of_parts(_alone(MAKER[name]), DRY)
        before.append(float(ciede2000(lab_of_parts(_alone(tube), DRY), truth)))
        after.append(float(ciede2000(lab_of_parts(_alone(KNOWN.as_it_is(tube)), DRY), truth)))
    assert len(alone) > 2
    assert max(after) < 0.6 * max(before)


def test_of_few_sheets_nothing_is_learned():
    assert learned(FEWEST_SHEETS - 1) is None


def test_the_more_sheets_the_surer():
    few = learned(FEWEST_SHEETS)
    name = "scarlet"
    surer, sure = (np.trace(known.covariances[known.names.index(name)]) for known in (KNOWN, few))
    assert surer < sure


def test_a_tube_that_is_off_for_everybody_counts_against_nobody():
    moved = as_tubes_are(WHEEL, KNOWN, DRY)
    tubes = {cell.id for cell in WHEEL.cells if len(cell.parts) == 1}
    paints = KNOWN.in_set(SPLIT)
    for seed in (50, 51):
        found = judge(painted(seed), moved, Key.PAINTS, Level.BEGINNER, paints=paints, known=KNOWN)
        for cell in found.cells:
            assert cell.id not in tubes or cell.verdict in (Verdict.HOLDS, Verdict.LOOK)


def test_what_a_key_expects_is_what_its_parts_give():
    for cell in as_tubes_are(WHEEL, KNOWN, DRY).cells:
        assert ciede2000(lab_of_parts(cell.parts, DRY), cell.lab) < 0.01
        assert {part.tube.name for part in cell.parts} <= set(MAKER)


def test_what_is_said_of_a_tube_is_true():
    for said in tubes_learned(KNOWN, SPLIT, USUAL_HUES):
        name = next(t.name for t in SPLIT.tubes if t.label == said.label)
        truth = lab_of_parts(_alone(MAKER[name]), DRY)
        assert ciede2000(said.learned, truth) < ciede2000(said.described, truth)
        assert f"Your {said.label} is" in said.words
        lighter = truth[0] > said.described[0]
        assert ("darker" if lighter else "lighter") not in said.words
        assert said.words.endswith("learned from 12 sheets.")


def test_what_is_known_is_kept():
    again = known_tubes_from_json(known_tubes_to_json(KNOWN))
    assert again.names == KNOWN.names
    assert again.bends == pytest.approx(KNOWN.bends, abs=1e-3)
    assert again.spread(("scarlet", "other")).shape == (2 * BENDS, 2 * BENDS)


def test_bending_leaves_white_the_lightest():
    white = SPLIT.white
    bends = np.array([-2.0] * (BENDS - 1) + [0.0])
    for tube in SPLIT.tubes:
        absorption, scattering = bent(tube, bends)
        if tube != white:
            assert (absorption / scattering >= white.absorption / white.scattering - 1e-12).all()


def _alone(tube):
    return [Part(tube=tube, amount=1.0)]
