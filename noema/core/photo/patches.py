"""What the printed patches say of the camera: its tone curve, then its colours."""

from collections import defaultdict
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.srgb import linear_to_lab, srgb_to_linear
from noema.core.colour.wide import WIDE_LUMINANCE, WIDE_TO_XYZ_D50, XYZ_D50_TO_WIDE, wide_to_lab
from noema.core.photo.colour_fit import ColourFit, TrainingSamples, fit_colour, misfit
from noema.core.photo.knowledge import CARD_SOURCE, PRINTED_SOURCES, TUBE_SOURCE, Srgb
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.photo.sample import LUMINANCE
from noema.core.photo.tone import (
    Greys,
    Tone,
    fit_tone,
)
from noema.core.sheet.layout import Patch, PatchKind, Triple
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class SeenPatch:
    """A patch in a photograph, in the file's channels made linear."""

    patch: Patch
    rgb: Floats  # (3,) over the paper's
    light: Floats  # (3,) the paper's, 0..1

    @property
    def of_unknown_print(self) -> "SeenPatch":
        """The same, where it isn't known after all what the printer lays."""
        if self.patch.lab_source not in PRINTED_SOURCES:
            return self
        return replace(self, patch=replace(self.patch, lab=None, lab_sigma=None, lab_source=None))


def tone_of(
    seen: list[SeenPatch], paper: Triple, parameters: ColourParameters = COLOUR
) -> tuple[Tone, bool]:
    """Fit the tone curve to the greys; also say whether there were enough of them."""
    greys = [one for one in seen if one.patch.kind is PatchKind.GREY]
    if not greys:
        return fit_tone(), False
    paper_y = _luminance(paper[0])
    known = [_known_grey(one.patch, paper_y, parameters) for one in greys]
    gain = parameters.grey_print_gain if _is_grey(seen, parameters) else parameters.print_gain
    tone = fit_tone(
        Greys(
            seen=np.array([float(one.rgb @ LUMINANCE) for one in greys]),
            light=np.array([float(one.light @ LUMINANCE) for one in greys]),
            true=np.array([y for y, _ in known]),
            sigma_log=np.array([sigma for _, sigma in known]),
            guessed=np.array([one.patch.lab is None for one in greys], dtype=bool),
            gain=gain,
        )
    )
    return tone, len(greys) >= 3


def _is_grey(seen: list[SeenPatch], parameters: ColourParameters) -> bool:
    """Say whether no patch shows a colour: the printer has none, or wasn't asked for any."""
    beside = (CARD_SOURCE, TUBE_SOURCE)
    printed = [one for one in seen if one.patch.lab_source not in beside]
    return not any(
        _colourful(one.rgb)
        > parameters.grey_share * _colourful(np.array(one.patch.nominal_srgb, dtype=float))
        for one in printed
        if one.patch.kind is PatchKind.COLOUR
    )


def _colourful(rgb: Floats) -> float:
    return float(np.ptp(rgb) / max(float(rgb.max()), 1e-3))


def unspoiled(seen: list[SeenPatch], parameters: ColourParameters = COLOUR) -> list[SeenPatch]:
    """Leave out patches unlike others of the same ink: a shadow's edge or shine lies on them."""
    inks: dict[Srgb, list[SeenPatch]] = defaultdict(list)
    for one in seen:
        inks[one.patch.nominal_srgb].append(one)
    kept = []
    for same in inks.values():
        log = np.log([max(float(one.rgb @ LUMINANCE), parameters.least) for one in same])
        like = np.abs(log - median_of(log)) < parameters.alike_log
        kept += [
            one
            for one, holds in zip(same, like, strict=True)
            if holds or len(same) < parameters.fewest_alike
        ]
    return kept


def paper_by_card(
    card: list[SeenPatch], to_wide: Floats, parameters: ColourParameters = COLOUR
) -> tuple[Triple, float] | None:
    """Work out the paper's own colour, and its sigma, from the lightest neutral of a card.

    Next to white the camera's tone curve hardly matters.
    """
    neutral = [
        (one.patch.lab, one.rgb)
        for one in card
        if one.patch.kind is PatchKind.GREY
        and one.patch.lab
        and one.patch.lab[0] > parameters.card_white
    ]
    if not neutral:
        return None
    lab, rgb = max(neutral, key=lambda one: one[0][0])
    known = lab_to_xyz(lab)
    seen = WIDE_TO_XYZ_D50 @ np.maximum(to_wide @ rgb, parameters.least)
    white = lab_to_xyz([100.0, 0.0, 0.0])
    found = xyz_to_lab(known * white / seen).tolist()
    return (found[0], found[1], found[2]), parameters.paper_by_card_sigma


def colour_fit_of(
    seen: list[SeenPatch],
    tone: Tone,
    to_wide: Floats,
    paper: Triple,
    *,
    of_ink: bool = False,
    parameters: ColourParameters = COLOUR,
) -> ColourFit:
    """Weigh usual cameras against the patches, greys neutral and colours as far as known.

    The map is of paint unless it is wanted of ink.
    """
    tubes = [one for one in seen if one.patch.lab_source == TUBE_SOURCE]
    printed = [one for one in seen if one.patch.lab_source != TUBE_SOURCE]
    # A card shows how this camera takes flat spectra; without one it is guessed.
    by_card = any(one.patch.lab_source == CARD_SOURCE for one in seen)
    sure = parameters.paper_by_card if by_card else parameters.paper_sure
    rows = _rows(printed, tone, to_wide, paper, parameters)
    if tubes:
        without = fit_colour(_training(rows, sure, parameters))
        painted = _rows(tubes, tone, to_wide, paper, parameters)
        rows += [row for row in painted if _is_clean(row, without, paper, parameters)]
    return fit_colour(_training(rows, sure, parameters), of_ink=of_ink)


