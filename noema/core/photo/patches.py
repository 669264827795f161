"""What the printed patches say of the camera: its tone curve, then its colours."""

from collections import defaultdict
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.srgb import srgb_to_linear
from noema.core.colour.wide import (
    WIDE_LUMINANCE,
    WIDE_TO_XYZ_D50,
    XYZ_D50_TO_WIDE,
    srgb_linear_to_wide,
    wide_to_lab,
)
from noema.core.photo.colour_fit import ColourFit, TrainingSamples, fit_colour, misfit, shares_of
from noema.core.photo.knowledge import (
    CARD_SOURCE,
    LEARNED_SOURCE,
    PRINTED_SOURCES,
    TUBE_SOURCE,
    Srgb,
)
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.photo.sample import LUMINANCE
from noema.core.photo.tone import (
    Greys,
    Tone,
    bends,
    fit_tone,
)
from noema.core.sheet.layout import Patch, PatchKind, Triple
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]

_OF_PRINT = (*PRINTED_SOURCES, LEARNED_SOURCE)


@dataclass(frozen=True, kw_only=True, eq=False)
class SeenPatch:
    """A patch in a photograph, in the file's channels made linear."""

    patch: Patch
    rgb: Floats  # (3,) over the paper's
    light: Floats  # (3,) the paper's, 0..1

    @property
    def of_unknown_print(self) -> "SeenPatch":
        """The same, where it isn't known after all what the printer lays."""
        if self.patch.lab_source not in _OF_PRINT:
            return self
        unknown = replace(self.patch, lab=None, lab_sigma=None, lab_gain=None, lab_source=None)
        return replace(self, patch=unknown)


def tone_of(
    seen: list[SeenPatch], paper: Triple, parameters: ColourParameters = COLOUR
) -> tuple[Tone, bool]:
    """Fit the tone curve to the greys; also say whether there were enough of them."""
    greys = [one for one in seen if one.patch.kind is PatchKind.GREY]
    if not greys:
        return fit_tone(), False
    paper_y = luminance_of(paper[0])
    known = [known_grey(one.patch, paper_y, parameters) for one in greys]
    usual = parameters.grey_print_gain if is_grey(seen, parameters) else parameters.print_gain
    tone = fit_tone(
        Greys(
            seen=np.array([float(one.rgb @ LUMINANCE) for one in greys]),
            light=np.array([float(one.light @ LUMINANCE) for one in greys]),
            true=np.array([y for y, _ in known]),
            sigma_log=np.array([sigma for _, sigma in known]),
            gain=np.array([_gain_of(one.patch, usual) for one in greys]),
        )
    )
    return tone, len(greys) >= 3


def _gain_of(patch: Patch, usual: float) -> float:
    return usual if patch.lab is None else patch.lab_gain or 0.0


def is_grey(seen: list[SeenPatch], parameters: ColourParameters) -> bool:
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
        without = fit_colour(_training(rows, parameters, sure), parameters=parameters)
        painted = _rows(tubes, tone, to_wide, paper, parameters)
        rows += [row for row in painted if _is_clean(row, without, paper, parameters)]
    return fit_colour(_training(rows, parameters, sure), of_ink=of_ink, parameters=parameters)


@dataclass(frozen=True, kw_only=True, eq=False)
class SeenInks:
    """What a camera takes coloured inks for, going by everything but them."""

    sent: tuple[Srgb, ...]
    true: Floats  # (n, 3) linear BT.2020 relative to paper
    of_map: Floats  # (3n, 3n) covariance of what the colour map is off by
    own: Floats  # (3n,) variance of what it leaves of each
    of_tone: Floats  # (3n, 3n) covariance of what the tone curve is off by


