"""How well paint is read through a strip: python -m bench.strips [COUNT].

Colours are drawn over all that paint reaches; papers, printers, phones and lamps are the class
photographs' of the stand-ins, once as built on and once of kinds nobody looked at while building.
"""

import sys

import numpy as np
from numpy.random import default_rng

from noema.core.colour.difference import ciede2000
from noema.core.photo.read import read_photo
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.shelf import builtin_set
from noema.core.sheet.strip import strip_layout
from noema.formats.photo_file import open_photo
from noema.stand_ins.held import photograph_of_dab
from noema.stand_ins.kinds import Kinds


def main() -> None:
    """Print what was found for both sets of kinds."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 60
    for kinds in Kinds:
        found = [one for seed in range(count) if (one := read_strip(seed, kinds)) is not None]
        away = np.array([one[0] for one in found])
        inside = np.array([one[0] <= 2.0 * one[1] for one in found])
        print(
            f"strips, {kinds.value}: {len(found)} of {count} read, CIEDE2000 median "
            f"{np.median(away):.2f}, nine in ten {np.percentile(away, 90):.2f}; within two sigma "
            f"{inside.mean():.0%}, median sigma {np.median([one[1] for one in found]):.2f}"
        )


def read_strip(seed: int, kinds: Kinds) -> tuple[float, float] | None:
    """Paint a colour into a strip, photograph and read it: how far off, and its sigma."""
    taken = photograph_of_dab(_some_mix(seed), seed=seed, preset="class", kinds=kinds)
    (truth,) = taken.truth
    read = read_photo(open_photo(taken.jpeg), strip_layout()).reading
    if not read.found or truth.lab is None:
        return None
    (cell,) = read.cells
    return float(ciede2000(cell.lab, truth.lab)), cell.sigma


def _some_mix(seed: int) -> tuple[float, float, float]:
    paints, rng = builtin_set("split-six"), default_rng([seed, 24])
    amounts = rng.dirichlet([0.5] * len(paints.tubes))
    lightness, a, b = mix_labs(list(paints.tubes), amounts[None])[0].tolist()
    return lightness, a, b


if __name__ == "__main__":
    main()
