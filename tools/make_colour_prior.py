"""Works out what cameras usually do to paint: the prior of the reader's colour fit.

Run: .venv/bin/python -m tools.make_colour_prior
Many stand-in cameras under many lamps look at paint; each one's best root-polynomial map back to
the true colours is fitted, and the mean and spread of those maps are kept. Seeds are its own.
"""

from pathlib import Path

import numpy as np
from numpy.random import default_rng

from noema.core.colour.lab import lab_to_xyz
from noema.core.colour.spectra import XYZ_WEIGHTS, reflectance_to_lab
from noema.core.colour.srgb import LINEAR_TO_XYZ_D50
from noema.core.photo.colour_fit import OUT, TERMS, root_terms, weight_of
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.printer import load_paper
from noema.stand_ins.spectra import everyday_spectra, paint_spectra

TARGET = Path(__file__).parents[1] / "noema/core/photo/data/colour_prior.csv"
CAMERAS, FIRST_SEED = 600, 700_000
_RIDGE = 2e-4
_LEAST = 0.004  # a channel under this is clipped and teaches nothing


def one_camera(seed: int) -> tuple[np.ndarray, np.ndarray]:
    """Give a camera's map (3, TERMS) and what it leaves, weighted, (3,)."""
    rng = default_rng(seed)
    optics = draw_optics(rng, "easy" if seed % 4 == 0 else "class")
    paper = load_paper(rng, 1.0).paper
    spectra = paint_spectra(reflectance_to_lab(everyday_spectra()), rng)
    seen = optics.seen(spectra) / optics.seen(paper[None])
    white = lab_to_xyz([100.0, 0.0, 0.0])
    xyz = (spectra @ XYZ_WEIGHTS) * (white / (paper @ XYZ_WEIGHTS))
    true = xyz @ np.linalg.inv(LINEAR_TO_XYZ_D50).T
    kept = (seen > _LEAST).all(axis=1)
    terms, true = root_terms(seen[kept]), true[kept]
    weight = weight_of(true)[:, None]
    left, right = terms * weight, true * weight
    plain = np.eye(OUT, TERMS)  # the first terms are the channels themselves
    scale = _RIDGE * len(left)
    gram = left.T @ left + scale * np.eye(TERMS)
    found = np.linalg.solve(gram, left.T @ right + scale * plain.T).T
    return found, np.sqrt(np.mean((right - left @ found.T) ** 2, axis=0))


def main() -> None:
    maps, rests = zip(*(one_camera(FIRST_SEED + n) for n in range(CAMERAS)), strict=True)
    flat = np.stack(maps).reshape(CAMERAS, -1)
    rows = [flat.mean(axis=0), *np.cov(flat.T), np.resize(np.median(rests, axis=0), flat.shape[1])]
    lines = [",".join(f"{value:.7g}" for value in row) for row in rows]
    head = (
        "# How stand-in cameras map onto true colours: mean of 18 coefficients (3 outputs x 6\n"
        "# terms), their 18 x 18 covariance, and the weighted rest of each output (repeated).\n"
        "# Made by tools/make_colour_prior.py.\n"
    )
    TARGET.parent.mkdir(exist_ok=True)
    TARGET.write_text(head + "\n".join(lines) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
