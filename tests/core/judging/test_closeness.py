"""Closeness: what it rests on and what mustn't bend it."""

import numpy as np
import pytest

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Ground
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.skills import Skill
from noema.core.judging.closeness import CARES, closeness, skill_drifts, together
from noema.core.judging.difficulty import Held, difficulty_of
from noema.core.judging.judge import judge
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict
from tests.core.judging.readings import SPLIT, read_labs

ASKS = {Skill.VALUE: {f"c{n}": [0.2, 1.0, 4.0] for n in range(8)}}
RNG = np.random.default_rng


def drifts(amounts, sigma=0.0):
    return {Skill.VALUE: {f"c{n}": (float(a), sigma) for n, a in enumerate(amounts)}}


def value_of(amounts, sigma=0.0, review=None):
    return closeness(drifts(amounts, sigma), ASKS, review or Review())[Skill.VALUE]


@pytest.mark.parametrize(
    ("size", "points"), [(0.2**0.5, 4 * 2 ** -(0.2 / 0.45)), (1.0, 2.0), (2.0, 1.0)]
)
def test_hands_of_known_care_stand_where_they_should(size, points):
    assert value_of([size, -size] * 4).points == pytest.approx(points, abs=0.01)


def test_farther_is_never_closer():
    found = [value_of([size] * 8).points for size in np.linspace(0.0, 6.0, 40)]
    assert all(a >= b for a, b in zip(found, found[1:], strict=False))


def test_a_poor_photograph_neither_helps_nor_harms():
    rng = RNG(2)
    true = rng.normal(0.0, 1.0, (400, 8))
    clear = np.mean([value_of(row).points for row in true])
    blurred = np.mean([value_of(row + rng.normal(0.0, 0.6, 8), 0.6).points for row in true])
    assert blurred == pytest.approx(clear, abs=0.25)
    assert value_of(true[0], 0.6).sigma > value_of(true[0]).sigma


def test_sigma_is_honest():
    rng = RNG(4)
    found = [value_of(rng.normal(0.0, 1.0, 8)) for _ in range(400)]
    spread = np.std([one.points for one in found])
    assert 0.7 * spread <= np.median([one.sigma for one in found]) <= 1.8 * spread


def test_what_a_teacher_says_counts():
    wild = [3.0] + [0.3] * 7
    left_out = value_of(wild, review=Review(left_out=frozenset({"c0"})))
    said = value_of(wild, review=Review(overruled={"c0": Verdict.HOLDS}))
    assert left_out.cells == 7
    assert min(left_out.points, said.points) > value_of(wild).points
    assert closeness(drifts([1.0]), ASKS, Review(left_out=frozenset({"c0"}))) == {}


def test_a_stricter_level_isnt_a_worse_student():
    ground = Ground(paints=SPLIT, table=USUAL_HUES)
    kind = kind_of("tint-ladder")
    asked = kind.asked(kind.chosen({"steps": 5, "tubes": ("scarlet",)}), ground)
    off = {c.id: (c.lab[0] - 4.0, c.lab[1], c.lab[2]) for c in asked.cells[1:4]}
    reading = read_labs(asked, off)
    found = [
        closeness(
            skill_drifts(judge(reading, asked, Key.PAINTS, level, paints=SPLIT)), {}, Review()
        )
        for level in Level
    ]
    assert len({round(one[Skill.VALUE].points, 3) for one in found}) == 1


def test_a_demanding_exercise_asks_more_of_clumsier_hands():
    ground = Ground(paints=SPLIT, table=USUAL_HUES)
    kind = kind_of("tint-ladder")
    asked = kind.asked(kind.chosen({"steps": 5, "tubes": ("scarlet",)}), ground)
    held = Held(expected=asked, key=Key.PAINTS, paints=SPLIT, table=USUAL_HUES)
    difficulty = difficulty_of(held, RNG(0))
    assert difficulty == difficulty_of(held, RNG(0))
    means = np.mean([asks for asks in difficulty[Skill.VALUE].values()], axis=0)
    assert len(means) == len(CARES)
    assert means[0] < means[1] < means[2]


def test_together_leaves_craft_out():
    found = closeness({**drifts([1.0] * 8), Skill.CRAFT: {"c0": (0.2, 0.0)}}, ASKS, Review())
    assert together(found).points == pytest.approx(found[Skill.VALUE].points)
    assert together({Skill.CRAFT: found[Skill.CRAFT]}) is None