def inks_by_greys(
    seen: list[SeenPatch], to_wide: Floats, parameters: ColourParameters = COLOUR
) -> SeenInks:
    """Say what coloured inks look like to a camera that shows these greys and tubes so.

    Of the inks themselves only what they tell of the lamp is gone by. A print without colours has
    none.
    """
    paper = parameters.paper
    tone, _ = tone_of(seen, paper, parameters)
    inks = {
        one.patch.nominal_srgb: one
        for one in seen
        if one.patch.kind is PatchKind.COLOUR
        and one.patch.lab_source != TUBE_SOURCE
        and one.rgb.min() >= parameters.least
    }
    if is_grey(seen, parameters):
        inks = {}
    toned = np.array([to_wide @ tone.true(one.rgb, one.light) for one in inks.values()])
    toned = toned.reshape(-1, 3)
    rest = [one for one in seen if one.patch.nominal_srgb not in inks]
    shares = shares_of(_training(_rows(seen, tone, to_wide, paper, parameters), parameters))
    known = _training(_rows(rest, tone, to_wide, paper, parameters), parameters)
    fit = fit_colour(known, of_ink=True, shares=shares, parameters=parameters)
    _, own = fit.covariances_of(toned)
    slope = fit.mean[:, :3] @ to_wide
    bent = [
        slope @ (tone.true(one.rgb, one.light)[:, None] * bends(one.rgb, one.light, parameters))
        for one in inks.values()
    ]
    moves = np.reshape(bent, (-1, len(tone.weights)))
    return SeenInks(
        sent=tuple(inks),
        true=fit.true(toned),
        of_map=fit.joint_covariance(toned),
        own=np.einsum("nii->ni", own).ravel(),
        of_tone=moves @ tone.covariance @ moves.T,
    )


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
    printed = [one for one in seen if one.patch.lab_source in _OF_PRINT]
    rows = _rows(printed, tone, to_wide, paper, parameters)
    return misfit(_training(rows, parameters)) if rows else 0.0


def _training(
    rows: list[_Row], parameters: ColourParameters, paper_sure: float | None = None
) -> TrainingSamples:
    """Put together what is known of a camera: bare paper, as paint would be and as it is."""
    white = np.ones(3)
    return TrainingSamples(
        seen=np.array([white, white, *(row.seen for row in rows)]),
        true=np.array([white, white, *(row.true for row in rows)]),
        sigma=np.array(
            [
                paper_sure or parameters.paper_sure,
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
    learned = patch.lab_source == LEARNED_SOURCE
    if patch.lab is not None and not (learned and patch.kind is PatchKind.GREY):
        return relative_to(paper, patch.lab), patch.lab_sigma or 1.0
    if patch.kind is PatchKind.GREY:
        # An unknown grey says nothing of lightness here, the tone curve has used that.
        return np.full(3, float(toned @ WIDE_LUMINANCE)), parameters.neutral_sigma
    if wide_chroma(toned) < parameters.grey_share * wide_chroma(_sent(patch)):
        return None  # a printer without colours
    return expected_ink(patch, paper, parameters), parameters.unknown_colour_sigma


def expected_ink(patch: Patch, paper: Triple, parameters: ColourParameters = COLOUR) -> Floats:
    """Give linear BT.2020 (3,) relative to paper of what a usual printer lays."""
    lightness, a, b = wide_to_lab(_sent(patch)).tolist()
    lab = (
        parameters.full_ink + lightness * (paper[0] - parameters.full_ink) / 100.0,
        parameters.dulled * a + paper[1],
        parameters.dulled * b + paper[2],
    )
    return relative_to(paper, lab)


def _sent(patch: Patch) -> Floats:
    return srgb_linear_to_wide(srgb_to_linear(np.array(patch.nominal_srgb) / 255.0))


def wide_chroma(rgb: Floats) -> float:
    """Give a* and b* together of linear BT.2020 (3,)."""
    return float(np.hypot(*wide_to_lab(rgb)[1:]))


def relative_to(paper: Triple, lab: Triple) -> Floats:
    """Give a colour as linear BT.2020 (3,) relative to paper."""
    ratio = lab_to_xyz([100.0, 0.0, 0.0]) / lab_to_xyz(paper)
    return np.asarray(XYZ_D50_TO_WIDE @ (lab_to_xyz(lab) * ratio))


def known_grey(patch: Patch, paper_y: float, parameters: ColourParameters) -> tuple[float, float]:
    """Give a grey's luminance relative to paper, and one sigma of its logarithm."""
    if patch.lab is not None:
        y = luminance_of(patch.lab[0])
        lightness_sigma = patch.lab_sigma or 1.0
        relative = y / paper_y
    else:
        sent = float(srgb_to_linear(patch.nominal_srgb[1] / 255.0))
        relative = parameters.print_black + (1.0 - parameters.print_black) * sent
        y = relative * paper_y
        lightness_sigma = parameters.print_sigma
    return relative, lightness_sigma / (116.0 / 3.0 * np.cbrt(y))


def luminance_of(lightness: float) -> float:
    """Give the luminance of an L*, 1 for the perfect diffuser."""
    return float(lab_to_xyz([lightness, 0.0, 0.0])[1]) / 100.0
