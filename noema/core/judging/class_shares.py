"""Which mixes most of a class painted alike, and surely away from their step."""

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.chroma_weighted import chroma_weight
from noema.core.exercises.class_question import SharedCell
from noema.core.judging.evidence import Stray

Floats = NDArray[np.float64]

FEWEST = 6
"""Sheets that must show a cell before anything is said of the class."""

_SHARE = 0.75  # of them must lie on the same side, at least half as far
_LEAST = 3.0  # CIEDE2000, nearly
_SURE = 2.0  # sigmas of what the reader and the tubes leave in doubt, as if all sheets shared it


def shared_by_class(sheets: Sequence[Mapping[str, Stray]]) -> dict[str, SharedCell]:
    """Find the mixes that most sheets of one exercise have off alike, by cell."""
    seen: dict[str, list[Stray]] = {}
    for strays in sheets:
        for name, stray in strays.items():
            if len(stray.printed.parts) > 1 and not stray.printed.limit:
                seen.setdefault(name, []).append(stray)
    found = {name: _shared(strays) for name, strays in seen.items() if len(strays) >= FEWEST}
    return {name: shared for name, shared in found.items() if shared is not None}


def _shared(strays: Sequence[Stray]) -> SharedCell | None:
    expected = np.array([stray.cell.lab for stray in strays])
    off = np.array([stray.lab for stray in strays]) - expected
    scale = np.ones_like(off)
    scale[:, 1:] = chroma_weight(expected)[:, None]
    ways = off / scale
    middle = np.median(ways, axis=0)
    far = float(np.linalg.norm(middle))
    doubt = np.mean([stray.left for stray in strays], axis=0)
    if far < _LEAST or middle @ np.linalg.solve(doubt, middle) < _SURE**2:
        return None
    students = int(np.sum(ways @ middle >= 0.5 * far**2))
    if students < _SHARE * len(strays):
        return None
    lightness, a, b = np.median(off, axis=0).tolist()
    return SharedCell(shift=(lightness, a, b), students=students, of=len(strays))
