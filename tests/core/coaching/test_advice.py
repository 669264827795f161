"""Sentences for each audience, and the next moves they carry."""

import tomllib
from pathlib import Path

import pytest

import noema.core.words.advice as module
from noema.core.coaching.advice import LONGEST, advise
from noema.core.coaching.audience import Audience
from noema.core.coaching.moves import Act, next_moves
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.judging.judge import judge
from noema.core.judging.judgement import Finding, FindingKind, Judgement
from noema.core.words.advice import advice_words
from noema.core.words.moves import move_words
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT, mixed, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
TINTS = asked("tint-ladder", choose(steps=7), "split-six+black")
PHRASES = tomllib.loads(
    (Path(module.__file__).parent / "data" / "sentences.toml").read_text(encoding="utf-8")
)


def judged(exercise, changed=None):
    reading = read_labs(exercise, changed)
    return judge(reading, exercise, Key.PAINTS, Level.BEGINNER, paints=SPLIT)


def moves_of(judgement, exercise):
    return {m.cell: m for m in next_moves(judgement, exercise, SPLIT)}


def said(judgement, exercise, **how):
    return advice_words(advise(judgement, moves_of(judgement, exercise)), Medium.ACRYLIC, **how)


def words_of(move):
    return move_words(move, Medium.ACRYLIC, {})


def orange_with(**volumes):
    return judged(WHEEL, {"h3": mixed(**volumes)})


def test_every_finding_has_a_sentence_for_every_audience():
    for kind in FindingKind:
        assert set(PHRASES[kind.value]) == {audience.value for audience in Audience}
        assert all(ways for ways in PHRASES[kind.value].values())


@pytest.mark.parametrize("kind", FindingKind)
@pytest.mark.parametrize("audience", Audience)
def test_every_sentence_fills_its_braces_and_stays_short(kind, audience):
    good = judged(WHEEL)
    finding = Finding(kind=kind, cells=("h3", "h4"), amount=1.0, tube="rose", own="scarlet")
    judgement = Judgement(**{**vars(good), "findings": (finding,)})
    sentence = advice_words(advise(judgement, {}), Medium.ACRYLIC, audience)
    assert "{" not in sentence
    assert sentence[-1] in ".!?"
    assert len(sentence) <= LONGEST


def test_nothing_that_is_said_scolds():
    words = " ".join(w for ways in PHRASES.values() for said in ways.values() for w in said).lower()
    assert not any(word in words for word in ("wrong colour", "fail", "error", "bad", "mistake"))


def test_sentences_take_turns_for_children():
    sheet = orange_with(warm_yellow=1.0, scarlet=1.0)
    ways = {said(sheet, WHEEL, audience=Audience.CHILD, turn=turn) for turn in range(4)}
    assert len(ways) > 1


def test_too_much_red_is_answered_with_yellow_and_cutting_the_pile():
    move = moves_of(orange_with(warm_yellow=1.3, scarlet=1.0), WHEEL)["h3"]
    assert words_of(move).startswith("Keep a quarter of the pile, then add more warm yellow")
    assert (move.act, move.keep, set(move.tubes)) == (Act.ADD, 0.25, {"warm-yellow"})


def test_too_little_blue_is_answered_with_a_little_of_it():
    green = judged(WHEEL, {"h11": mixed(lemon_yellow=60.0, phthalo_blue=1.0)})
    move = moves_of(green, WHEEL)["h11"]
    assert (move.act, set(move.tubes), move.keep) == (Act.ADD, {"phthalo-blue"}, 1.0)
    assert words_of(move).startswith("Add a ")


def test_what_no_addition_mends_is_started_again_from_the_lighter_tube():
    green = judged(WHEEL, {"h11": mixed(lemon_yellow=300.0, phthalo_blue=1.0)})
    move = moves_of(green, WHEEL)["h11"]
    assert words_of(move).startswith("Start again from lemon yellow and bring in phthalo blue by")
    assert (move.act, list(move.tubes)) == (Act.AGAIN, ["lemon-yellow", "phthalo-blue"])


def test_nothing_is_added_that_the_class_doesnt_have():
    changed = {cell.id: mixed(rose=1.0, phthalo_blue=1.0, lemon_yellow=1.0) for cell in WHEEL.cells}
    have = {tube.name for tube in SPLIT.tubes}
    for move in moves_of(judged(WHEEL, changed), WHEEL).values():
        assert set(move.tubes) <= have


def test_a_row_is_steered_by_its_own_tubes():
    row = TINTS.bands[2].cells  # scarlet to white
    changed = {row[3].id: row[2].lab}
    move = moves_of(judged(TINTS, changed), TINTS)[row[3].id]
    assert set(move.tubes) <= {"titanium-white", "scarlet"}


def test_a_dirty_tube_is_taken_fresh():
    sheet = judged(WHEEL, {"h1": mixed(lemon_yellow=40.0, ultramarine=1.0)})
    own = WHEEL.cells[0].parts[0].tube.label
    assert words_of(moves_of(sheet, WHEEL)["h1"]) == (
        f"Start again with {own} as it comes, from a clean brush."
    )
    assert "fresh" in said(sheet, WHEEL, audience=Audience.ADULT)


def test_cells_that_hold_get_no_move():
    assert moves_of(judged(WHEEL), WHEEL) == {}


def test_how_many_hold_is_said_before_a_single_mix():
    assert said(orange_with(warm_yellow=1.0, scarlet=1.0), WHEEL).startswith("11 of 11")
