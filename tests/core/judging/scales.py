"""Readings written by hand."""

from collections.abc import Sequence

from noema.core.colour.hvc import HVC
from noema.core.colour.value import value_to_lab
from noema.core.photo.reading import CellFlag, CellReading, Reading


def read_as(
    values: Sequence[float],
    sigma: float = 0.05,
    flags: dict[int, tuple[CellFlag, ...]] | None = None,
    coverage: dict[int, float] | None = None,
) -> Reading:
    """A sheet read with these values, darkest step first; flags and coverage by step from 1."""
    cells = tuple(
        CellReading(
            id=f"c{n}",
            lab=(float(value_to_lab(value)[0]), 0.0, 0.0),
            hvc=HVC(hue100=None, value=value, chroma=0.0),
            sigma=1.0,
            sigma_value=sigma,
            sigma_step=sigma,
            sigma_hue=5.0,
            sigma_chroma=0.5,
            coverage=(coverage or {}).get(n, 1.0),
            unevenness=0.02,
            spill=0.0,
            flags=(flags or {}).get(n, ()),
        )
        for n, value in enumerate(values, start=1)
    )
    return Reading(sheet="K7Q2-04", found=True, flags=(), cells=cells)
