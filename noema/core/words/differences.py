"""How one colour differs from another, in a painter's words."""

import numpy as np

from noema.core.colour.hvc import HVC
from noema.core.colour.names import HueTable, hue_step
from noema.core.language import N_, gettext

_HUE, _VALUE, _CHROMA = 1.5, 0.25, 0.8  # steps from which each quantity is worth a word
_LIGHTER, _DARKER = N_("lighter"), N_("darker")
_CLEANER, _DULLER = N_("more intense"), N_("duller")


def how_it_differs(expected: HVC, painted: HVC, table: HueTable) -> list[str]:
    """Say how a colour differs from another, such as: nearer to green, darker; never nothing."""
    said = []
    turn = _turn(expected, painted)
    if abs(turn) >= _HUE and expected.hue100 is not None:
        # The named hue that lies that way: past the tube's own, or its own from the far side.
        ahead = [
            (hue_step(expected.hue100, hue.hue100) * np.sign(turn), hue.name)
            for hue in table.hues(6)
        ]
        said.append(gettext("nearer to %(hue)s", hue=min(one for one in ahead if one[0] > 0.0)[1]))
    value, chroma = painted.value - expected.value, painted.chroma - expected.chroma
    if abs(value) >= _VALUE:
        said.append(gettext(_LIGHTER if value > 0 else _DARKER))
    if abs(chroma) >= _CHROMA:
        said.append(gettext(_CLEANER if chroma > 0 else _DULLER))
    return said or [gettext(_LIGHTER if value > 0 else _DARKER)]


def _turn(expected: HVC, painted: HVC) -> float:
    """Give by how many steps a hue turned; 0 where one of them is too grey to show it."""
    if expected.hue100 is None or painted.hue100 is None:
        return 0.0
    shows = min(expected.chroma, painted.chroma) > _CHROMA
    return hue_step(expected.hue100, painted.hue100) if shows else 0.0
