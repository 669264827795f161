"""What the printed patches say of the camera: its tone curve, then its colours."""

from collections import defaultdict

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.srgb import linear_to_lab, srgb_to_linear
from noema.core.colour.wide import WIDE_LUMINANCE, WIDE_TO_XYZ_D50, XYZ_D50_TO_WIDE, wide_to_lab
from noema.core.photo.colour_fit import ColourFit, fit_colour, weight_of
from noema.core.photo.knowledge import CARD_SOURCE, TUBE_SOURCE
from noema.core.photo.sample import LUMINANCE
from noema.core.photo.tone import (
    UNKNOWN_PRINT_BLACK,
    UNKNOWN_PRINT_SIGMA,
    Tone,
    fit_tone,
)
from noema.core.sheet.layout import Patch, PatchKind, Triple

Floats = NDArray[np.float64]
Row = tuple[Floats, Floats, float]
"""A colour as seen and as it is, linear BT.2020 over paper, and one sigma in CIEDE2000."""

_LINEAR_PER_DELTA = 0.03  # weighted linear RGB to one CIEDE2000
_UNKNOWN_COLOUR_SIGMA = 5.5  # CIEDE2000 of a coloured patch of an unknown printer
_NEUTRAL_SIGMA = 1.2  # of a black-ink grey's hue
_INK_SIGMA = 1.2  # CIEDE2000: what a camera makes of ink isn't quite what it makes of paint
_FLAT_SIGMA = 3.0  # and still less of black ink and paper, whose spectra are flat as no paint's is
_LIGHT, _BY_CARD_SIGMA = 75.0, 0.7  # L* of a card's white; one sigma of paper's L* by it
_CONTAMINATED = 8.0  # CIEDE2000 from which paint isn't what its tube says
_PAPER_SURE, _PAPER_BY_CARD = 0.02, 0.004
"""Weighted linear RGB: of paint being white where paper is; and where a card lies there."""

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
        np.array([patch.lab is None for patch, _ in greys], dtype=bool),
    )
    return tone, len(greys) >= 3


def paper_by_card(
    card: list[tuple[Patch, Floats]], to_wide: Floats, paper: Triple
) -> tuple[Triple, float] | None:
    """Work out the paper's own colour, and its sigma, from the lightest neutral of a card.

    Next to white the camera's tone curve hardly matters.
    """
    light = [one for one in card if one[0].lab is not None and one[0].lab[0] > _LIGHT]
    neutral = [one for one in light if one[0].kind is PatchKind.GREY]
    if not neutral:
        return None
    patch, rgb = max(neutral, key=lambda one: (one[0].lab or paper)[0])
    known = lab_to_xyz(patch.lab or paper)
    seen = WIDE_TO_XYZ_D50 @ np.maximum(to_wide @ rgb, _LEAST)
    white = lab_to_xyz([100.0, 0.0, 0.0])
    found = xyz_to_lab(known * white / seen).tolist()
    return (found[0], found[1], found[2]), _BY_CARD_SIGMA


def colour_fit_of(
    seen: list[tuple[Patch, Floats]], tone: Tone, to_wide: Floats, paper: Triple
) -> ColourFit:
    """Weigh usual cameras against the patches, greys neutral and colours as far as known."""
    printed = _rows([one for one in seen if one[0].lab_source != TUBE_SOURCE], tone, to_wide, paper)
    # A card shows how this camera takes flat spectra; without one it is guessed.
    sure = _PAPER_BY_CARD if any(one[0].lab_source == CARD_SOURCE for one in seen) else _PAPER_SURE
    first = _fitted(printed, sure)
    tubes = _rows([one for one in seen if one[0].lab_source == TUBE_SOURCE], tone, to_wide, paper)
    clean = [row for row in tubes if _is_clean(row, first, paper)]
    return _fitted([*printed, *clean], sure) if clean else first


def _rows(
    seen: list[tuple[Patch, Floats]], tone: Tone, to_wide: Floats, paper: Triple
) -> list[Row]:
    alike: dict[tuple[int, int, int], list[tuple[Floats, Floats, float]]] = defaultdict(list)
    for patch, rgb in seen:
        toned = to_wide @ tone.true(rgb)
        expected = _expected(patch, toned, paper) if rgb.min() >= _LEAST else None
        if expected is not None:
            alike[patch.nominal_srgb].append((toned, *expected))
    # What is wrong with an ink is wrong with it wherever it lies: patches count once a colour.
    return [
        (
            np.mean([one[0] for one in same], axis=0),
            np.mean([one[1] for one in same], axis=0),
            float(np.hypot(same[0][2], _FLAT_SIGMA if len({*sent}) == 1 else _INK_SIGMA)),
        )
        for sent, same in alike.items()
    ]


def _fitted(rows: list[Row], paper_sure: float) -> ColourFit:
    toned = np.array([np.ones(3), *(row[0] for row in rows)])
    true = np.array([np.ones(3), *(row[1] for row in rows)])
    sigmas = np.array([row[2] for row in rows])
    spread = np.full((len(true), 3), paper_sure)
    spread[1:] = (_LINEAR_PER_DELTA * sigmas / weight_of(true[1:]))[:, None]
    return fit_colour(toned, true, spread)


def _is_clean(row: Row, fit: ColourFit, paper: Triple) -> bool:
    """Whether paint from a tube looks like that tube: contaminated paint anchors nothing."""
    ratio = lab_to_xyz(paper) / lab_to_xyz([100.0, 0.0, 0.0])
    seen, known = (
        xyz_to_lab(np.maximum(rgb @ WIDE_TO_XYZ_D50.T, 1e-6) * ratio)
        for rgb in (fit.true(row[0][None])[0], row[1])
    )
    return float(ciede2000(seen, known)) < _CONTAMINATED


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
