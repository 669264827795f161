"""Several photographs of one sheet, read as one.

Each cell is taken from where it is seen best: a photograph in which something lies over it doesn't
count while another shows it. Where several do, the mean is weighted by how sure each is; what they
err in together stays, the rest shrinks with their number, and grows where they disagree.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvcs_of
from noema.core.photo.parameters.together import TOGETHER, TogetherParameters
from noema.core.photo.reading import CellFlag, CellReading, Reading

Floats = NDArray[np.float64]

_OF_PAINT = {CellFlag.UNPAINTED, CellFlag.PARTLY_PAINTED, CellFlag.UNEVEN}
"""Flags that say how a cell was painted, not how it was photographed."""

_BARE = CellFlag.UNPAINTED


def read_together(
    readings: Sequence[Reading], parameters: TogetherParameters = TOGETHER
) -> Reading:
    """Give one reading for photographs of one sheet; the first's where none shows the sheet."""
    found = [one for one in readings if one.found]
    if len(found) < 2:
        return (found or readings)[0]
    merged = [_merged(same, parameters) for same in zip(*(one.cells for one in found), strict=True)]
    hvcs = hvcs_of(np.array([cell.lab for cell in merged]).reshape(-1, 3))
    surest = min(found, key=lambda one: float(np.median([c.sigma for c in one.cells] or [0.0])))
    in_all = set.intersection(*(set(one.flags) for one in found))
    return replace(
        surest,
        flags=tuple(flag for flag in surest.flags if flag in in_all),
        cells=tuple(replace(cell, hvc=hvc) for cell, hvc in zip(merged, hvcs, strict=True)),
    )


def same_paint(one: Reading, other: Reading, parameters: TogetherParameters = TOGETHER) -> bool:
    """Say whether two readings may be of the same paint, or a cell was painted in between.

    What all cells of one photograph err in is left out: values are held to each other.
    """
    if not (one.found and other.found) or len(one.cells) != len(other.cells):
        return False
    pairs = list(zip(one.cells, other.cells, strict=True))
    if any((_BARE in cell.flags) != (_BARE in again.flags) for cell, again in pairs):
        return False
    clear = [
        (cell, again)
        for cell, again in pairs
        if not (set(cell.flags) | set(again.flags)) - _OF_PAINT
    ]
    shift = np.median([again.hvc.value - cell.hvc.value for cell, again in clear] or [0.0])
    return not any(
        _is_other(cell, again, parameters)
        or abs(again.hvc.value - cell.hvc.value - shift)
        > max(
            parameters.repainted_value,
            parameters.repainted_sure * float(np.hypot(cell.sigma_step, again.sigma_step)),
        )
        for cell, again in clear
    )


def _is_other(cell: CellReading, again: CellReading, parameters: TogetherParameters) -> bool:
    own = np.sqrt(1.0 - parameters.shared) * np.hypot(cell.sigma, again.sigma)
    apart = float(ciede2000(cell.lab, again.lab))
    return apart > max(parameters.repainted, parameters.repainted_sure * float(own))


@dataclass(frozen=True, kw_only=True)
class _Seen:
    """One cell in the photographs that show it best."""

    cells: tuple[CellReading, ...]
    flags: tuple[CellFlag, ...]  # that all of these have


def _merged(same: tuple[CellReading, ...], parameters: TogetherParameters) -> CellReading:
    seen = _best(same)
    labs = np.array([cell.lab for cell in seen.cells])
    weights = np.array([cell.sigma**-2.0 if cell.sigma > 0.0 else 1e6 for cell in seen.cells])
    weights /= weights.sum()
    lab = weights @ labs
    own = np.maximum([cell.sigma for cell in seen.cells], 1e-3)
    times = _scattered(own, weights, ciede2000(labs, lab), parameters)
    first = seen.cells[int(np.argmax(weights))]
    lightness, a, b = lab.tolist()

    def mean(values: list[float]) -> float:
        return float(weights @ np.array(values))

    def sigma(values: list[float]) -> float:
        return times * _left(np.array(values), weights, parameters)

    return replace(
        first,
        lab=(lightness, a, b),
        sigma=sigma([one.sigma for one in seen.cells]),
        sigma_value=sigma([one.sigma_value for one in seen.cells]),
        sigma_step=sigma([one.sigma_step for one in seen.cells]),
        sigma_hue=sigma([one.sigma_hue for one in seen.cells]),
        sigma_chroma=sigma([one.sigma_chroma for one in seen.cells]),
        coverage=mean([one.coverage for one in seen.cells]),
        unevenness=mean([one.unevenness for one in seen.cells]),
        spill=mean([one.spill for one in seen.cells]),
        flags=seen.flags,
    )


def _best(same: tuple[CellReading, ...]) -> _Seen:
    """Choose the photographs in which nothing lies over a cell; else the one with least."""
    over = [len(set(cell.flags) - _OF_PAINT) for cell in same]
    clear = tuple(cell for cell, count in zip(same, over, strict=True) if count == 0)
    if not clear:
        fewest = min(same, key=lambda cell: (len(set(cell.flags) - _OF_PAINT), cell.sigma))
        return _Seen(cells=(fewest,), flags=fewest.flags)
    many = len(clear) / 2.0
    flags = [flag for flag in CellFlag if sum(flag in cell.flags for cell in clear) > many]
    return _Seen(cells=clear, flags=tuple(flags))


def _left(sigmas: Floats, weights: Floats, parameters: TogetherParameters) -> float:
    """Give one sigma of the mean of a quantity with sigmas (n,)."""
    shared = parameters.shared * float(weights @ sigmas) ** 2
    own = (1.0 - parameters.shared) * float(weights**2 @ sigmas**2)
    return min(float(np.sqrt(shared + own)), float(sigmas.min()))


def _scattered(
    sigmas: Floats, weights: Floats, apart: Floats, parameters: TogetherParameters
) -> float:
    """Say how many times further photographs lie apart (n,) than their own errors would have it.

    Two or three tell little of that: it counts beside `few` that lie as they should.
    """
    if len(sigmas) < 2:
        return 1.0
    expected = (1.0 - parameters.shared) * (1.0 - float(weights @ weights))
    found = float(weights @ (apart / sigmas) ** 2) / expected
    known = len(sigmas) - 1
    together = (known * found + parameters.few) / (known + parameters.few)
    return float(np.clip(np.sqrt(together), 1.0, parameters.most_apart))
