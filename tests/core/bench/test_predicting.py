"""What was foreseen is held against what came."""

import pytest

from noema.core.bench.predicting import (
    STAYS,
    Foreseen,
    Prediction,
    SaidChroma,
    SaidValue,
    foreseen,
    share_foreseen,
)
from noema.core.colour.hvc import HVC
from noema.core.colour.names import USUAL_HUES


def colour(hue, value, chroma):
    return HVC(hue100=hue, value=value, chroma=chroma)


YELLOW, GREENER = colour(35.0, 8.0, 10.0), colour(40.0, 7.0, 9.0)


@pytest.mark.parametrize(
    ("said", "came"),
    [
        (Prediction(value=SaidValue.DARKER), Foreseen(value=True)),
        (Prediction(value=SaidValue.LIGHTER), Foreseen(value=False)),
        (Prediction(value=SaidValue.SAME), Foreseen(value=False)),
        (Prediction(chroma=SaidChroma.DULLER), Foreseen(chroma=True)),
        (Prediction(hue="green"), Foreseen(hue=True)),
        (Prediction(hue="orange"), Foreseen(hue=False)),
        (Prediction(hue=STAYS), Foreseen(hue=False)),
        (Prediction(), Foreseen()),
    ],
)
def test_a_yellow_that_got_a_little_blue(said, came):
    assert foreseen(said, YELLOW, GREENER, USUAL_HUES) == came


def test_of_a_change_nobody_sees_it_stayed_and_near_that_both_words_are_right():
    same = colour(35.0, 8.05, 10.1)
    assert foreseen(Prediction(value=SaidValue.SAME), YELLOW, same, USUAL_HUES).value is True
    assert foreseen(Prediction(value=SaidValue.LIGHTER), YELLOW, same, USUAL_HUES).value is False
    little = colour(35.0, 8.15, 10.0)
    for said in (SaidValue.SAME, SaidValue.LIGHTER):
        assert foreseen(Prediction(value=said), YELLOW, little, USUAL_HUES).value is True


def test_a_grey_has_no_hue_to_foresee():
    grey = colour(35.0, 5.0, 0.5)
    assert foreseen(Prediction(hue="green"), YELLOW, grey, USUAL_HUES).hue is None


def test_what_can_be_told_is_counted():
    told = [Foreseen(value=True, hue=False), Foreseen(chroma=True), Foreseen()]
    assert share_foreseen(told) == (2, 3)
