"""What is known of the tubes somebody really has, beyond what is written on them."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from noema.core.pigments.bending import BENDS, bent, independently
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class KnownTubes:
    """How tubes differ from those described, by name, and how sure that is."""

    names: tuple[str, ...]
    bends: Floats  # (n, BENDS) likeliest
    covariances: Floats  # (n, BENDS, BENDS) of each tube's
    sheets: tuple[int, ...]  # of how many each was learned

    def spread(self, names: Sequence[str]) -> Floats:
        """Give the covariance of the bends of tubes in this order; others differ as makers do."""
        whole = independently(len(names))
        for n, name in enumerate(names):
            if name in self.names:
                own = slice(n * BENDS, (n + 1) * BENDS)
                whole[own, own] = self.covariances[self.names.index(name)]
        return whole

    def as_it_is(self, tube: Tube) -> Tube:
        """Give a tube with the curves that are likeliest."""
        if tube.name not in self.names:
            return tube
        absorption, scattering = bent(tube, self.bends[self.names.index(tube.name)])
        return replace(tube, absorption=absorption, scattering=scattering)

    def in_set(self, paints: PaintSet) -> PaintSet:
        """Give a set as its tubes really are."""
        return replace(paints, tubes=tuple(self.as_it_is(tube) for tube in paints.tubes))


UNKNOWN = KnownTubes(
    names=(), bends=np.zeros((0, BENDS)), covariances=np.zeros((0, BENDS, BENDS)), sheets=()
)
"""Tubes of which nothing but their names is known."""
