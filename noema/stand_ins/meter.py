"""A pretended colour meter, for a room without one.

Under it lies a tube that isn't quite the built-in one: another maker's, stronger or weaker, a
little off in hue, always the same for the same name. Readings scatter as a hand-held meter's do.
"""

from hashlib import sha256
from random import Random

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.spectra import reflectance_to_lab
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.tube import Tube
from noema.devices.colour_meter import HeldSquare, HeldSwatch, Lab
from noema.stand_ins.printer import load_paper

Floats = NDArray[np.float64]

_SCATTER = 0.12  # Lab units, one sigma of a careful hand
_MAKERS_DIFFER = 0.25  # one sigma of the log of K and S between makers
_WAVES = 3
_BARE = 255  # bytes of what isn't printed on


class PretendMeter:
    """A meter that knows what lies under it."""

    def __init__(self, rng: Random) -> None:
        self._rng = rng

    def read(self, held: HeldSwatch | HeldSquare) -> Lab:
        """Measure the swatch, with a meter's scatter."""
        lab = (_printed(held) if isinstance(held, HeldSquare) else _painted(held)).tolist()
        lightness, a, b = (round(number + self._rng.gauss(0.0, _SCATTER), 2) for number in lab)
        return min(max(lightness, 0.0), 100.0), a, b


def _painted(held: HeldSwatch) -> Floats:
    tubes = [_the_tube_in_the_cupboard(held), *(part.tube for part in held.mixed_with)]
    return mix_labs(tubes, [1.0, *(part.amount for part in held.mixed_with)])


def _printed(held: HeldSquare) -> Floats:
    """Give what the printer of that name lays: an ordinary school's, always the same."""
    press = load_paper(_always(held.printer), 1.0)
    sent = np.array([held.sent], dtype=np.uint8)
    laid = press.paper[None] if sent.min() == _BARE else press.lays(sent)
    return np.asarray(reflectance_to_lab(laid)[0])


def _always(name: str) -> np.random.Generator:
    """Give the same chances whenever a thing of this name is met."""
    seed = sha256(name.encode()).digest()
    return np.random.default_rng(int.from_bytes(seed[:8], "big"))


def _the_tube_in_the_cupboard(held: HeldSwatch) -> Tube:
    """Give the tube as it really is: the built-in one, changed smoothly by its name."""
    rng = _always(f"{held.tube.name} {held.label.strip().lower()}")
    place = np.linspace(0.0, 1.0, len(held.tube.absorption))
    waves = sum(
        rng.normal(0.0, _MAKERS_DIFFER / _WAVES) * np.cos(np.pi * wave * place)
        for wave in range(1, _WAVES + 1)
    )
    level = rng.normal(0.0, _MAKERS_DIFFER)
    return Tube(
        name=held.tube.name,
        label=held.label,
        pigments=held.tube.pigments,
        absorption=held.tube.absorption * np.exp(level + waves),
        scattering=held.tube.scattering * np.exp(rng.normal(0.0, _MAKERS_DIFFER)),
        basis="pretended",
        role=held.tube.role,
    )
