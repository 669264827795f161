"""What a painter learns of a tube first: how strongly it tints, how it covers, where it leans."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.colour.names import word_of
from noema.core.language import N_
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.shelf import TUBES, WHITE
from noema.core.pigments.tube import Role, Tube

Floats = NDArray[np.float64]

TINT_PARTS = 10.0
"""Volumes of white to one of the tube in the tint that stands for its undertone."""

_SEEN_TINT = 20.0  # CIEDE2000 from white at which a tint is plainly coloured
_WHITES = np.geomspace(0.02, 20_000.0, 49)  # volumes tried
_HUE_HIDES_BELOW = 2.5  # value under which a masstone's hue can't be seen


@dataclass(frozen=True, kw_only=True)
class Qualities:
    """A tube at a glance."""

    masstone: HVC  # thick and dry
    tint: HVC  # with ten volumes of white
    shown: HVC  # of the two, the one whose hue can be seen
    strength: float  # volumes of white that one volume colours plainly
    cover: float  # mean scattering, white being 1: what scatters covers, what absorbs glazes

    @property
    def strength_word(self) -> str:
        """How it behaves in a mix."""
        return word_of(_STRENGTHS, self.strength)

    @property
    def cover_word(self) -> str:
        """How it covers."""
        return word_of(_COVERS, self.cover)


@lru_cache(maxsize=512)
def qualities(tube: Tube) -> Qualities:
    """Look at one tube; the answer is remembered."""
    labs = np.stack([mix_labs([tube], [1.0]), mix_labs([tube, TUBES[WHITE]], [1.0, TINT_PARTS])])
    masstone, tint = hvcs_of(labs)
    hidden = masstone.value < _HUE_HIDES_BELOW and tube.role is Role.COLOUR
    return Qualities(
        masstone=masstone,
        tint=tint,
        shown=tint if hidden else masstone,
        strength=_strength(tube),
        cover=float(tube.scattering.mean()),
    )


def strengths(tubes: tuple[Tube, ...]) -> Floats:
    """Give the tubes' tinting strengths (n,): amounts divided by them pull alike."""
    return np.array([qualities(tube).strength for tube in tubes])


def _strength(tube: Tube) -> float:
    if tube.role is Role.WHITE:
        return 1.0
    amounts = np.stack([np.ones_like(_WHITES), _WHITES], axis=-1)
    white = mix_labs([TUBES[WHITE]], [1.0])
    away = ciede2000(mix_labs([tube, TUBES[WHITE]], amounts), white)
    return float(np.exp(np.interp(-_SEEN_TINT, -away, np.log(_WHITES))))


_STRENGTHS = (
    (24.0, N_("weak")),
    (45.0, N_("middling")),
    (180.0, N_("strong")),
    (float("inf"), N_("overwhelming")),
)
_COVERS = (
    (0.2, N_("transparent")),
    (0.33, N_("half transparent")),
    (0.7, N_("half opaque")),
    (float("inf"), N_("opaque")),
)
