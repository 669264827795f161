"""Pairs for a hue, mixes taken as tubes, and tubes that would mend a dull hue."""

import numpy as np
import pytest

from noema.core.colour.names import USUAL_HUES
from noema.core.errors import BadPaint
from noema.core.pigments.bridge import bridge
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.pairs import mend_for, pairs_for, premixed
from noema.core.pigments.reach import best_mix, ceilings
from noema.core.pigments.says import say_step
from noema.core.pigments.shelf import TUBES, builtin_set
from noema.core.pigments.tube import Role

SPLIT = builtin_set("split-six")
SHELF = tuple(TUBES.values())


def part(name, amount):
    return Part(tube=TUBES[name], amount=amount)


@pytest.mark.parametrize("volumes", [(1.0, 1.0), (2.0, 1.0), (0.1, 7.0)])
def test_a_mix_taken_as_a_tube_looks_and_mixes_like_its_parts(volumes):
    parts = (part("warm-yellow", volumes[0]), part("scarlet", volumes[1]))
    orange = premixed(parts)
    assert mix_labs((orange,), [[1.0]])[0] == pytest.approx(lab_of_parts(parts), abs=1e-9)
    blue, whole = TUBES["ultramarine"], sum(volumes)
    apart = (*parts, Part(tube=blue, amount=whole))
    assert mix_labs((orange, blue), [[1.0, 1.0]])[0] == pytest.approx(lab_of_parts(apart), abs=1e-9)


def test_one_tube_is_itself_and_nothing_is_refused():
    assert premixed((part("rose", 3.0),)) == TUBES["rose"]
    with pytest.raises(BadPaint):
        premixed(())


def test_from_a_mix_to_a_mix_goes_in_even_steps():
    orange = premixed((part("warm-yellow", 2.0), part("scarlet", 1.0)))
    violet = premixed((part("rose", 3.0), part("ultramarine", 1.0)))
    made = bridge(orange, violet, 9)
    assert made.steps[0].lab == pytest.approx(
        lab_of_parts((part("warm-yellow", 2.0), part("scarlet", 1.0))), abs=1e-6
    )
    assert len(made.steps) == 9


@pytest.mark.parametrize("name", ["violet", "green", "orange"])
def test_the_best_pair_is_as_good_as_the_set(name):
    hue = USUAL_HUES.of(name).hue100
    found = pairs_for(SPLIT.tubes, hue)
    chromas = [pair.hvc.chroma for pair in found]
    assert chromas == sorted(chromas, reverse=True)
    assert {p.tube for p in found[0].parts if p.tube.role is Role.COLOUR} == set(found[0].tubes)
    ceiling = next(one for one in ceilings(SPLIT.tubes, USUAL_HUES) if one.hue.name == name)
    assert chromas[0] == pytest.approx(ceiling.hvc.chroma, abs=1.0)


@pytest.mark.parametrize("name", ["three-traditional", "muted-earths", "darks"])
def test_what_would_mend_a_hue_does(name):
    tubes = builtin_set(name).tubes
    others = tuple(tube for tube in SHELF if tube not in tubes)
    mended = 0
    for one in ceilings(tubes, USUAL_HUES):
        if one.word == "clean":
            continue
        used = tuple(p.tube for p in one.parts) or tubes
        mend = mend_for(used, others, one.hue.hue100, one.hvc.chroma)
        if mend is None:
            continue
        mended += 1
        assert mend.tube not in tubes
        assert mend.chroma > one.hvc.chroma + 0.5
        parts = best_mix((*tubes, mend.tube), one.hue.hue100, 2.0)
        there = next(
            c for c in ceilings((*tubes, mend.tube), USUAL_HUES) if c.hue.name == one.hue.name
        )
        assert parts
        assert there.hvc.chroma > one.hvc.chroma
    assert mended >= 3


def test_nothing_is_offered_where_nothing_helps():
    red = USUAL_HUES.of("orange").hue100
    assert mend_for((TUBES["orange"],), SHELF, red, 40.0) is None


@pytest.mark.parametrize(
    ("amounts", "said"),
    [
        ((0.75, 0.25), "3 : 1"),
        ((0.0, 1.0), "blue alone"),
        ((1.0, 205.0), "+ a"),
        ((205.0, 1.0), "of blue"),
    ],
)
def test_a_step_is_said_as_a_hand_can_do_it(amounts, said):
    words = say_step(("rose", "blue"), np.array(amounts) / sum(amounts))
    assert said in words
    assert "205" not in words
