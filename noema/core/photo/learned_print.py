"""What a printer lays, learned from photographs of its sheets by several cameras.

One photograph can't tell a printer from a camera: a dot gain looks just like a tone curve, an ink
laid too thick like a lively camera. Many by several cameras can, as far as cameras err each in a
way of its own: greys are levels that all share beside a curve for each camera and a little of one
for each picture; coloured inks are colours that all share beside what a camera, a day's lamp and a
picture make of them (a hierarchical model, linear and Gaussian). A photograph is never read by what
was learned from its own camera, which would be counted twice.
"""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.wide import WIDE_TO_XYZ_D50
from noema.core.photo.colour_fit import OUT, weight_of
from noema.core.photo.knowledge import LEARNED_SOURCE, Known, Srgb, known_as
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.photo.parameters.learn import LEARN, LearnParameters
from noema.core.photo.patches import (
    SeenInks,
    SeenPatch,
    expected_ink,
    inks_by_greys,
    is_grey,
    known_grey,
    luminance_of,
    print_misfit,
    tone_of,
)
from noema.core.photo.sample import LUMINANCE
from noema.core.photo.seen_print import SeenPrint
from noema.core.photo.tone import bends
from noema.core.sheet.layout import Patch, PatchKind
from noema.core.statistics.shared_errors import Told, Values, told_by

Floats = NDArray[np.float64]

_LITTLE = 1e-3  # variance, CIEDE2000 squared


@dataclass(frozen=True, kw_only=True)
class PrintLook:
    """One photograph of one of a printer's sheets."""

    seen: SeenPrint
    day: date


@dataclass(frozen=True, kw_only=True)
class LearnedPrint:
    """What is thought to be laid for each colour sent, and what that was learned from."""

    labs: Mapping[Srgb, Known]
    without: Mapping[str, Mapping[Srgb, Known]]  # the same, leaving out what one camera showed
    photographs: int
    since: date

    @property
    def cameras(self) -> int:
        """Give how many it was learned from."""
        return len(self.without)

    def for_camera(self, camera: str) -> Mapping[Srgb, Known]:
        """Give what a camera's photographs may be read by: what others showed."""
        return self.without.get(camera, self.labs)


def learn_print(
    looks: Sequence[PrintLook],
    colour: ColourParameters = COLOUR,
    parameters: LearnParameters = LEARN,
) -> LearnedPrint | None:
    """Learn a printer; photographs of sheets from another one are left out. None without any."""
    if not looks:
        return None
    used = _newest(looks, parameters)
    evidence = _evidence(used, colour, parameters)
    labs = evidence.labs()
    own = [one for one in used if _fits(one, labs, colour)]
    if not own:
        return None
    if len(own) < len(used):
        evidence = _evidence(own, colour, parameters)
    cameras = {one.seen.camera for one in own}
    return LearnedPrint(
        labs=evidence.labs(),
        without={one: evidence.labs(one) if len(cameras) > 1 else {} for one in cameras},
        photographs=len(own),
        since=min(one.day for one in own),
    )


@dataclass(frozen=True, kw_only=True, eq=False)
class _Evidence:
    """What each camera tells of greys and of coloured inks."""

    greys: "_Greys"
    colours: "_Colours"

    def labs(self, leaving: str | None = None) -> dict[Srgb, Known]:
        """Give what all cameras tell together, or all but one."""
        return {**self.greys.labs(leaving), **self.colours.labs(leaving)}


def _evidence(
    looks: Sequence[PrintLook], colour: ColourParameters, parameters: LearnParameters
) -> _Evidence:
    greys = _greys(looks, colour, parameters)
    labs = greys.labs()
    for _ in range(parameters.rounds):
        colours = _colours(looks, labs, colour, parameters)
        labs = {**labs, **colours.labs()}
    return _Evidence(greys=greys, colours=colours)


def _all_but(by_camera: Mapping[str, Told], leaving: str | None, size: int) -> Told:
    told = (one for camera, one in by_camera.items() if camera != leaving)
    return sum(told, Told.nothing(size))


def _newest(looks: Sequence[PrintLook], parameters: LearnParameters) -> list[PrintLook]:
    used: Counter[str] = Counter()
    found = []
    for one in sorted(looks, key=lambda look: look.day, reverse=True):
        used[one.seen.camera] += 1
        if used[one.seen.camera] <= parameters.most_looks:
            found.append(one)
    return found


