"""What a printer lays, put together from several looks at its calibration page."""

from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.errors import BadFile
from noema.core.language import gettext
from noema.core.photo.knowledge import Known, Srgb
from noema.core.photo.reading import CellFlag, CellReading
from noema.core.sheet.calibration_sheet import PAPER, PRINTED, ROWS, printed_as, squares_in_order
from noema.core.sheet.layout import Triple

LEAST_SIGMA = 0.4  # CIEDE2000: the same printer lays a page a little differently every day
METER_SIGMA = 0.5
_SHARED = 0.25  # power of the number of looks: they share card, camera or meter
_UNUSABLE = frozenset({CellFlag.UNPAINTED, CellFlag.OUTSIDE, CellFlag.GLARE, CellFlag.SHADOW})
_FEWEST = 9  # colours a look must give of the dozen


def look_of_reading(cells: Iterable[CellReading], paper: Known) -> dict[Srgb, Known]:
    """Average the squares of a calibration page; refuses a page of which too little was seen."""
    seen: dict[Srgb, list[CellReading]] = {}
    for cell in cells:
        if not _UNUSABLE & (set(cell.flags) - ({CellFlag.UNPAINTED} if _is_pale(cell) else set())):
            seen.setdefault(printed_as(cell.id), []).append(cell)
    if len(seen) < _FEWEST:
        raise BadFile(
            gettext(
                "Only %(seen)s of %(printed)s colours could be seen: photograph "
                "the page again, flat and without shine.",
                seen=len(seen),
                printed=len(PRINTED),
            )
        )
    look = {sent: _averaged(same) for sent, same in seen.items()}
    return {**look, PAPER: paper}


def look_of_samples(labs: Sequence[Triple]) -> dict[Srgb, Known]:
    """Take a meter's values in the page's order: one row, or all rows, then blank paper."""
    row = len(PRINTED)
    wanted = {row: 1, row + 1: 1, ROWS * row: ROWS, ROWS * row + 1: ROWS}
    if len(labs) not in wanted:
        raise BadFile(
            gettext(
                "The file holds %(count)s colours: measure the first row (%(row)s) "
                "or all rows (%(rows)s) from left to right, and blank paper last "
                "if you like.",
                count=len(labs),
                row=row,
                rows=ROWS * row,
            )
        )
    order = squares_in_order()[: wanted[len(labs)] * row]
    found: dict[Srgb, list[Triple]] = {}
    for sent, lab in zip(order, labs, strict=False):
        found.setdefault(sent, []).append(lab)
    if len(labs) % row:
        found[PAPER] = [labs[-1]]
    return {sent: Known(lab=_mean(same), sigma=METER_SIGMA) for sent, same in found.items()}


def combined(looks: Sequence[Mapping[Srgb, Known]]) -> dict[Srgb, Known]:
    """Weigh several looks into one.

    >>> looks = [{(56, 56, 56): Known(lab=(30.0, 0.0, 0.0), sigma=1.0)}] * 2
    >>> combined(looks)[(56, 56, 56)].lab
    (30.0, 0.0, 0.0)
    """
    found: dict[Srgb, Known] = {}
    for sent in dict.fromkeys(sent for look in looks for sent in look):
        seen = [look[sent] for look in looks if sent in look]
        weight = np.array([one.sigma**-2.0 for one in seen])
        lab = np.average([one.lab for one in seen], axis=0, weights=weight).tolist()
        apart = [float(ciede2000(one.lab, lab)) for one in seen]
        alone = float(np.sqrt(1.0 / weight.mean())) / len(seen) ** _SHARED
        sigma = max(LEAST_SIGMA, alone, float(np.mean(apart)))
        found[sent] = Known(lab=(lab[0], lab[1], lab[2]), sigma=sigma)
    return found


def _averaged(cells: Sequence[CellReading]) -> Known:
    sigma = float(np.mean([cell.sigma for cell in cells]))
    return Known(lab=_mean([cell.lab for cell in cells]), sigma=max(LEAST_SIGMA, sigma))


def _mean(labs: Sequence[Triple]) -> Triple:
    lightness, a, b = np.mean(labs, axis=0).tolist()
    return (lightness, a, b)


def _is_pale(cell: CellReading) -> bool:
    """Whether a square is so light that it may pass for bare paper."""
    return min(printed_as(cell.id)) > 200
