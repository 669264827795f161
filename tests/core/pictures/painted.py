"""Made-up pictures: squares of paint mixed from known tubes, or of known values."""

import numpy as np
from numpy.random import default_rng

from noema.core.colour.srgb import lab_to_linear, linear_to_srgb
from noema.core.photo.picture import Picture
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.qualities import strengths


def painted(paints, names, seed, squares=24, px=6):
    """A picture all of whose colours are mixes of some tubes and white."""
    rng = default_rng(seed)
    tubes = [paints.tube(name) for name in names]
    count = squares * squares
    pulls = rng.dirichlet([0.6] * len(tubes), count)
    whites = rng.choice([0.0, 0.02, 0.1, 0.4, 1.0, 3.0], count) * rng.uniform(0.6, 1.4, count)
    amounts = np.column_stack([pulls / strengths(tuple(tubes)), whites])
    return shown(mix_labs([*tubes, paints.white], amounts).reshape(squares, squares, 3), px)


def shown(labs, px=1):
    """A picture of colours (h, w, 3), each a square of so many pixels."""
    srgb = np.clip(linear_to_srgb(lab_to_linear(labs)), 0.0, 1.0)
    rgb = np.rint(255.0 * srgb).astype(np.uint8)
    return Picture(rgb=rgb.repeat(px, axis=0).repeat(px, axis=1))
