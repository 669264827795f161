"""Tasks can be done with their tubes, and what is said while one works is true."""

from functools import cache
from itertools import combinations
from math import hypot

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.bench.acts import LEAST_TAKEN_ML, Bench
from noema.core.bench.asking import Furthest, Nearer, Towards, furthest, hint, nearer
from noema.core.bench.doing import BeginPile, Halve, MixPile, Squeeze, Take, Wipe
from noema.core.bench.making import (
    CLEAN_HUES,
    clean_task,
    dark_task,
    greying_pairs,
    greys_task,
    lighten_task,
    match_of,
    match_task,
    neutral_task,
    steps_task,
    tone_down_task,
)
from noema.core.bench.practice import TUBE_ML, Practice
from noema.core.bench.practised import practised
from noema.core.bench.says import ended_words, hint_words, step_words, task_words
from noema.core.bench.task import THERE, BenchTask, Goal, TaskKind
from noema.core.colour.axis import Axis
from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import USUAL_HUES, hue_step
from noema.core.errors import Refused
from noema.core.exercises.levels import Level
from noema.core.pigments.shelf import builtin_set

SETS = ("split-six", "three-traditional", "three-printers", "muted-earths", "darks")
WELL_STOCKED = 500.0


@cache
def tasks(name):
    paints = builtin_set(name)
    rng = default_rng(7)
    makers = [
        *(lambda level=level: match_task(paints, level, rng) for level in list(Level) * 3),
        *(lambda p=p: neutral_task(paints, p) for p in greying_pairs(paints, USUAL_HUES)),
        *(lambda pair=pair: steps_task(paints, pair) for pair in combinations(paints.colours, 2)),
        *(lambda hue=hue: clean_task(paints, hue, USUAL_HUES) for hue in CLEAN_HUES),
        lambda: dark_task(paints),
        lambda: greys_task(paints, USUAL_HUES),
        lambda: lighten_task(paints, USUAL_HUES),
        lambda: tone_down_task(paints, USUAL_HUES),
    ]
    made = []
    for make in makers:
        try:
            made.append(make())
        except Refused:
            continue
    return made


def practice_of(name, task, ml=WELL_STOCKED):
    return Practice(bench=Bench(paints=builtin_set(name), tube_holds_ml=ml), task=task)


@pytest.mark.parametrize("name", SETS)
def test_a_practised_hand_does_every_task(name):
    assert len(tasks(name)) >= 10
    for task in tasks(name):
        practice = practice_of(name, task)
        steps = practised(task, practice.bench)
        done = practice.doing(*(act for step in steps for act in step.acts))
        assert done.away() < THERE, (task.kind, done.away())
        used = {act.source for step in steps for act in step.acts if isinstance(act, Take)}
        assert not task.tubes or used <= set(task.tubes)
        assert all(step_words(step) for step in steps)


def test_a_usual_set_allows_every_kind_of_task():
    assert {task.kind for task in tasks("split-six")} == set(TaskKind) - {TaskKind.FREE}


def test_tasks_ask_for_what_they_say():
    made = {(task.kind, task.about): task for task in tasks("split-six")}
    table = USUAL_HUES
    for hue in CLEAN_HUES:
        goal = made[TaskKind.CLEAN, (hue,)].goals[0]
        assert abs(hue_step(hvc_of(goal.lab).hue100, table.of(hue).hue100)) < 2.0
    dark = next(task for task in tasks("split-six") if task.kind is TaskKind.DARK).goals[0]
    assert hvc_of(dark.lab).value < 3.0
    assert all(part.tube != "ivory-black" for part in dark.parts)
    warm, cool = (
        hvc_of(goal.lab)
        for goal in next(t for t in tasks("split-six") if t.kind is TaskKind.GREYS).goals
    )
    assert abs(warm.value - cool.value) < 0.3
    assert table.lean(warm).hue in ("orange", "red", "yellow")
    assert table.lean(cool).hue == "blue"
    for kind, lighter, duller in (
        (TaskKind.LIGHTEN, True, False),
        (TaskKind.TONE_DOWN, False, True),
    ):
        task = next(t for t in tasks("split-six") if t.kind is kind)
        begun = practice_of("split-six", task)
        before = hvc_of(begun.lab_for(task.goals[0]))
        after = hvc_of(task.goals[0].lab)
        assert (after.value - before.value > 0.5) is lighter
        assert (after.chroma < 0.8 * before.chroma) is duller
    ladder = next(t for t in tasks("split-six") if t.kind is TaskKind.STEPS)
    labs = [goal.lab for goal in ladder.goals]
    apart = ciede2000(labs[1:], labs[:-1])
    assert max(apart) < 1.6 * min(apart)