def _fits(look: PrintLook, labs: Mapping[Srgb, Known], colour: ColourParameters) -> bool:
    """Say whether a photograph may be of a sheet from this printer."""
    patches = _known_as(look.seen.patches, labs)
    tone, _ = tone_of(patches, colour.paper, colour)
    misfit = print_misfit(patches, tone, np.array(look.seen.to_wide), colour.paper, colour)
    return misfit <= colour.print_misfit


def _by_camera(looks: Sequence[PrintLook]) -> dict[str, list[PrintLook]]:
    found: dict[str, list[PrintLook]] = defaultdict(list)
    for one in looks:
        found[one.seen.camera].append(one)
    return found


@dataclass(frozen=True, kw_only=True, eq=False)
class _Greys:
    """Levels of grey (n,), as logarithms of luminance relative to paper."""

    sent: list[Srgb]
    usual: Told
    by_camera: Mapping[str, Told]
    colour: ColourParameters
    parameters: LearnParameters

    def labs(self, leaving: str | None = None) -> dict[Srgb, Known]:
        """Part the doubt of levels into a dot gain that they share and what is each one's own."""
        if not self.sent:
            return {}
        told = self.usual + _all_but(self.by_camera, leaving, len(self.sent))
        level, covariance = told.moments()
        gain2 = float(level @ covariance @ level) / float(level @ level) ** 2
        own = np.sqrt(np.maximum(np.diag(covariance) - gain2 * level**2, 0.0))
        y = np.exp(level)
        labs = _labs(np.repeat(y[:, None], 3, axis=1), self.colour)
        slope = 116.0 / 3.0 * np.cbrt(y * luminance_of(self.colour.paper[0]))
        sigma = np.maximum(own * slope, self.parameters.least_sigma)
        return _known(self.sent, labs, sigma, float(np.sqrt(gain2)))


def _greys(
    looks: Sequence[PrintLook], colour: ColourParameters, parameters: LearnParameters
) -> _Greys:
    sent = sorted({ink.sent for look in looks for ink in look.seen.inks if ink.grey})
    paper_y = luminance_of(colour.paper[0])
    usual = [known_grey(_plain(one, PatchKind.GREY), paper_y, colour) for one in sent]
    level = np.log([y for y, _ in usual])
    without = sum(is_grey(look.seen.patches, colour) for look in looks)
    gain = colour.grey_print_gain if 2 * without > len(looks) else colour.print_gain
    own = np.diag([sigma**2 for _, sigma in usual])
    own_curve = parameters.curve_of_picture * colour.curve
    return _Greys(
        sent=sent,
        usual=Told.of(level, own + gain**2 * np.outer(level, level)),
        by_camera={
            camera: told_by(
                [_levels(one.seen, sent, own_curve, colour, parameters) for one in group],
                colour.curve - own_curve,
            )
            for camera, group in _by_camera(looks).items()
        },
        colour=colour,
        parameters=parameters,
    )


def _levels(
    seen: SeenPrint,
    sent: list[Srgb],
    own_curve: Floats,
    colour: ColourParameters,
    parameters: LearnParameters,
) -> Values:
    """Say what one photograph shows of levels of grey."""
    greys = [ink for ink in seen.inks if ink.grey]
    rgb, light = (np.array([getattr(ink, name) for ink in greys]) for name in ("rgb", "light"))
    dark = np.maximum(rgb @ LUMINANCE, colour.darkest)
    bent = bends(dark, light @ LUMINANCE, colour)
    design = np.zeros((len(greys), len(sent)))
    design[np.arange(len(greys)), [sent.index(ink.sent) for ink in greys]] = 1.0
    error = bent @ own_curve @ bent.T + np.eye(len(greys)) * parameters.grey_noise**2
    return Values(values=np.log(dark), design=design, shared=-bent, error=error)


@dataclass(frozen=True, kw_only=True, eq=False)
class _Colours:
    """Coloured inks (n), as linear light weighted so that one is about a CIEDE2000."""

    sent: list[Srgb]
    weight: Floats  # (3n,)
    usual: Told
    by_camera: Mapping[str, Told]
    together: Floats  # (3n, 3n) covariance of what all cameras err in
    colour: ColourParameters
    parameters: LearnParameters

    def labs(self, leaving: str | None = None) -> dict[Srgb, Known]:
        """Give what is thought of the inks; nothing where nobody saw any."""
        if not set(self.by_camera) - {leaving}:
            return {}
        told = _all_but(self.by_camera, leaving, len(self.weight)).blurred(self.together)
        mean, covariance = (self.usual + told).moments()
        labs = _labs((mean / self.weight).reshape(-1, OUT), self.colour)
        sigma = np.sqrt(np.diag(covariance).reshape(-1, OUT).mean(axis=1))
        return _known(
            self.sent,
            labs,
            np.maximum(sigma, self.parameters.least_sigma),
        )


