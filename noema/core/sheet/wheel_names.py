"""Names of hues outside a wheel's rim, where no cell is covered."""

from collections.abc import Iterator

import numpy as np

from noema.core.language import gettext
from noema.core.sheet.drawing import Anchor, Words
from noema.core.sheet.worksheet import Plan

_ABOVE = 0.2  # of the way to a side, under which a name stands over or under the wheel


def names_round(plan: Plan, away_mm: float, letters_mm: float, grey: int) -> Iterator[Words]:
    """Put each named cell's name beyond the rim, turned to the side it stands on."""
    points = np.array([point for one in plan.placed for point in one.polygon_mm])
    middle = (points.min(axis=0) + points.max(axis=0)) / 2.0
    rim = float(np.hypot(*(points - middle).T).max()) + away_mm
    for one in plan.placed:
        if not one.cell.label:
            continue
        along = np.array(one.label_mm) - middle
        x, y = (middle + along / np.hypot(*along) * rim).tolist()
        side = (x - middle[0]) / rim
        sideways = Anchor.START if side > 0 else Anchor.END
        anchor = Anchor.MIDDLE if abs(side) < _ABOVE else sideways
        at = (x, y + letters_mm / 3.0)
        yield Words(
            at_mm=at, text=gettext(one.cell.label), size_mm=letters_mm, anchor=anchor, grey=grey
        )
