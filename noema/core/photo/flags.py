"""What makes a cell doubtful, as flags."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.parameters.doubt import DOUBT, DoubtParameters
from noema.core.photo.reading import CellFlag
from noema.core.photo.sample import LUMINANCE, PaintSample
from noema.core.photo.shine import Shine
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Suspicions:
    """What the page round a cell says of it."""

    shine: Shine
    light_step: float  # between paper on two sides, in logarithms, after the light was evened
    inside: bool  # wholly in the picture
    usual_unevenness: float  # of the more even cells of this sheet


def cell_flags(
    sample: PaintSample,
    raw: NDArray[np.uint8],
    pixels: Floats,
    about: Suspicions,
    sigma: float,
    parameters: DoubtParameters = DOUBT,
) -> tuple[CellFlag, ...]:
    """Say what a cell's pixels suffer from: bytes (n, 3) and colours (n, 3) relative to paper."""
    luminance = pixels @ LUMINANCE
    usual = float(median_of(luminance)) if len(luminance) else 1.0
    top = raw.max(axis=1) if len(raw) else np.zeros(1)
    sparks = (luminance > parameters.glare_over * usual) & (top >= parameters.burnt_byte)
    sparkles = len(sparks) > 0 and float(sparks.mean()) > parameters.glare_share
    oddly = max(parameters.oddly_uneven_log, parameters.times_uneven * about.usual_unevenness)
    seen = {
        CellFlag.UNPAINTED: sample.bare,
        CellFlag.PARTLY_PAINTED: not sample.bare and sample.coverage < parameters.partly,
        CellFlag.GLARE: not sample.gaps and (about.shine.likely or sparkles),
        CellFlag.SHADOW: about.light_step > parameters.edge_log,
        CellFlag.CLIPPED: _clipped(raw, parameters)
        or (clipped_channel(raw, parameters) is not None and sigma > parameters.unsure),
        CellFlag.UNEVEN: sample.unevenness > min(parameters.uneven_log, oddly),
        CellFlag.OUTSIDE: not about.inside,
    }
    return tuple(flag for flag, holds in seen.items() if holds)


def with_glare_all_over(
    flags: Sequence[tuple[CellFlag, ...]], parameters: DoubtParameters = DOUBT
) -> list[tuple[CellFlag, ...]]:
    """Mistrust every painted cell where so many shine that the rest hardly escaped."""
    painted = [one for one in flags if CellFlag.UNPAINTED not in one]
    shiny = sum(CellFlag.GLARE in one for one in painted)
    spoiled = sum(CellFlag.GLARE in one or CellFlag.UNEVEN in one for one in painted)
    many = shiny > parameters.wet_share * len(painted)
    if not many and not (shiny > 1 and spoiled > parameters.spoiled_share * len(painted)):
        return list(flags)
    shone = (CellFlag.GLARE,)
    return [one if {CellFlag.UNPAINTED, *shone} & set(one) else (*one, *shone) for one in flags]


def clipped_channel(raw: NDArray[np.uint8], parameters: DoubtParameters = DOUBT) -> int | None:
    """Give the channel of bytes (n, 3) in which an intense colour met the file's end, if one did.

    What lies beyond can be guessed from the other two; where two or more are at the end, it can't.
    """
    if not len(raw):
        return None
    low = median_of(raw) <= parameters.black_byte
    return int(np.argmax(low)) if low.sum() == 1 else None


def _clipped(raw: NDArray[np.uint8], parameters: DoubtParameters) -> bool:
    if not len(raw):
        return False
    burnt = float((raw >= parameters.burnt_byte).mean(axis=0).max()) > parameters.clipped_share
    return burnt or int((median_of(raw) <= parameters.black_byte).sum()) > 1
