"""Questions show what they say they show, and what is said of an eye is true."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.axis import Axis
from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.colour.srgb import linear_to_lab, srgb_to_linear
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.shelf import SETS
from noema.core.seeing.question import Ask, question, shown_hvc
from noema.core.seeing.says import (
    ASKS_WORDS,
    change_words,
    colours_said,
    names_of,
    places_words,
    screen_words,
    sees_words,
)
from noema.core.seeing.series import (
    ASKS,
    LONG,
    MOST_SHOWN,
    Answered,
    Screen,
    SeriesKind,
    along_one_line,
    answer,
    answer_order,
    found_by,
    next_question,
    quest_of,
)
from noema.core.seeing.training import KnownEye, TrainedAt, next_training
from noema.core.statistics.adaptive import Found
from noema.stand_ins.eye import Eye

SEEDS = range(40)
GOOD = Screen(dark_steps=5, light_steps=5, light_on_it=False)


def asked(ask, level=0.5):
    return [question(ask, level, default_rng(seed)) for seed in SEEDS]


def values(one):
    return shown_hvc(one.fills)[:, 1]


def test_the_lightest_is_the_lightest_and_hues_differ():
    for one in asked(Ask.LIGHTEST):
        assert int(np.argmax(values(one))) == one.right
        assert one.level == pytest.approx(0.5, abs=0.08)
        hues = shown_hvc(one.fills)[:, 0]
        assert len({round(float(hue) / 10) for hue in hues}) >= 3


def test_one_hue_differs_and_values_hold():
    for one in asked(Ask.OTHER_HUE, 6.0):
        hues, light = shown_hvc(one.fills)[:, 0], values(one)
        others = np.delete(hues, one.right)
        gap = np.abs((others - hues[one.right] + 50.0) % 100.0 - 50.0)
        assert gap.min() > 4.0
        assert np.ptp(light) < 0.08


def test_one_grey_leans_and_the_others_dont():
    for one in asked(Ask.LEANS, 1.5):
        chroma = shown_hvc(one.fills)[:, 2]
        assert int(np.argmax(chroma)) == one.right
        assert np.delete(chroma, one.right).max() < 0.3


def test_a_row_has_one_small_gap_or_one_step_astray():
    for one in asked(Ask.TOGETHER, 0.4):
        assert int(np.argmin(np.diff(values(one)))) == one.right
    for one in asked(Ask.UNEVEN, 0.4):
        light = values(one)
        bend = np.abs(light[1:-1] - (light[:-2] + light[2:]) / 2.0)
        assert int(np.argmax(bend)) == one.right


def test_seven_hues_have_one_order_by_value():
    for one in asked(Ask.ORDER):
        assert (np.diff(values(one)[list(one.order)]) > 0.3).all()
        right = answer_order(one, one.order[:-1])
        assert (right.is_right, right.off) == (True, 0)
        turned = answer_order(one, [one.order[1], one.order[0], *one.order[2:6]])
        assert (turned.is_right, turned.off) == (False, 1)
        assert answer_order(one, one.order[:0:-1]).off == 21


def test_the_mix_of_two_holds_both_and_no_third():
    tubes = SETS["split-six"]
    for one in asked(Ask.BETWEEN):
        assert len(one.fills) == 2 + one.answers
        ends, mixes = shown_labs(one.fills[:2]), shown_labs(one.fills[2:])
        paints = [min(tubes.colours, key=lambda tube, end=end: away(tube, end)) for end in ends]
        assert paints[0] != paints[1]
        both = mix_labs([*paints, tubes.white], [*(1.0 / strengths(tuple(paints))), 1.2])
        assert int(np.argmin(ciede2000(mixes, both))) == one.right


def shown_labs(fills):
    srgb = [[int(fill[n : n + 2], 16) / 255.0 for n in (1, 3, 5)] for fill in fills]
    return linear_to_lab(srgb_to_linear(srgb))


def away(tube, lab):
    white = SETS["split-six"].white
    tint = mix_labs([tube, white], [1.0 / float(strengths((tube,))[0]), 0.6])
    return float(ciede2000(tint, lab))


def test_places_and_strengths_are_what_is_shown():
    for one in asked(Ask.PLACE):
        hue = shown_hvc(one.fills)[0, 0]
        named = USUAL_HUES.twelve[one.right]
        assert abs((hue - named.hue100 + 50.0) % 100.0 - 50.0) < 1.5
        assert names_of(one, USUAL_HUES)[one.right] == named.name
    for one in asked(Ask.STRENGTH):
        assert shown_hvc(one.fills)[0, 2] == pytest.approx(one.right, abs=0.4)


def test_a_screen_that_loses_dark_isnt_asked_dark_colours():
    lost = Screen(dark_steps=1, light_steps=5, light_on_it=False)
    for kind in (SeriesKind.VALUE, SeriesKind.ROWS, SeriesKind.PLACES):
        for seed in SEEDS:
            one = next_question(kind, (), default_rng(seed), {}, lost)
            assert values(one).min() > 4.8
    assert "dark colours weren't asked" in screen_words(lost)
    assert screen_words(GOOD) == "The screen showed its steps well."


@pytest.mark.parametrize("kind", list(SeriesKind))
def test_a_series_ends_and_every_question_has_words(kind):
    rng, eye, done = default_rng(2), Eye.drawn(default_rng(3)), []
    while (one := next_question(kind, done, rng, {}, GOOD)) is not None:
        assert one.ask in ASKS[kind]
        assert ASKS_WORDS[one.ask].endswith("?")
        assert len(names_of(one, USUAL_HUES)) == one.answers
        assert len(colours_said(one, USUAL_HUES)) == len(one.fills)
        done.append(answer(one, eye.answers(one, rng)))
    assert len(done) == LONG[kind]
    assert set(found_by(done, {})) == {a.quantity for a in ASKS[kind]} - {None}


def test_twelve_places_go_round():
    one = asked(Ask.PLACE)[0]
    assert answer(one, (one.right + 11) % 12).off == 1


def test_what_is_said_of_an_eye_holds_its_truth():
    held, said = 0, 0
    for seed in range(25):
        rng, eye = default_rng(seed), Eye.drawn(default_rng(100 + seed))
        done = []
        for _ in range(40):
            one = question(Ask.LIGHTEST, quest_of(Axis.VALUE, done).next_level(), rng)
            done.append(answer(one, eye.answers(one, rng)))
        found = found_by(done, {})[Axis.VALUE]
        words = sees_words(Axis.VALUE, found, len(done))
        if words.startswith("You tell"):
            said += 1
            held += found.low <= eye.value <= found.high
    assert said >= 20
    assert held >= 0.8 * said


def test_few_answers_and_chance_say_nothing_of_an_eye():
    sure = Found(threshold=0.4, low=0.3, high=0.5, sigma_log=0.1)
    assert sees_words(Axis.VALUE, sure, 5) == ""
    lost = Found(threshold=1.5, low=1.0, high=MOST_SHOWN[Axis.VALUE], sigma_log=0.2)
    assert "near chance" in sees_words(Axis.VALUE, lost, 20)
    fine = Found(threshold=0.07, low=0.06, high=0.08, sigma_log=0.1)
    assert "try it on paper" in sees_words(Axis.VALUE, fine, 20)


def test_finer_is_said_only_beyond_chance():
    before = Found(threshold=0.8, low=0.6, high=1.0, sigma_log=0.12)
    now = Found(threshold=0.4, low=0.3, high=0.5, sigma_log=0.12)
    near = Found(threshold=0.7, low=0.5, high=0.9, sigma_log=0.12)
    assert change_words(before, now) == "Finer than before."
    assert change_words(before, near) == ""
    assert change_words(now, before) == ""


def hue_answer(hue, is_right):
    return Answered(ask=Ask.OTHER_HUE, level=9.0, answers=4, is_right=is_right, hue100=hue)


def test_hues_mixed_up_along_one_line_lead_to_value_and_intensity():
    found = Found(threshold=3.0, low=2.0, high=4.5, sigma_log=0.2)
    line = [hue_answer(10.0, False) for _ in range(5)] + [hue_answer(60.0, True)] * 2
    other = [hue_answer(35.0, True)] * 8
    assert along_one_line([*line, *other], found)
    assert not along_one_line(other, found)
    assert not along_one_line([*other, *[hue_answer(10.0, True)] * 8], found)
    coarse = {Axis.HUE: Found(threshold=9.0, low=7.0, high=12.0, sigma_log=0.1)}
    eye = KnownEye(found=coarse, foreseen=(0, 0), agreed=None, drifted=False, one_line=True)
    assert next_training(eye).series is not SeriesKind.HUE


@pytest.mark.parametrize(
    ("known", "place", "series"),
    [
        ({"found": {}}, TrainedAt.EYE, SeriesKind.VALUE),
        ({"drifted": True}, TrainedAt.BENCH, None),
        ({"agreed": 0.5, "drifted": True}, TrainedAt.EYE, SeriesKind.ROWS),
        ({"foreseen": (3, 10)}, TrainedAt.BENCH, None),
        ({"foreseen": (1, 2)}, TrainedAt.BENCH, None),
    ],
)
def test_what_trains_what_is_chosen(known, place, series):
    fine = Found(threshold=0.2, low=0.15, high=0.3, sigma_log=0.1)
    usual = {"found": dict.fromkeys(Axis, fine), "foreseen": (0, 0), "agreed": None}
    chosen = next_training(KnownEye(**({**usual, "drifted": False} | known)))
    assert (chosen.place, chosen.series) == (place, series)
    assert chosen.reason


def test_places_are_told_as_they_were():
    done = [
        Answered(ask=Ask.PLACE, level=0.0, answers=12, is_right=False, off=2),
        Answered(ask=Ask.PLACE, level=0.0, answers=12, is_right=True, off=0),
        Answered(ask=Ask.ORDER, level=0.0, answers=7, is_right=True),
    ]
    assert places_words(done) == (
        "Hues: 1.0 places of twelve beside the right one, on average.",
        "Order by value: 0.0 pairs of 21 turned round, on average.",
    )
