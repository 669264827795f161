"""Orders hold enough and little more."""

from itertools import combinations_with_replacement

import pytest

from noema.core.exercises.media import Medium
from noema.core.planning.orders import SIZES_ML, containers, order_of
from noema.core.planning.paint_uses import TubeInMedium


@pytest.mark.parametrize("ml", [1, 75, 76, 119.5, 130, 151, 260, 333, 700, 999])
def test_no_other_three_containers_are_cheaper(ml):
    found = containers(ml)
    assert sum(found) >= ml
    others = [
        sum(some) + 25 * len(some)
        for count in (1, 2, 3)
        for some in combinations_with_replacement(SIZES_ML, count)
        if sum(some) >= ml
    ]
    assert sum(found) + 25 * len(found) <= min(others)


def test_large_amounts_come_in_large_bottles():
    assert containers(2600) == (120, 500, 1000, 1000)
    assert containers(-3) == ()


def test_what_is_there_is_taken_off():
    rose = TubeInMedium(tube="rose", medium=Medium.ACRYLIC)
    (line,) = order_of({rose: 100.0}, {rose: 40.0}, {rose: "rose"})
    assert (line.containers, line.said) == ((75,), "1 × 75 ml")
    (line,) = order_of({rose: 100.0}, {rose: 140.0}, {rose: "rose"})
    assert line.containers == ()
