"""Judging sheets whose trouble is known."""

import pytest

from noema.core.coaching.advice import advise
from noema.core.coaching.moves import next_moves
from noema.core.errors import BadExercise
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.judging.judge import judge
from noema.core.judging.judgement import FindingKind
from noema.core.judging.verdict import Verdict
from noema.core.photo.reading import CellFlag
from noema.core.words.advice import advice_words
from tests.core.exercises.grounds import plain
from tests.core.judging.scales import read_as

SCALE = plain(8)
EVEN = (2.5, 3.5, 4.5, 5.5, 6.5, 7.5, 8.5, 9.5)  # acrylic's ends, one value apart
BARE = (CellFlag.UNPAINTED,)


def told(judgement, exercise, medium=Medium.ACRYLIC):
    moves = {move.cell: move for move in next_moves(judgement, exercise, None)}
    return advice_words(advise(judgement, moves), medium)


TROUBLES = {
    "in order and even": (EVEN, {}, None, "Every step holds"),
    "two swapped": (
        (2.5, 3.5, 5.5, 4.5, 6.5, 7.5, 8.5, 9.5),
        {},
        FindingKind.SWAPPED,
        "Steps 3 and 4 look swapped",
    ),
    "two together": (
        (2.5, 3.5, 4.5, 5.5, 6.5, 7.5, 7.7, 9.5),
        {},
        FindingKind.TOGETHER,
        "Step 7: make it about three quarters of a step lighter",
    ),
    "a cell left bare": (
        (2.5, 3.5, 9.6, 5.5, 6.5, 7.5, 8.5, 9.5),
        {3: BARE},
        FindingKind.EMPTY,
        "now paint step 3",
    ),
    "dark end short": (
        (4.5, 5.2, 5.9, 6.6, 7.3, 8.0, 8.8, 9.5),
        {},
        FindingKind.SHORT_DARK,
        "Your darkest step can go",
    ),
    "light end short": (
        (2.5, 3.3, 4.1, 4.9, 5.7, 6.5, 7.3, 8.1),
        {},
        FindingKind.SHORT_LIGHT,
        "Your lightest step can go",
    ),
    "one step too dark": (
        (2.5, 3.5, 4.5, 5.5, 6.5, 7.5, 7.92, 9.5),
        {},
        None,
        "Look first at step 7: about half a step too dark. Make it about half a step lighter",
    ),
}


@pytest.mark.parametrize("trouble", TROUBLES)
def test_the_trouble_is_named_and_advised_on(trouble):
    values, flags, kind, said = TROUBLES[trouble]
    judgement = judge(read_as(values, flags=flags), SCALE, Key.NAMED, Level.INTERMEDIATE)
    kinds = [finding.kind for finding in judgement.findings]
    assert kinds[:1] == ([] if kind is None else [kind])
    assert said in told(judgement, SCALE)


def test_verdicts_follow_the_level():
    reading = read_as((2.5, 3.5, 4.5, 5.9, 6.5, 7.5, 8.5, 9.5))
    verdicts = {level: judge(reading, SCALE, Key.NAMED, level).cells[3].verdict for level in Level}
    assert verdicts == {
        Level.BEGINNER: Verdict.HOLDS,
        Level.INTERMEDIATE: Verdict.HOLDS,
        Level.ADVANCED: Verdict.DRIFTS,
    }


def test_own_ends_forgive_a_short_scale():
    values = tuple(4.0 + 0.7 * n for n in range(8))
    own = judge(read_as(values), SCALE, Key.OWN_ENDS, Level.ADVANCED)
    fixed = judge(read_as(values), SCALE, Key.NAMED, Level.ADVANCED)
    assert own.count(Verdict.HOLDS) == 8
    assert fixed.count(Verdict.HOLDS) < 4


def test_a_wide_doubt_asks_the_teacher_and_claims_no_pattern():
    values = (2.5, 3.6, 4.4, 5.6, 6.5, 7.4, 8.6, 9.5)
    judgement = judge(read_as(values, sigma=0.9), SCALE, Key.NAMED, Level.ADVANCED)
    assert judgement.count(Verdict.LOOK) == 8
    assert judgement.findings == ()
    assert "look" in told(judgement, SCALE)


@pytest.mark.parametrize(
    "flag", [CellFlag.GLARE, CellFlag.SHADOW, CellFlag.CLIPPED, CellFlag.OUTSIDE]
)
def test_a_cell_the_camera_couldnt_see_is_left_to_the_teacher(flag):
    judgement = judge(read_as(EVEN, flags={5: (flag,)}), SCALE, Key.NAMED, Level.BEGINNER)
    assert judgement.cells[4].verdict is Verdict.LOOK
    assert judgement.count(Verdict.HOLDS) == 7


def test_the_lightest_step_may_be_the_paper():
    judgement = judge(read_as(EVEN, flags={8: BARE}), SCALE, Key.NAMED, Level.BEGINNER)
    assert judgement.cells[7].verdict is Verdict.HOLDS
    assert judgement.findings == ()


def test_patchy_paint_is_named_without_moving_the_values():
    judgement = judge(read_as(EVEN, coverage={2: 0.6}), SCALE, Key.NAMED, Level.BEGINNER)
    assert [finding.kind for finding in judgement.findings] == [FindingKind.THIN]
    assert "one more even coat" in told(judgement, SCALE)
    assert judgement.count(Verdict.HOLDS) == 8


def test_evenness_counts_in_steps():
    even = judge(
        read_as((2.5, 3.5, 4.5, 6.0, 6.5, 7.5, 8.5, 9.5)), SCALE, Key.NAMED, Level.BEGINNER
    ).evenness
    assert (even.largest, even.largest_after) == (pytest.approx(1.5, abs=0.06), "c3")
    assert (even.smallest, even.smallest_after) == (pytest.approx(0.5, abs=0.06), "c4")


def test_dry_media_are_advised_in_layers():
    pencil = plain(8, Medium.PENCIL)
    values = [3.7 + 5.7 / 7 * n for n in range(8)]
    values[3] += 0.9
    judgement = judge(read_as(values), pencil, Key.NAMED, Level.INTERMEDIATE)
    assert "another thin layer" in told(judgement, pencil, Medium.PENCIL)


def test_another_exercises_reading_is_refused():
    with pytest.raises(BadExercise, match="8 steps"):
        judge(read_as(EVEN[:5]), SCALE, Key.NAMED, Level.BEGINNER)
