"""Skills in words, redos, a student's eye, and what to give next."""

import pytest

from noema.core.exercises.skills import Skill
from noema.core.judging.closeness import Closeness
from noema.core.judging.review import Review
from noema.core.judging.rubric import USUAL_RUBRIC
from noema.core.judging.tally import Tally
from noema.core.judging.verdict import Verdict
from noema.core.progress.next_exercise import next_exercise, stuck_on
from noema.core.progress.seeing import seen
from noema.core.progress.skill_courses import Tried, by_kind, eye_words, redone, skill_courses


def close(points, sigma=0.1):
    return Closeness(points=points, sigma=sigma, cells=8)


def tried(n, kind="value-scale", assignment=None, **points):
    by_skill = {Skill[name.upper()]: close(value) for name, value in points.items()}
    return Tried(assignment=assignment or n, kind=kind, week=n, close=by_skill)


def said(attempts, name):
    return next(one.words for one in skill_courses(attempts) if one.name == name)


def test_courses_are_put_into_words():
    rising = [tried(n, value=1.0 if n < 4 else 3.0, evenness=2.7) for n in range(1, 9)]
    assert said(rising, "values") == "values: better than at the start, secure since week 4"
    steady = [tried(n, value=2.7) for n in range(1, 9)]
    assert said(steady, "values") == "values: no change; still secure"
    assert said(rising[:2], "values") == "values: just beginning on the sheets so far"
    falling = [tried(n, value=3.5 if n < 5 else 1.0) for n in range(1, 10)]
    assert said(falling, "values").startswith("values: further out than it was")


@pytest.mark.parametrize("skill", [skill for skill in Skill if skill is not Skill.VALUE])
def test_of_a_skill_that_cant_be_told_no_course_is_said(skill):
    falling = [tried(n, **{skill.name.lower(): 3.5 if n < 5 else 1.0}) for n in range(1, 10)]
    one = next(one for one in skill_courses(falling) if one.skill is skill)
    assert not one.is_told
    assert one.words.endswith("on the whole")


def test_redoing_is_held_against_the_first_try():
    attempts = [tried(1, value=1.0), tried(2, value=3.0, assignment=1), tried(3, value=2.0)]
    found = redone(attempts)
    assert (found.exercises, found.nearer) == (1, 1)
    assert found.gained == pytest.approx(2.0)
    assert redone(attempts[:1]) is None


def test_skills_are_summed_up_by_kind():
    attempts = [tried(1, value=1.0), tried(2, value=3.0), tried(3, "colour-wheel", value=4.0)]
    assert by_kind(attempts) == {
        "value-scale": {Skill.VALUE: 2.0},
        "colour-wheel": {Skill.VALUE: 4.0},
    }


@pytest.mark.parametrize(
    ("attempts", "kind", "why"),
    [
        ([], "value-scale", "nothing is read"),
        (
            [tried(n, "colour-wheel", hue=3.5, neutral=1.0) for n in (1, 2, 3)],
            "mixed-darks",
            "neutrals",
        ),
        ([tried(n, "value-scale", value=3.6) for n in (1, 2)], "tint-ladder", "new"),
    ],
)
def test_the_next_exercise_trains_what_stands_lowest(attempts, kind, why):
    found = next_exercise(attempts, skill_courses(attempts), USUAL_RUBRIC)
    assert found.kind == kind
    assert why in found.reason


def test_who_stays_low_is_stuck_and_who_climbs_isnt():
    low = skill_courses([tried(n, value=1.0, hue=3.5) for n in range(1, 6)])
    assert [one.name for one in stuck_on(low)] == ["values"]
    climbing = skill_courses([tried(n, value=0.4 * n) for n in range(1, 7)])
    assert stuck_on(climbing) == ()


def sheet(*verdicts):
    ids = tuple(f"c{n}" for n in range(len(verdicts)))
    grey = tuple((50.0, 0.0, 0.0) for _ in ids)
    return Tally(
        ids=ids,
        painted_labs=grey,
        expected_labs=grey,
        drifts=tuple(0.0 for _ in ids),
        sigmas=tuple(0.1 for _ in ids),
        verdicts=verdicts,
        skills={},
    )


HOLDS, OFF, LOOK = Verdict.HOLDS, Verdict.OFF, Verdict.LOOK


def test_what_a_student_thought_is_held_beside_the_reading():
    found = seen(
        ["c0", "c1"], sheet(HOLDS, OFF, HOLDS, OFF, LOOK), Review(left_out=frozenset({"c3"}))
    )
    assert (found.agreed, found.too_kind, found.too_hard) == (("c0",), ("c1",), ("c2",))
    assert found.share == pytest.approx(1 / 3)
    assert eye_words([found, found]) == "Sees 2 of 6 steps as they are read (33%)."


@pytest.mark.parametrize(
    ("thinks", "words"),
    [
        ([], "trust your eye more"),
        (["c0", "c1", "c2", "c3", "c4", "c5"], "Look longer"),
        (["c0", "c1", "c2"], "Your eye is sure"),
    ],
)
def test_an_eye_is_spoken_of_kindly(thinks, words):
    assert words in seen(thinks, sheet(HOLDS, HOLDS, HOLDS, OFF, OFF, OFF), Review()).words


def test_a_teachers_word_counts_first():
    assert seen(["c0"], sheet(OFF), Review(overruled={"c0": HOLDS})).agreed == ("c0",)
    assert seen(["c0"], sheet(LOOK), Review()).words == "Too little could be read to compare."
