"""What a set of paints makes of a wheel's hues, said before it is assigned."""

from collections.abc import Sequence

from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import hue_step
from noema.core.errors import BadHueTable
from noema.core.exercises.asked import AskedCell, Concern, Ground
from noema.core.language import gettext, said_together
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.reach import best_mix
from noema.core.pigments.shelf import TUBES
from noema.core.pigments.tube import Role

_FAINT_BELOW = 2.8  # chroma: a beginner's tolerance, within which it might as well be grey
_BETTER = 1.5  # times as intense must another pair be to be named


def concerns_of(pures: Sequence[AskedCell], ground: Ground) -> tuple[Concern, ...]:
    """Say of each hue what these paints can't do, and which pair would."""
    half_step = 50.0 / len(pures)
    found = []
    for cell in pures:
        said = _said(cell, half_step, ground)
        if said:
            found.append(Concern(cells=(cell.id,), sentence=said, suggestion=_better(cell, ground)))
    return tuple(found)


def _said(cell: AskedCell, half_step: float, ground: Ground) -> str:
    name = cell.label.capitalize()
    if cell.limit:
        return f"{name}: {cell.limit}."
    if cell.hvc.chroma < _FAINT_BELOW:
        return gettext(
            "%(name)s: these paints give it so faint that it may pass for grey.", name=name
        )
    hue100 = _named(cell, ground)
    if hue100 is None or cell.hvc.hue100 is None:
        return ""
    off = hue_step(hue100, cell.hvc.hue100)
    if abs(off) <= half_step:
        return ""
    twelve = [hue.name for hue in ground.table.hues(12)]
    home = twelve.index(ground.table.nearest(hue100, 12).name)
    towards = twelve[(home + (-1 if off > 0 else 1)) % 12]  # the wheel runs against the numbers
    return gettext(
        "%(name)s: these paints give it nearer to %(towards)s.", name=name, towards=towards
    )


def _named(cell: AskedCell, ground: Ground) -> float | None:
    """Give the hue a cell's name stands for; None where it bears a tube's name."""
    try:
        return ground.table.of(cell.label).hue100
    except BadHueTable:
        return None


def _better(cell: AskedCell, ground: Ground) -> str:
    """Name the pair of all tubes that gives a hue best, where it is far better."""
    hue100 = _named(cell, ground)
    parts = () if hue100 is None else best_mix(tuple(TUBES.values()), hue100)
    tubes = [part.tube.label for part in parts if part.tube.role is Role.COLOUR]
    if tubes and hvc_of(lab_of_parts(parts)).chroma > _BETTER * cell.hvc.chroma:
        return gettext("%(tubes)s would give it far cleaner", tubes=said_together(tubes))
    return gettext("add a tube that leans to it, or take split primaries")
