"""Works out what cameras usually do to paint: the prior of the reader's colour fit.

Run: .venv/bin/python -m tools.make_colour_prior
Many stand-in cameras under many lamps look at paint; each one's best root-polynomial map back to
the true colours is fitted, and the mean and spread of those maps are kept. Seeds are its own.
"""

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.random import default_rng

from noema.core.colour.lab import lab_to_xyz
from noema.core.colour.spectra import XYZ_WEIGHTS, reflectance_to_lab
from noema.core.colour.wide import WIDE_LUMINANCE, XYZ_D50_TO_WIDE, srgb_linear_to_wide
from noema.core.photo.beyond import CHANNELS, kept_terms
from noema.core.photo.colour_fit import OUT, TERMS, rest_at, root_terms, weight_of
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.printer import load_paper
from noema.stand_ins.spectra import everyday_spectra, paint_spectra

FOLDER = Path(__file__).parents[1] / "noema/core/photo/data"
CAMERAS, FIRST_SEED = 600, 700_000
_RIDGE = 2e-4
_CUT, _NOT_BLACK = 0.002, 0.02  # linear, in sRGB and of luminance
_LEAST = 0.002  # a channel under this is clipped and teaches nothing


@dataclass(frozen=True)
class Taught:
    """What one stand-in camera teaches."""

    map: np.ndarray  # (3, TERMS)
    rest: np.ndarray  # (3, 3) weighted, at a middling saturation
    cut_off: dict[int, tuple[np.ndarray, ...]]  # by channel: what was kept, and what lay beyond


def one_camera(seed: int) -> Taught:
    """Fit one camera, and look at what an sRGB file would have cut off."""
    rng = default_rng(seed)
    optics = draw_optics(rng, "easy" if seed % 4 == 0 else "class")
    paper = load_paper(rng, 1.0).paper
    spectra = paint_spectra(reflectance_to_lab(everyday_spectra()), rng)
    raw = optics.seen(spectra) / optics.seen(paper[None])
    seen = srgb_linear_to_wide(raw)
    white = lab_to_xyz([100.0, 0.0, 0.0])
    true = (spectra @ XYZ_WEIGHTS) * (white / (paper @ XYZ_WEIGHTS)) @ XYZ_D50_TO_WIDE.T
    kept = (seen > _LEAST).all(axis=1)
    terms, wanted = root_terms(seen[kept]), true[kept]
    weight = weight_of(wanted)[:, None]
    left, right = terms * weight, wanted * weight
    plain = np.eye(OUT, TERMS)  # the first terms are the channels themselves
    scale = _RIDGE * len(left)
    gram = left.T @ left + scale * np.eye(TERMS)
    found = np.linalg.solve(gram, left.T @ right + scale * plain.T).T
    away = (right - left @ found.T) / rest_at(wanted)[:, None]
    rest = away.T @ away / len(away)
    cut = np.maximum(raw, _CUT)
    guessed = root_terms(srgb_linear_to_wide(cut)) @ found.T
    cut_off = {}
    for channel in CHANNELS:
        only = (raw <= _CUT).sum(axis=1) == 1
        chosen = only & (raw[:, channel] <= _CUT) & (true @ WIDE_LUMINANCE > _NOT_BLACK)
        cut_off[channel] = (cut[chosen], true[chosen] - guessed[chosen], guessed[chosen])
    return Taught(found, rest, cut_off)


def beyond(cameras: list[Taught], channel: int) -> np.ndarray:
    """Give how far beyond what was kept colours lie, (3, 3), and what that leaves, (3, 3)."""
    kept, away, guessed = (
        np.concatenate([camera.cut_off[channel][n] for camera in cameras]) for n in range(3)
    )
    weight = weight_of(guessed)[:, None]
    terms = kept_terms(kept, channel)
    found = np.linalg.lstsq(terms * weight, away * weight)[0]
    return np.concatenate([found, np.cov(((away - terms @ found) * weight).T)])


def written(name: str, head: str, rows: list[np.ndarray]) -> None:
    lines = [",".join(f"{value:.7g}" for value in row) for row in rows]
    text = head + "# Made by tools/make_colour_prior.py.\n" + "\n".join(lines) + "\n"
    (FOLDER / name).write_text(text, encoding="utf-8")


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    cameras = [one_camera(FIRST_SEED + n) for n in range(CAMERAS)]
    flat = np.stack([camera.map for camera in cameras]).reshape(CAMERAS, -1)
    rest = np.mean([camera.rest for camera in cameras], axis=0)
    written(
        "colour_prior.csv",
        "# How stand-in cameras map onto true colours: mean of 18 coefficients (3 outputs x 6\n"
        "# terms), their 18 x 18 covariance, and the covariance of the weighted rest (repeated).\n",
        [flat.mean(axis=0), *np.cov(flat.T), *np.tile(rest, flat.shape[1] // OUT)],
    )
    written(
        "beyond.csv",
        "# Red, then blue: how far colours lie beyond sRGB (3 terms x 3 channels), and the\n"
        "# covariance of what that leaves, weighted.\n",
        [row for channel in CHANNELS for row in beyond(cameras, channel)],
    )


if __name__ == "__main__":
    main()