def test_what_a_task_says_is_what_it_asks():
    for name in SETS:
        for task in tasks(name):
            asks, labs = task_words(task).asks, [hvc_of(goal.lab) for goal in task.goals]
            begun = practice_of(name, task).lab_for(task.goals[0])
            if task.kind is TaskKind.LIGHTEN:
                risen = labs[0].value - hvc_of(begun).value
                assert float(task.about[1]) == pytest.approx(risen, abs=0.1)
                assert f"{task.about[1]} of a value lighter" in asks
            if task.kind is TaskKind.TONE_DOWN:
                left = labs[0].chroma / hvc_of(begun).chroma
                assert float(task.about[1].rstrip("%")) == pytest.approx(100 * left, abs=3)
                assert task.about[1] in asks
            if task.kind is TaskKind.GREYS:
                leans = [USUAL_HUES.lean(grey).hue for grey in labs]
                assert list(task.about) == leans
                assert all(f"leans to {lean}" in asks for lean in leans)


@pytest.mark.parametrize(
    ("kind", "change", "too_little"),
    [
        (TaskKind.NEUTRAL, (0.0, 0.0), (0.0, 12.0)),  # greyer than the best mix
        (TaskKind.DARK, (-6.0, 0.3), (12.0, 12.0)),  # darker and greyer
        (TaskKind.CLEAN, (0.0, 1.5), (0.0, -12.0)),  # more intense
    ],
)
def test_going_beyond_what_is_asked_is_as_right(kind, change, too_little):
    (deeper, factor), (lighter, stronger) = change, too_little
    goal = next(task for task in tasks("split-six") if task.kind is kind).goals[0]
    lightness, a, b = goal.lab
    beyond = (lightness + deeper, factor * a, factor * b)
    assert goal.away(beyond) == pytest.approx(0.0, abs=0.01)
    assert furthest(goal, beyond, USUAL_HUES) is None
    longer = 1.0 + stronger / hypot(a, b)
    short = (lightness + lighter, longer * a, longer * b)
    assert goal.away(short) > THERE


def test_a_practised_hand_says_first_only_where_a_rest_follows():
    for task in tasks("split-six"):
        steps = practised(task, practice_of("split-six", task).bench)
        for step, following in zip(steps, [*steps[1:], None], strict=True):
            if "first a part" in step_words(step):
                assert following.tube == step.tube
                assert "the rest" in step_words(following)


def test_what_isnt_possible_isnt_asked():
    earths = builtin_set("muted-earths")
    with pytest.raises(Refused, match="give no violet"):
        clean_task(earths, "violet", USUAL_HUES)
    six = builtin_set("split-six")
    with pytest.raises(Refused, match="too strong for five steps"):
        steps_task(six, (six.tube("lemon-yellow"), six.tube("phthalo-blue")))


def test_a_colour_from_elsewhere_becomes_the_nearest_these_tubes_give():
    task = match_of(builtin_set("three-traditional"), (60.0, -70.0, 20.0), ["a green"])
    assert ciede2000(task.goals[0].lab, (60.0, -70.0, 20.0)) > 10.0
    assert task_words(task).title == "Match a green"


# What is said of a pile is held against the change of its colour that was really made.
MOVES = [
    (Axis.VALUE, (8.0, 0.0, 0.0), Towards.TOO_LIGHT),
    (Axis.VALUE, (-8.0, 0.0, 0.0), Towards.TOO_DARK),
]


@pytest.mark.parametrize(("axis", "moved", "towards"), MOVES)
def test_the_axis_that_was_moved_is_named(axis, moved, towards):
    for seed in range(30):
        rng = default_rng(seed)
        lab = np.array([rng.uniform(30, 70), *rng.uniform(-40, 40, 2)])
        goal = Goal(pile="a", lab=tuple(lab), parts=())
        assert furthest(goal, tuple(lab + moved), USUAL_HUES) == Furthest(
            axis=axis, towards=towards
        )


@pytest.mark.parametrize(("factor", "towards"), [(1.6, "TOO_INTENSE"), (0.5, "TOO_DULL")])
def test_intensity_is_named(factor, towards):
    for turn in np.linspace(0.0, 6.0, 15):
        hue = np.array([np.cos(turn), np.sin(turn)])
        goal = Goal(pile="a", lab=(50.0, *(30.0 * hue)), parts=())
        told = furthest(goal, (50.0, *(30.0 * factor * hue)), USUAL_HUES)
        assert told == Furthest(axis=Axis.CHROMA, towards=Towards[towards])


def test_the_hue_it_leans_to_is_the_one_on_that_side():
    orange = hvc_of((65.0, 40.0, 60.0))
    goal = Goal(pile="a", lab=(65.0, 40.0, 60.0), parts=())
    assert USUAL_HUES.lean(orange).hue == "orange"
    assert furthest(goal, (65.0, 58.0, 40.0), USUAL_HUES).hue == "red"
    assert furthest(goal, (65.0, 18.0, 70.0), USUAL_HUES).hue == "yellow"


