"""Other makers' tubes are others under the same names, and hands mix them by eye."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.difference import ciede2000
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.qualities import strengths
from noema.core.pigments.shelf import TUBES, builtin_set
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.makers import mixed_by_eye, tubes_of_a_maker

SPLIT = builtin_set("split-six+black")
SURFACE = SPLIT.binder.dry


def masstone(tube):
    return lab_of_parts([Part(tube=tube, amount=1.0)])


@pytest.mark.parametrize("kinds", Kinds)
def test_a_makers_tubes_look_nearly_alike_and_pull_otherwise(kinds):
    makers = [tubes_of_a_maker(SPLIT.tubes, default_rng(n), kinds) for n in range(6)]
    assert all(set(one) == {tube.name for tube in SPLIT.tubes} for one in makers)
    away = [
        float(ciede2000(masstone(one[tube.name]), masstone(tube)))
        for one in makers
        for tube in SPLIT.tubes
    ]
    assert max(away) <= 8.0
    assert np.median(away) > 1.0
    pulls = np.array([strengths(tuple(one.values())) for one in makers])
    assert np.median(pulls.max(axis=0) / pulls.min(axis=0)) > 1.5


def test_two_makers_differ_and_one_is_itself():
    one, same, other = (tubes_of_a_maker(SPLIT.tubes, default_rng(n)) for n in (1, 1, 2))
    assert one == same
    assert one != other


def test_by_eye_a_mix_comes_near_with_other_amounts_than_the_recipe():
    recipe = (
        Part(tube=TUBES["warm-yellow"], amount=4.0),
        Part(tube=TUBES["scarlet"], amount=1.0),
        Part(tube=TUBES["titanium-white"], amount=2.0),
    )
    wanted = tuple(lab_of_parts(recipe, SURFACE).tolist())
    away, shares = [], []
    for seed in range(12):
        maker = tubes_of_a_maker((p.tube for p in recipe), default_rng(seed))
        lab, laid = mixed_by_eye(recipe, wanted, maker, SURFACE, default_rng(seed), care=0.0)
        blind = tuple(Part(tube=maker[p.tube.name], amount=p.amount) for p in recipe)
        away.append(float(ciede2000(lab, wanted)))
        assert away[-1] <= float(ciede2000(lab_of_parts(blind, SURFACE), wanted)) + 0.1
        shares.append(laid[1].amount / laid[0].amount)
    assert np.median(away) < 4.0
    assert max(shares) > 1.5 * min(shares)


def test_a_tube_by_itself_is_the_makers_masstone():
    maker = tubes_of_a_maker(SPLIT.tubes, default_rng(5))
    scarlet = (Part(tube=TUBES["scarlet"], amount=1.0),)
    lab, _ = mixed_by_eye(scarlet, (50.0, 0.0, 0.0), maker, SURFACE, default_rng(1), care=0.3)
    alone = [Part(tube=maker["scarlet"], amount=1.0)]
    assert lab == pytest.approx(lab_of_parts(alone, SURFACE).tolist())
