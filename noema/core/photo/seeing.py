"""What a camera made of colours."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.colour_fit import ColourFit
from noema.core.photo.tone import Tone
from noema.core.sheet.layout import Triple

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class Seeing:
    """What this camera made of colours, and the paper they are relative to."""

    tone: Tone
    to_wide: Floats  # (3, 3) from the file's channels
    in_srgb: bool  # those channels are sRGB's, not a wider space's
    fit: ColourFit
    paper: tuple[Triple, float]  # Lab, and one sigma of its lightness
    paper_light: float  # light of paper as the camera recorded it, 0..1
