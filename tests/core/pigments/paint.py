"""Mixes as the tests write them."""

import numpy as np

from noema.core.colour.hvc import HVC, hvc_of, hvcs_of
from noema.core.pigments.mix import lab_of_parts, mix_labs
from noema.core.pigments.shelf import TUBES, builtin_set
from noema.formats.mix_text import mix_from_text

ALL = builtin_set("all")
RATIOS = 2.0 ** np.linspace(-6, 6, 49)


def mixed(text: str) -> HVC:
    """What a mix such as "rose:1, white:10" looks like."""
    return hvc_of(lab_of_parts(mix_from_text(text, ALL)))


def way(one: str, other: str, white: float = 0.0) -> list[HVC]:
    """Every mix between two tubes, from 1:64 to 64:1, each with some white on its volume."""
    amounts = np.stack([RATIOS, np.ones_like(RATIOS), white * (1 + RATIOS)], axis=-1)
    return hvcs_of(mix_labs([TUBES[one], TUBES[other], TUBES["titanium-white"]], amounts))


def least_chroma(mixes: list[HVC]) -> float:
    return min(mix.chroma for mix in mixes)


def near(hue100: float, low: float, high: float) -> bool:
    """Whether a hue lies between two others, going up round the circle."""
    return (hue100 - low) % 100 <= (high - low) % 100


def most_intense(mixes: list[HVC], low: float, high: float) -> float:
    """The highest chroma among mixes whose hue lies between two others; 0 when there is none."""
    there = [m.chroma for m in mixes if m.hue100 is not None and near(m.hue100, low, high)]
    return max(there, default=0.0)
