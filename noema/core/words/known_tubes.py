"""What was learned of a class's tubes, in a painter's words."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import HueTable
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.language import ngettext
from noema.core.pigments.bending import BENDS, bent
from noema.core.pigments.film import Surface, opaque_reflectance
from noema.core.pigments.known_tubes import KnownTubes
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube
from noema.core.sheet.layout import Triple
from noema.core.words.amounts import listed
from noema.core.words.differences import how_it_differs

Floats = NDArray[np.float64]

_SEEN, _SURE = 2.0, 1.5  # CIEDE2000 from which a difference is said, and its sigmas
_NUDGE = 0.02


@dataclass(frozen=True, kw_only=True)
class TubeLearned:
    """How a tube differs from the one described."""

    label: str
    words: str
    described: Triple  # Lab of its masstone
    learned: Triple


def tubes_learned(known: KnownTubes, paints: PaintSet, table: HueTable) -> Iterator[TubeLearned]:
    """Say of each tube of a set, as it is described, how the class's differs; if it surely does."""
    for tube in paints.tubes:
        if tube.name not in known.names:
            continue
        place = known.names.index(tube.name)
        labs, sigma = _masstones(tube, known, place, paints.binder.dry)
        away = float(ciede2000(labs[0], labs[1]))
        if away < max(_SEEN, _SURE * sigma):
            continue
        described, learned = (_triple(lab) for lab in labs)
        yield TubeLearned(
            label=tube.label,
            words=ngettext(
                "Your %(tube)s is %(how)s than described: learned from %(count)s sheet.",
                "Your %(tube)s is %(how)s than described: learned from %(count)s sheets.",
                known.sheets[place],
                tube=tube.label,
                how=listed(how_it_differs(hvc_of(described), hvc_of(learned), table)),
                count=known.sheets[place],
            ),
            described=described,
            learned=learned,
        )


def _masstones(tube: Tube, known: KnownTubes, place: int, surface: Surface) -> tuple[Floats, float]:
    """Give Lab of a masstone as described and as learned, (2, 3), and one sigma, CIEDE2000."""
    bends = known.bends[place]
    tried = np.vstack([np.zeros(BENDS), bends, bends + _NUDGE * np.eye(BENDS)])
    labs = reflectance_to_lab(opaque_reflectance(*bent(tube, tried), surface))
    slopes = (labs[2:] - labs[1]).T / _NUDGE
    sizes, ways = np.linalg.eigh(slopes @ known.covariances[place] @ slopes.T)
    moves = labs[1] + (np.sqrt(np.maximum(sizes, 0.0)) * ways).T
    return labs[:2], float(np.sqrt(np.sum(ciede2000(labs[1], moves) ** 2)))


def _triple(lab: Floats) -> Triple:
    lightness, a, b = lab.tolist()
    return (lightness, a, b)
