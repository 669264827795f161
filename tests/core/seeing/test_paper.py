"""Rows on paper show what they say, by what a printer really lays."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.value import lightness_to_value
from noema.core.errors import Refused
from noema.core.seeing.paper import ROWS, paper_rows

GREYS = {level: (15.0 + 0.32 * level, 0.0, 0.0) for level in (56, 92, 128, 160, 192, 224)}


def laid(fill):
    """What the printer lays for a level: a straight line in lightness."""
    return float(lightness_to_value(15.0 + 0.32 * int(fill[1:3], 16)))


def test_one_grey_of_a_row_is_lighter_by_what_is_said():
    rows = paper_rows(GREYS, default_rng(1))
    assert len(rows) == ROWS
    for row in rows:
        values = np.array([laid(fill) for fill in row.fills])
        assert int(np.argmax(values)) == row.right
        others = np.delete(values, row.right)
        assert np.ptp(others) == 0.0
        assert values.max() - others[0] == pytest.approx(row.level, abs=0.05)
    levels = sorted(row.level for row in rows)
    assert levels[0] < 0.2
    assert levels[-1] > 1.2


def test_a_printer_that_isnt_known_is_refused():
    with pytest.raises(Refused, match="Calibrate this printer first"):
        paper_rows({56: (30.0, 0.0, 0.0)}, default_rng(1))
