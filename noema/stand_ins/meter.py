"""A pretended colour meter, for a room without one.

Under it lies a tube that isn't quite the built-in one: another maker's, stronger or weaker, a
little off in hue, always the same for the same name. Readings scatter as a hand-held meter's do.
"""

from hashlib import sha256
from random import Random

import numpy as np

from noema.core.pigments.mix import mix_labs
from noema.core.pigments.tube import Tube
from noema.devices.colour_meter import Held, Lab

_SCATTER = 0.12  # Lab units, one sigma of a careful hand
_MAKERS_DIFFER = 0.25  # one sigma of the log of K and S between makers
_WAVES = 3


class PretendMeter:
    """A meter that knows what lies under it."""

    def __init__(self, rng: Random) -> None:
        self._rng = rng

    def read(self, held: Held) -> Lab:
        """Measure the swatch, with a meter's scatter."""
        tubes = [_the_tube_in_the_cupboard(held), *(part.tube for part in held.mixed_with)]
        amounts = [1.0, *(part.amount for part in held.mixed_with)]
        lab = mix_labs(tubes, amounts).tolist()
        lightness, a, b = (round(number + self._rng.gauss(0.0, _SCATTER), 2) for number in lab)
        return min(max(lightness, 0.0), 100.0), a, b


def _the_tube_in_the_cupboard(held: Held) -> Tube:
    """Give the tube as it really is: the built-in one, changed smoothly by its name."""
    seed = sha256(f"{held.tube.name} {held.label.strip().lower()}".encode()).digest()
    rng = np.random.default_rng(int.from_bytes(seed[:8], "big"))
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
