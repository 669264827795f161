"""A student's mistakes are the ones they are said to be."""

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.errors import Refused
from noema.core.exercises.catalogue import usual_tolerance
from noema.core.exercises.levels import Level
from noema.stand_ins.sitting import Sitting
from noema.stand_ins.student import Mistake, paint_sheet
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT

ROOM_FOR = {
    Mistake.LEAN: ("colour-wheel", choose(hues=12)),
    Mistake.BUNCHED: ("tint-ladder", choose(steps=7)),
    Mistake.SWAPPED: ("tint-ladder", choose(steps=7)),
    Mistake.CONTAMINATED: ("colour-wheel", choose(hues=12)),
    Mistake.NOT_NEUTRAL: ("intensity-chart", choose(steps=5)),
    Mistake.WRONG_PAIR: ("secondary-pairs", choose()),
    Mistake.THIN: ("colour-wheel", choose(hues=12)),
    Mistake.SEE_THROUGH: ("colour-wheel", choose(hues=12)),
    Mistake.WET: ("colour-wheel", choose(hues=12)),
    Mistake.EXCHANGED: ("tint-ladder", choose(steps=7)),
    Mistake.SHORT_DARK: ("value-scale", choose(steps=7)),
    Mistake.BARE: ("tint-ladder", choose(steps=7)),
}


def sitting(kind, wanted, seed=3):
    exercise = asked(kind, wanted, "split-six+black")
    tolerance = usual_tolerance(kind, Level.BEGINNER)
    return Sitting(
        asked=exercise, paints=SPLIT, tolerance=tolerance, rng=np.random.default_rng(seed)
    )


def apart(student, painted, cells):
    asked_of = {cell.id: cell.lab for cell in student.asked.cells}
    return [float(ciede2000(painted.hand.meant[one], asked_of[one])) for one in cells]


@pytest.mark.parametrize("mistake", Mistake)
def test_a_mistake_lies_where_it_is_said_to_and_nowhere_else(mistake):
    student = sitting(*ROOM_FOR[mistake])
    painted = paint_sheet(student, mistake)
    every = {cell.id for cell in student.asked.cells}
    assert painted.wrong
    assert set(painted.wrong) <= every
    rest = sorted(every - set(painted.wrong))
    assert max(apart(student, painted, rest), default=0.0) < 9.0
    if mistake is Mistake.THIN:
        assert painted.hand.missed >= 0.2
    elif mistake is Mistake.WET:
        assert painted.mishap.wet
    elif mistake is Mistake.BARE:
        assert painted.hand.empty == painted.wrong
    else:
        assert max(apart(student, painted, painted.wrong)) > 4.0


def test_without_a_mistake_a_student_paints_nearly_right():
    student = sitting("colour-wheel", choose(hues=12))
    painted = paint_sheet(student, None)
    assert painted.wrong == ()
    assert np.median(apart(student, painted, painted.hand.meant)) < 3.0


def test_a_mistake_without_room_is_refused():
    with pytest.raises(Refused, match="no room"):
        paint_sheet(sitting("mixing-grid", choose()), Mistake.NOT_NEUTRAL)
