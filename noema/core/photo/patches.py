"""What the printed patches say of the camera: its tone curve, then its colours."""

from collections import defaultdict

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.lab import lab_to_xyz
from noema.core.colour.srgb import linear_to_lab, srgb_to_linear
from noema.core.colour.wide import WIDE_LUMINANCE, XYZ_D50_TO_WIDE, wide_to_lab
from noema.core.photo.colour_fit import ColourFit, fit_colour, weight_of
from noema.core.photo.sample import LUMINANCE
from noema.core.photo.tone import (
    UNKNOWN_PRINT_BLACK,
    UNKNOWN_PRINT_SIGMA,
    Tone,
    fit_tone,
)
from noema.core.sheet.layout import Patch, PatchKind, Triple

Floats = NDArray[np.float64]

_LINEAR_PER_DELTA = 0.03  # weighted linear RGB to one CIEDE2000
_UNKNOWN_COLOUR_SIGMA = 5.5  # CIEDE2000 of a coloured patch of an unknown printer
_NEUTRAL_SIGMA = 1.2  # of a black-ink grey's hue
_INK_SIGMA = 1.2  # CIEDE2000: what a camera makes of ink isn't quite what it makes of paint
_PAPER_SURE = 0.004  # of paper being paper
_DARKEST, _DULLED = 15.0, 0.9  # what print makes of screen colours: L* of full ink, chroma kept
_GREY_SHARE = 0.35  # of a patch's chroma under which it was printed without colours
_LEAST = 0.004  # linear: a channel below it is clipped or noise


def tone_of(seen: list[tuple[Patch, Floats]], paper: Triple) -> tuple[Tone, bool]:
    """Fit the tone curve to the greys; also say whether there were enough of them."""
    greys = [(patch, rgb) for patch, rgb in seen if patch.kind is PatchKind.GREY]
    paper_y = _luminance(paper[0])
    known = [_known_grey(patch, paper_y) for patch, _ in greys]
    tone = fit_tone(
        np.array([float(rgb @ LUMINANCE) for _, rgb in greys]),
        np.array([y for y, _ in known]),
        np.array([sigma for _, sigma in known]),
        bool(greys) and all(patch.lab is not None for patch, _ in greys),
    )
    return tone, len(greys) >= 3


def colour_fit_of(
    seen: list[tuple[Patch, Floats]], tone: Tone, to_wide: Floats, paper: Triple
) -> ColourFit:
    """Weigh usual cameras against the patches, greys neutral and colours as far as known."""
    rows = [(np.ones(3), np.ones(3), np.full(3, _PAPER_SURE))]
    alike: dict[tuple[int, int, int], list[tuple[Floats, Floats, float]]] = defaultdict(list)
    for patch, rgb in seen:
        toned = to_wide @ tone.true(rgb)
        expected = _expected(patch, toned, paper) if rgb.min() >= _LEAST else None
        if expected is not None:
            alike[patch.nominal_srgb].append((toned, *expected))
    for same in alike.values():
        # What is wrong with an ink is wrong with it wherever it lies: patches count once a colour.
        toned = np.mean([one[0] for one in same], axis=0)
        true = np.mean([one[1] for one in same], axis=0)
        sigma = float(np.hypot(same[0][2], _INK_SIGMA))
        weight = float(weight_of(true[None])[0])
        rows.append((toned, true, np.full(3, _LINEAR_PER_DELTA * sigma / weight)))
    toned, true, spread = (np.array(column) for column in zip(*rows, strict=True))
    return fit_colour(toned, true, spread)


def _expected(patch: Patch, toned: Floats, paper: Triple) -> tuple[Floats, float] | None:
    """Give a patch's true linear RGB relative to paper, and its sigma in CIEDE2000."""
    if patch.lab is not None:
        return _relative(patch.lab, paper), patch.lab_sigma or 1.0
    if patch.kind is PatchKind.GREY:
        # An unknown grey says nothing of lightness here, the tone curve has used that.
        return np.full(3, float(toned @ WIDE_LUMINANCE)), _NEUTRAL_SIGMA
    lightness, a, b = linear_to_lab(srgb_to_linear(np.array(patch.nominal_srgb) / 255.0)).tolist()
    lab = (
        _DARKEST + lightness * (paper[0] - _DARKEST) / 100.0,
        _DULLED * a + paper[1],
        _DULLED * b + paper[2],
    )
    seen = wide_to_lab(toned)
    if np.hypot(seen[1], seen[2]) < _GREY_SHARE * np.hypot(a, b):
        return None  # a printer without colours
    return _relative(lab, paper), _UNKNOWN_COLOUR_SIGMA


def _relative(lab: Triple, paper: Triple) -> Floats:
    ratio = lab_to_xyz([100.0, 0.0, 0.0]) / lab_to_xyz(paper)
    return np.asarray(XYZ_D50_TO_WIDE @ (lab_to_xyz(lab) * ratio))


def _known_grey(patch: Patch, paper_y: float) -> tuple[float, float]:
    """Give a grey's luminance relative to paper, and one sigma of its logarithm."""
    if patch.lab is not None:
        y = _luminance(patch.lab[0])
        lightness_sigma = patch.lab_sigma or 1.0
        relative = y / paper_y
    else:
        sent = float(srgb_to_linear(patch.nominal_srgb[1] / 255.0))
        relative = UNKNOWN_PRINT_BLACK + (1.0 - UNKNOWN_PRINT_BLACK) * sent
        y = relative * paper_y
        lightness_sigma = UNKNOWN_PRINT_SIGMA
    return relative, lightness_sigma / (116.0 / 3.0 * np.cbrt(y))


def _luminance(lightness: float) -> float:
    return float(lab_to_xyz([lightness, 0.0, 0.0])[1]) / 100.0
