"""What was learned of a class's tubes, as JSON."""

from typing import cast

import numpy as np

from noema.core.pigments.bending import BENDS
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.formats.plain import Json


def known_tubes_to_json(known: KnownTubes) -> Json:
    """Give what is known as plain values."""
    return {
        "names": list(known.names),
        "bends": np.round(known.bends, 4).tolist(),
        "covariances": np.round(known.covariances, 5).tolist(),
        "sheets": list(known.sheets),
    }


def known_tubes_from_json(values: Json | None) -> KnownTubes:
    """Read back what `known_tubes_to_json` wrote; None: nothing is known."""
    if values is None:
        return UNKNOWN
    names = tuple(cast(list[str], values["names"]))
    return KnownTubes(
        names=names,
        bends=np.array(values["bends"], dtype=float).reshape(len(names), BENDS),
        covariances=np.array(values["covariances"], dtype=float).reshape(len(names), BENDS, BENDS),
        sheets=tuple(cast(list[int], values["sheets"])),
    )
