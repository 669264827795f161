"""Readings of colours mixed on purpose."""

from collections.abc import Mapping

import numpy as np

from noema.core.colour.hvc import hvc_of
from noema.core.exercises.asked import Asked, Lab
from noema.core.photo.reading import CellFlag, CellReading, Reading
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.shelf import builtin_set

SPLIT = builtin_set("split-six+black")


def mixed(**volumes: float) -> Lab:
    """The colour of volumes of the split set's tubes, by name with _ for -."""
    tubes = [SPLIT.tube(name.replace("_", "-")) for name in volumes]
    lightness, a, b = mix_labs(tubes, list(volumes.values()), SPLIT.binder.dry).tolist()
    return (lightness, a, b)


def read_labs(
    asked: Asked,
    changed: Mapping[str, Lab] | None = None,
    *,
    cast: Lab = (0.0, 0.0, 0.0),
    flags: Mapping[str, tuple[CellFlag, ...]] | None = None,
    coverage: Mapping[str, float] | None = None,
    spill: Mapping[str, float] | None = None,
) -> Reading:
    """A sheet read as asked but for the changed colours; a cast lies over all of it."""
    cells = []
    for cell in asked.on_paper:
        lightness, a, b = (np.array((changed or {}).get(cell.id, cell.lab)) + cast).tolist()
        lab = (lightness, a, b)
        cells.append(
            CellReading(
                id=cell.id,
                lab=lab,
                hvc=hvc_of(lab),
                sigma=2.0,
                sigma_value=0.2,
                sigma_step=0.1,
                sigma_hue=1.2,
                sigma_chroma=0.6,
                coverage=(coverage or {}).get(cell.id, 1.0),
                unevenness=0.02,
                spill=(spill or {}).get(cell.id, 0.0),
                flags=(flags or {}).get(cell.id, ()),
            )
        )
    return Reading(sheet="K7Q2-04", found=True, flags=(), cells=tuple(cells))