def test_a_pile_that_is_there_is_left_alone():
    task = tasks("split-six")[0]
    practice = practice_of("split-six", task)
    steps = practised(task, practice.bench)
    done = practice.doing(*(act for step in steps for act in step.acts))
    goal = task.goals[0]
    assert nearer(done, goal) is Nearer.THERE
    assert furthest(goal, done.lab_for(goal), USUAL_HUES) is None
    assert hint_words(hint(done, goal), 1.5) == "Leave it: it is there."


def green_practice():
    """A green to match, and lemon yellow in the pile."""
    paints = builtin_set("split-six")
    task = match_of(paints, (45.0, -40.0, 25.0), ["green"])
    begun = practice_of("split-six", task, TUBE_ML)
    return begun.doing(
        BeginPile(pile="a"),
        Squeeze(tube="lemon-yellow", ml=2.0),
        Take(source="lemon-yellow", ml=1.0, pile="a"),
        MixPile(pile="a"),
        Wipe(),
    )


def brought(tube, ml):
    return (
        Squeeze(tube=tube, ml=ml),
        Take(source=tube, ml=ml, pile="a"),
        MixPile(pile="a"),
        Wipe(),
    )


def test_nearer_is_yes_when_it_is_and_no_when_it_isnt():
    practice = green_practice()
    goal = practice.task.goals[0]
    assert nearer(practice, goal) is Nearer.FIRST
    on = practice.doing(*brought("phthalo-blue", 0.05))
    assert nearer(on, goal) is Nearer.YES
    assert nearer(on.doing(*brought("scarlet", 0.5)), goal) is Nearer.NO
    assert nearer(practice_of("split-six", practice.task), goal) is Nearer.EMPTY
    assert nearer(on.doing(*brought("lemon-yellow", 0.001)), goal) is Nearer.AS_NEAR


def test_a_hint_followed_brings_it_nearer():
    practice = green_practice()
    goal = practice.task.goals[0]
    move = hint(practice, goal)
    assert move.add is not None
    after = practice.doing(*brought(move.add.name, move.share * practice.palette.pile("a").ml))
    assert after.away() < 0.6 * practice.away()
    assert move.add.label in hint_words(move, 1.0)


def test_a_hint_that_no_hand_can_take_says_so_and_any_other_helps():
    heard = set()
    for name in SETS:
        for task in tasks(name)[:9]:
            goal = task.goals[0]
            most = max(goal.parts, key=lambda part: part.volume).tube
            practice = practice_of(name, task).doing(BeginPile(pile="a"), *brought(most, 0.5))
            pile_ml, move = practice.palette.pile("a").ml, hint(practice, goal)
            words = hint_words(move, pile_ml)
            heard.add(words.split(" ")[0])
            if move.add is None:
                assert words.startswith(("Leave", "No single"))
            elif move.share * move.keep * pile_ml < 0.9 * LEAST_TAKEN_ML:
                assert "a grain" in words
                assert words.startswith("It ")
            else:
                assert words.startswith(("Bring in about", "Keep a"))
                after = practice.doing(*brought(move.add.name, move.share * pile_ml))
                assert after.away() < 0.8 * practice.away()
    assert {"Bring", "It"} <= heard


def test_a_neutral_is_looked_at_let_down_and_its_hint_helps():
    task = next(one for one in tasks("split-six") if one.kind is TaskKind.NEUTRAL)
    first, second = (part.tube for part in task.goals[0].parts)
    practice = practice_of("split-six", task).doing(BeginPile(pile="a"), *brought(first, 1.0))
    assert second != "titanium-white"
    goal, before = task.goals[0], practice.away()
    assert furthest(goal, practice.lab_for(goal), USUAL_HUES).towards is Towards.LEANS
    move = hint(practice, goal)
    after = practice.doing(*brought(move.add.name, move.share * practice.palette.pile("a").ml))
    assert after.away() < 0.6 * before


def test_the_end_says_touches_paint_and_where_the_way_went_back():
    practice = green_practice().doing(
        *brought("phthalo-blue", 0.05), *brought("scarlet", 0.5), Halve(pile="a", aside="aside 1")
    )
    near, cost, back = ended_words(practice)
    assert "colour" in near
    assert cost == "3 touches; 2.5 ml came out of the tubes."  # 2 + 0.05 + 0.5, to two figures
    assert back == "Touch 3 led away from it."


def test_a_pile_that_nobody_asked_for_isnt_judged():
    task = BenchTask(kind=TaskKind.FREE)
    practice = practice_of("split-six", task).doing(BeginPile(pile="a"), *brought("rose", 1.0))
    assert practice.away() is None
    assert practice.touches == ()