@dataclass(frozen=True, kw_only=True, eq=False)
class _Row:
    """A colour as seen and as it is, linear BT.2020 over paper."""

    seen: Floats  # (3,)
    true: Floats  # (3,)
    sigma: float  # CIEDE2000
    ink: bool


def _rows(
    seen: list[SeenPatch], tone: Tone, to_wide: Floats, paper: Triple, parameters: ColourParameters
) -> list[_Row]:
    alike: dict[tuple[Srgb, bool], list[_Row]] = defaultdict(list)
    for one in seen:
        patch = one.patch
        toned = to_wide @ tone.true(one.rgb, one.light)
        expected = (
            _expected(patch, toned, paper, parameters)
            if one.rgb.min() >= parameters.least
            else None
        )
        if expected is not None:
            true, sigma = expected
            ink = patch.lab_source not in (CARD_SOURCE, TUBE_SOURCE)
            row = _Row(
                seen=toned,
                true=true,
                sigma=_widened(sigma, patch, parameters),
                ink=ink,
            )
            alike[patch.nominal_srgb, ink].append(row)
    # What is wrong with an ink is wrong with it wherever it lies: patches count once a colour.
    return [
        replace(
            same[0],
            seen=np.mean([row.seen for row in same], axis=0),
            true=np.mean([row.true for row in same], axis=0),
        )
        for same in alike.values()
    ]


def _widened(sigma: float, patch: Patch, parameters: ColourParameters) -> float:
    """Add what a camera makes of a card's colours to how far they are known."""
    if patch.lab_source != CARD_SOURCE:
        return sigma
    own = parameters.card_grey_sigma if patch.kind is PatchKind.GREY else parameters.card_sigma
    return float(np.hypot(sigma, own))


def print_misfit(
    seen: list[SeenPatch],
    tone: Tone,
    to_wide: Floats,
    paper: Triple,
    parameters: ColourParameters = COLOUR,
) -> float:
    """Say how far the print lies from what its printer is known to lay: mean square sigmas."""
    printed = [one for one in seen if one.patch.lab_source in PRINTED_SOURCES]
    rows = _rows(printed, tone, to_wide, paper, parameters)
    return misfit(_training(rows, parameters.paper_sure, parameters)) if rows else 0.0


def _training(rows: list[_Row], paper_sure: float, parameters: ColourParameters) -> TrainingSamples:
    """Put together what is known of a camera: bare paper, as paint would be and as it is."""
    white = np.ones(3)
    return TrainingSamples(
        seen=np.array([white, white, *(row.seen for row in rows)]),
        true=np.array([white, white, *(row.true for row in rows)]),
        sigma=np.array(
            [
                paper_sure,
                parameters.paper_by_card,
                *(parameters.linear_per_delta * row.sigma for row in rows),
            ]
        ),
        ink=np.array([False, True, *(row.ink for row in rows)]),
    )


def _is_clean(row: _Row, fit: ColourFit, paper: Triple, parameters: ColourParameters) -> bool:
    """Whether paint from a tube looks like that tube: contaminated paint anchors nothing."""
    ratio = lab_to_xyz(paper) / lab_to_xyz([100.0, 0.0, 0.0])
    seen, known = (
        xyz_to_lab(np.maximum(rgb @ WIDE_TO_XYZ_D50.T, 1e-6) * ratio)
        for rgb in (fit.true(row.seen[None])[0], row.true)
    )
    return float(ciede2000(seen, known)) < parameters.contaminated


def _expected(
    patch: Patch, toned: Floats, paper: Triple, parameters: ColourParameters
) -> tuple[Floats, float] | None:
    """Give a patch's true linear RGB relative to paper, and its sigma in CIEDE2000."""
    if patch.lab is not None:
        return _relative(patch.lab, paper), patch.lab_sigma or 1.0
    if patch.kind is PatchKind.GREY:
        # An unknown grey says nothing of lightness here, the tone curve has used that.
        return np.full(3, float(toned @ WIDE_LUMINANCE)), parameters.neutral_sigma
    lightness, a, b = linear_to_lab(srgb_to_linear(np.array(patch.nominal_srgb) / 255.0)).tolist()
    lab = (
        parameters.full_ink + lightness * (paper[0] - parameters.full_ink) / 100.0,
        parameters.dulled * a + paper[1],
        parameters.dulled * b + paper[2],
    )
    seen = wide_to_lab(toned)
    if np.hypot(seen[1], seen[2]) < parameters.grey_share * np.hypot(a, b):
        return None  # a printer without colours
    return _relative(lab, paper), parameters.unknown_colour_sigma


def _relative(lab: Triple, paper: Triple) -> Floats:
    ratio = lab_to_xyz([100.0, 0.0, 0.0]) / lab_to_xyz(paper)
    return np.asarray(XYZ_D50_TO_WIDE @ (lab_to_xyz(lab) * ratio))


def _known_grey(patch: Patch, paper_y: float, parameters: ColourParameters) -> tuple[float, float]:
    """Give a grey's luminance relative to paper, and one sigma of its logarithm."""
    if patch.lab is not None:
        y = _luminance(patch.lab[0])
        lightness_sigma = patch.lab_sigma or 1.0
        relative = y / paper_y
    else:
        sent = float(srgb_to_linear(patch.nominal_srgb[1] / 255.0))
        relative = parameters.print_black + (1.0 - parameters.print_black) * sent
        y = relative * paper_y
        lightness_sigma = parameters.print_sigma
    return relative, lightness_sigma / (116.0 / 3.0 * np.cbrt(y))


def _luminance(lightness: float) -> float:
    return float(lab_to_xyz([lightness, 0.0, 0.0])[1]) / 100.0