def _colours(
    looks: Sequence[PrintLook],
    so_far: Mapping[Srgb, Known],
    colour: ColourParameters,
    parameters: LearnParameters,
) -> _Colours:
    seen = {
        camera: [
            inks_by_greys(_known_as(one.seen.patches, so_far), np.array(one.seen.to_wide), colour)
            for one in group
        ]
        for camera, group in _by_camera(looks).items()
    }
    sent = sorted({one for group in seen.values() for inks in group for one in inks.sent})
    usual = np.array(
        [expected_ink(_plain(one, PatchKind.COLOUR), colour.paper, colour) for one in sent]
    ).reshape(-1, OUT)
    weight = (weight_of(usual) / colour.linear_per_delta).ravel()
    size = len(weight)
    values = {
        camera: [_inks(inks, sent, weight, parameters) for inks in group if inks.sent]
        for camera, group in seen.items()
    }
    every = [one for group in values.values() for one in group]
    # Each picture speaks of its own inks; what none says of an ink is taken for little.
    spread = _mean([one.spread for one in every], size)
    days = len({look.day for look in looks})
    tone = _mean([one.of_tone for one in every], size)
    return _Colours(
        sent=sent,
        weight=weight,
        usual=Told.of(weight * usual.ravel(), colour.unknown_colour_sigma**2 * np.eye(size)),
        by_camera={
            camera: told_by([one.values for one in group], parameters.map_of_camera * spread)
            for camera, group in values.items()
            if group
        },
        together=parameters.map_of_lamp / days * spread + tone,
        colour=colour,
        parameters=parameters,
    )


@dataclass(frozen=True, kw_only=True, eq=False)
class _Inks:
    """What one photograph shows of coloured inks."""

    values: Values
    spread: Floats  # (3n, 3n) covariance of what the colour map is off by
    of_tone: Floats  # (3n, 3n) the same of the tone curve


def _inks(seen: SeenInks, sent: list[Srgb], weight: Floats, parameters: LearnParameters) -> _Inks:
    at = [OUT * sent.index(one) + channel for one in seen.sent for channel in range(OUT)]
    design = np.eye(len(weight))[at]
    scale = weight[at]
    spread, of_tone = (scale[:, None] * one * scale for one in (seen.of_map, seen.of_tone))
    error = parameters.map_of_picture * spread + np.diag(scale**2 * seen.own)
    values = Values(values=scale * seen.true.ravel(), design=design, shared=design, error=error)
    return _Inks(
        values=values,
        spread=design.T @ spread @ design,
        of_tone=design.T @ of_tone @ design,
    )


def _mean(covariances: list[Floats], size: int) -> Floats:
    """Average covariances (n, n), and keep what comes of it invertible."""
    return np.asarray(
        np.sum(covariances, axis=0) / max(len(covariances), 1) + _LITTLE * np.eye(size)
    )


def _known(
    sent: list[Srgb], labs: Floats, sigma: Floats, gain: float | None = None
) -> dict[Srgb, Known]:
    return {
        one: Known(lab=(lightness, a, b), sigma=float(own), gain=gain)
        for one, (lightness, a, b), own in zip(sent, labs.tolist(), sigma, strict=True)
    }


def _known_as(patches: list[SeenPatch], labs: Mapping[Srgb, Known]) -> list[SeenPatch]:
    """Write what is thought of a print into patches; tubes stay what they are."""
    return [
        replace(one, patch=known_as(one.patch, labs.get(one.patch.nominal_srgb), LEARNED_SOURCE))
        for one in patches
    ]


def _labs(relative: Floats, colour: ColourParameters) -> Floats:
    """Give Lab (n, 3) of linear BT.2020 relative to ordinary paper."""
    ratio = lab_to_xyz(colour.paper) / lab_to_xyz([100.0, 0.0, 0.0])
    return np.asarray(xyz_to_lab(np.maximum(relative, 1e-5) @ WIDE_TO_XYZ_D50.T * ratio))


def _plain(sent: Srgb, kind: PatchKind) -> Patch:
    return Patch(
        id="",
        kind=kind,
        polygon_mm=(),
        nominal_srgb=sent,
        lab=None,
        lab_sigma=None,
        lab_source=None,
    )
