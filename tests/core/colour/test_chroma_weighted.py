"""Lab drawn together where it is intense."""

import numpy as np
import pytest

from noema.core.colour.chroma_weighted import chroma_weight, chroma_weighted


def test_greys_stay_and_intense_colours_are_drawn_in_along_their_hue():
    labs = np.array([[50.0, 0.0, 0.0], [60.0, 30.0, 40.0], [60.0, 60.0, 80.0]])
    drawn = chroma_weighted(labs)
    assert drawn[0] == pytest.approx(labs[0])
    assert drawn[:, 0] == pytest.approx(labs[:, 0])
    assert np.arctan2(drawn[1:, 2], drawn[1:, 1]) == pytest.approx(np.arctan2(4.0, 3.0))
    chroma = np.hypot(drawn[:, 1], drawn[:, 2])
    assert chroma[1] < chroma[2] < 2.0 * chroma[1]
    assert chroma * chroma_weight(labs) == pytest.approx(np.hypot(labs[:, 1], labs[:, 2]))
