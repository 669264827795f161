"""What sets reach, what holds them back, and what greys what."""

import numpy as np
import pytest

from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import USUAL_HUES, hue_step
from noema.core.pigments.amounts import FINEST, can_be_measured, round_parts, whole_parts
from noema.core.pigments.mix import lab_of_parts, mix_labs
from noema.core.pigments.partners import NEUTRAL_ENOUGH, darks, partner, partners
from noema.core.pigments.qualities import qualities
from noema.core.pigments.reach import ceilings, reach, tubes_of_hue
from noema.core.pigments.says import say_ceiling
from noema.core.pigments.shelf import SETS, TUBES, builtin_set


def by_name(name):
    return {c.hue.name: c for c in ceilings(builtin_set(name).tubes, USUAL_HUES)}


@pytest.mark.parametrize("name", [*SETS, "split-six+black", "all"])
def test_every_ceiling_is_a_mix_of_that_hue(name):
    for ceiling in ceilings(builtin_set(name).tubes, USUAL_HUES):
        if not ceiling.parts:
            assert ceiling.hvc.chroma == 0
            assert ceiling.reason
            continue
        assert hvc_of(lab_of_parts(ceiling.parts)) == ceiling.hvc
        assert len([p for p in ceiling.parts if p.tube.role.value != "white"]) <= 2
        own = tubes_of_hue(builtin_set(name).tubes, ceiling.hue.name, USUAL_HUES)
        if not own and ceiling.hvc.chroma > 1.0:
            assert abs(hue_step(ceiling.hue.hue100, ceiling.hvc.hue100)) < 2.5


def test_no_other_mix_of_two_is_much_more_intense():
    paints = builtin_set("split-six")
    rng = np.random.default_rng(3)
    amounts = np.zeros((6000, len(paints.tubes)))
    for row in amounts:
        row[rng.choice(6, 2, replace=False)] = 10.0 ** rng.uniform(-2, 0, 2)
        row[6] = 10.0 ** rng.uniform(-2, 1.5)
    labs = mix_labs(paints.tubes, amounts)
    best = {name: c.hvc.chroma for name, c in by_name("split-six").items()}
    for lab in labs[np.argsort(-np.hypot(labs[:, 1], labs[:, 2]))[:1500]]:
        hvc = hvc_of(lab)
        name = USUAL_HUES.nearest(hvc.hue100, 12)
        if abs(hue_step(name.hue100, hvc.hue100)) < 0.5 and name.name not in ("yellow", "red"):
            assert hvc.chroma < best[name.name] + 1.3, name


def test_split_primaries_reach_clean_secondaries_where_three_do_not():
    split, three = by_name("split-six"), by_name("three-traditional")
    assert split["green"].hvc.chroma > three["green"].hvc.chroma + 4
    assert split["violet"].hvc.chroma > three["violet"].hvc.chroma + 3
    assert {p.tube.name for p in split["green"].parts} >= {"lemon-yellow", "phthalo-blue"}
    assert {p.tube.name for p in split["violet"].parts} >= {"rose", "ultramarine"}
    assert {p.tube.name for p in split["orange"].parts} >= {"warm-yellow", "scarlet"}


@pytest.mark.parametrize(
    ("name", "hue", "words"),
    [
        ("three-traditional", "violet", "because the red (cadmium red hue) leans to orange"),
        ("three-traditional", "green", "because the blue (ultramarine) leans to violet"),
        ("three-printers", "violet", "because the blue (cyan) leans to green"),
        ("muted-earths", "violet", "because the red (red oxide) leans to orange"),
        ("darks", "green", "because the yellow (raw umber) leans to orange"),
    ],
)
def test_ceilings_say_why(name, hue, words):
    said = say_ceiling(by_name(name)[hue])
    assert said.startswith(("these paints can't give a violet", "these paints can't give a green"))
    assert said.endswith(words)


def test_a_missing_primary_is_named():
    tubes = tuple(TUBES[name] for name in ("lemon-yellow", "warm-yellow", "phthalo-blue"))
    violet = next(c for c in ceilings(tubes, USUAL_HUES) if c.hue.name == "violet")
    assert violet.reason == "there is no red in the set"


def test_reach_grows_with_a_tube_and_holds_the_set_itself():
    small = reach(builtin_set("three-printers").tubes)
    large = reach((*builtin_set("three-printers").tubes, TUBES["phthalo-green"]))
    assert small.shape == (40, 9)
    assert (large >= small - 0.7).mean() > 0.97
    assert large[20:24].max() > small[20:24].max() + 1.0
    for tube in builtin_set("three-printers").colours:
        hvc = hvc_of(lab_of_parts(round_parts([tube], [1.0])))
        assert small[round(hvc.hue100 / 2.5) % 40, round(hvc.value) - 1] >= hvc.chroma - 1e-6


@pytest.mark.parametrize(
    ("name", "tube", "by"),
    [
        ("split-six", "scarlet", {"phthalo-blue"}),
        ("split-six", "warm-yellow", {"ultramarine"}),
        ("darks", "burnt-sienna", {"ultramarine"}),
    ],
)
def test_true_partners_within_the_set(name, tube, by):
    found = partner(TUBES[tube], builtin_set(name).tubes, USUAL_HUES)
    assert {t.name for t in found.by} == by
    assert found.goes_neutral
    assert found.left.chroma < NEUTRAL_ENOUGH
    assert TUBES[tube] in [part.tube for part in found.parts]


def test_where_no_tube_is_the_partner_two_are():
    found = partner(TUBES["rose"], builtin_set("split-six").tubes, USUAL_HUES)
    kinds = {USUAL_HUES.lean(qualities(tube).shown).hue for tube in found.by}
    assert kinds == {"yellow", "blue"}  # together a green
    assert found.goes_neutral


def test_the_wheels_complement_stands_beside_the_true_one():
    found = {p.tube.name: p for p in partners(builtin_set("split-six").tubes, USUAL_HUES)}
    assert found["warm-yellow"].named == "blue-violet"
    assert found["scarlet"].named == "blue-green"
    assert found["scarlet"].named_tubes == ()


def test_a_lone_tube_has_no_partner():
    found = partner(TUBES["rose"], (TUBES["rose"], TUBES["titanium-white"]), USUAL_HUES)
    assert found.by == ()
    assert not found.goes_neutral


@pytest.mark.parametrize("name", ["split-six", "darks", "three-traditional", "all"])
def test_mixed_darks_are_dark_neutral_and_hold_no_black(name):
    found = darks(builtin_set(name).tubes)
    assert found
    for dark in found:
        assert dark.hvc.value < 2.6
        assert dark.hvc.chroma < 1.3
        assert "ivory-black" not in [part.tube.name for part in dark.parts]
    assert found[0].hvc.value <= 2.35


@pytest.mark.parametrize("amounts", [[1.0, 0.33], [0.02, 1.0, 0.5], [1.0, 0.99, 0.01]])
def test_whole_parts_are_whole_simple_and_never_finer_than_1_to_40(amounts):
    ways = whole_parts(amounts)
    assert (ways == np.rint(ways)).all()
    assert ways.max() <= FINEST
    assert can_be_measured(ways).all()
    assert (np.diff(ways.sum(axis=1)) >= 0).all()
