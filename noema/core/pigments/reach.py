"""What a set of tubes can reach: the most intense mix of every hue, and what holds it back."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.hvc import HVC, hue_gap, hvc_of, hvc_to_lab, lab_to_hvc
from noema.core.colour.names import HueTable, NamedHue
from noema.core.colour.value import lightness_to_value
from noema.core.language import N_, gettext, said_together
from noema.core.pigments.amounts import can_be_measured, round_parts
from noema.core.pigments.cloud import Cloud, cloud_of
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.qualities import qualities
from noema.core.pigments.tube import Role, Tube

Floats = NDArray[np.float64]
Whole = NDArray[np.int64]

HUE_STEP = 2.5
VALUES = np.arange(1.0, 10.0)
PRIMARIES = ("yellow", "red", "blue")
CLEAN_FROM, DEAD_BELOW = 8.0, 5.0
"""Chroma from which a hue counts as clean, and under which it isn't there: choices."""

_NEAR_HUE = 12.0  # hue steps round a named hue in which its mix is looked for
_ON_HUE = 1.0  # hue steps from the name at which a mix counts as that hue
_A_TOUCH = 1500  # parts to one: a trace, brought in on the tip of a knife
_CONTENDERS = 8  # pairs looked at closely
_FINE = 2.0 ** np.linspace(-2.5, 2.5, 41)
_WHITES = np.array([0.0, 0.15, 0.4, 1.0, 2.5, 6.0])
_NEAR_ANGLE = 4.0  # degrees of Lab
_LOOKED_AT = 80
_LAB_CHROMA = 5.0  # chroma of Lab to one of HVC, roughly


@dataclass(frozen=True, kw_only=True)
class Ceiling:
    """The most intense mix of a named hue."""

    hue: NamedHue
    parts: tuple[Part, ...]  # tubes first, white last; empty when the hue can't be had at all
    hvc: HVC  # chroma 0 when it can't be had
    reason: str  # what holds it back; empty when the hue is clean

    @property
    def word(self) -> str:
        """How good it gets."""
        if self.hvc.chroma >= CLEAN_FROM:
            return N_("clean")
        return N_("muted") if self.hvc.chroma >= DEAD_BELOW else N_("dead")


def reach(tubes: tuple[Tube, ...]) -> Floats:
    """Give the highest chroma by mixing, (40, 9): hues 0, 2.5 .. 97.5 at values 1 .. 9.

    0 where nothing of that hue and value can be mixed.
    """
    hvc = cloud_of(tubes).hvc
    named = hvc[np.isfinite(hvc[:, 0])]
    out = np.zeros((int(100.0 / HUE_STEP), len(VALUES)))
    hue = np.rint(named[:, 0] / HUE_STEP).astype(int) % len(out)
    level = np.clip(np.rint(named[:, 1]).astype(int) - 1, 0, len(VALUES) - 1)
    np.maximum.at(out, (hue, level), named[:, 2])
    return _bridged(out)


def purest_chroma(tubes: tuple[Tube, ...], hue100: float) -> float:
    """Give the highest chroma some tubes mix to in a hue, at whatever value."""
    highest = reach(tubes)
    return float(highest[round(hue100 / HUE_STEP) % len(highest)].max())


def ceilings(tubes: tuple[Tube, ...], table: HueTable) -> tuple[Ceiling, ...]:
    """Give the most intense mix of each of the twelve hues, by at most two tubes and white."""
    cloud = cloud_of(tubes)
    return tuple(_ceiling(cloud, hue, table) for hue in table.hues(12))


@lru_cache(maxsize=512)
def best_mix(tubes: tuple[Tube, ...], hue100: float, within: float = _ON_HUE) -> tuple[Part, ...]:
    """Give the most intense mix of a hue by at most two tubes and white; empty if there is none.

    The mix's hue lies within some hue steps of the one asked for, before it is rounded to parts.
    """
    cloud = cloud_of(tubes)
    mix = _onto_hue(tubes, cloud.amounts[_contenders(cloud, hue100)], hue100, within)
    return () if mix is None else round_parts(tubes, mix, _A_TOUCH)


def tubes_of_hue(tubes: tuple[Tube, ...], name: str, table: HueTable) -> tuple[Tube, ...]:
    """Find the tubes a painter would call by one of the six hues."""
    return tuple(
        tube
        for tube in tubes
        if tube.role is Role.COLOUR and table.lean(qualities(tube).shown).hue == name
    )


def _bridged(chroma: Floats) -> Floats:
    """Fill single gaps round the circle from both neighbours: mixes lie between them."""
    before, after = np.roll(chroma, 1, axis=0), np.roll(chroma, -1, axis=0)
    gap = (chroma == 0.0) & (before > 0.0) & (after > 0.0)
    return np.where(gap, np.minimum(before, after), chroma)


def _ceiling(cloud: Cloud, hue: NamedHue, table: HueTable) -> Ceiling:
    own = tubes_of_hue(cloud.tubes, hue.name, table) if hue.name in PRIMARIES else ()
    if own:
        return _straight(cloud, own, hue)
    parts = best_mix(cloud.tubes, hue.hue100)
    hvc = hvc_of(lab_of_parts(parts)) if parts else HVC(hue100=hue.hue100, value=5.0, chroma=0.0)
    clean = hvc.chroma >= CLEAN_FROM
    reason = "" if clean else why_dull(cloud.tubes, parts, hue.name, table)
    return Ceiling(hue=hue, parts=parts, hvc=hvc, reason=reason)


def _straight(cloud: Cloud, own: tuple[Tube, ...], hue: NamedHue) -> Ceiling:
    """Give a primary as its own tube, let down to its most intense."""
    kinds = [tube for tube in cloud.tubes if tube.role is not Role.WHITE]
    rows = np.flatnonzero(np.isin(cloud.kind, [kinds.index(tube) for tube in own]))
    off = hue_gap(cloud.hvc[rows, 0], hue.hue100)
    best = rows[int(np.nanargmin(2.0 * off - cloud.hvc[rows, 2]))]
    parts = round_parts(cloud.tubes, cloud.amounts[best], _A_TOUCH)
    hvc = hvc_of(lab_of_parts(parts))
    names = [part.tube.label for part in parts if part.tube.role is not Role.WHITE]
    reason = (
        ""
        if hvc.chroma >= CLEAN_FROM
        else gettext("%(names)s is no stronger itself", names=names[0])
    )
    return Ceiling(hue=hue, parts=parts, hvc=hvc, reason=reason)


def _contenders(cloud: Cloud, hue100: float) -> Whole:
    """Find the tubes and pairs whose mixes pass through a hue; the most intense few, one mix each.

    A pair passes through when it has mixes on both sides of the hue, or one upon it.
    """
    signed = (cloud.hvc[:, 0] - hue100 + 50.0) % 100.0 - 50.0
    usable = (cloud.kind >= 0) & can_be_measured(cloud.amounts, _A_TOUCH)
    near = np.flatnonzero(usable & (np.abs(signed) <= _NEAR_HUE))
    below = cloud.kind[near[signed[near] <= _ON_HUE]]
    above = cloud.kind[near[signed[near] >= -_ON_HUE]]
    near = near[np.isin(cloud.kind[near], np.intersect1d(below, above))]
    ranked = near[np.argsort(2.0 * np.abs(signed[near]) - cloud.hvc[near, 2], kind="stable")]
    _, first = np.unique(cloud.kind[ranked], return_index=True)
    return np.asarray(ranked[np.sort(first)[:_CONTENDERS]])


def _onto_hue(
    tubes: tuple[Tube, ...], mixes: Floats, hue100: float, within: float = _ON_HUE
) -> Floats | None:
    """Shift each mix's balance and white until its hue is the one asked for; the most intense."""
    if not len(mixes):
        return None
    tries = _shifted(tubes, mixes)
    tries = tries[can_be_measured(tries, _A_TOUCH)]
    labs = mix_labs(tubes, tries)
    likely = _likely(labs, hue100)
    hvc = lab_to_hvc(labs[likely])
    off = hue_gap(hvc[:, 0], hue100)
    chroma = np.where(off <= within, hvc[:, 2], -1.0)
    best = int(np.argmax(chroma)) if len(chroma) else -1
    return tries[likely[best]] if len(chroma) and chroma[best] > 0.0 else None


def _shifted(tubes: tuple[Tube, ...], mixes: Floats) -> Floats:
    """Give each mix with more and less of its first tube, and more and less white."""
    white = np.array([tube.role is Role.WHITE for tube in tubes])
    first = np.argmax((mixes > 0) & ~white, axis=1)
    tries = np.repeat(mixes[:, None, :], len(_FINE), axis=1)
    tries[np.arange(len(mixes)), :, first] *= _FINE
    tries = np.repeat(tries[:, :, None, :], len(_WHITES), axis=2)
    tries[..., white] *= _WHITES[:, None]
    flat = tries.reshape(-1, len(tubes))
    # A single tube comes out the same whatever its amount.
    return np.unique(np.round(flat / flat.max(axis=1, keepdims=True), 9), axis=0)


def _likely(labs: Floats, hue100: float) -> Whole:
    """Pick the intense mixes whose Lab angle is that of the hue: HVC costs more to find."""
    chroma, angle = np.hypot(labs[:, 1], labs[:, 2]), np.arctan2(labs[:, 2], labs[:, 1])
    value = lightness_to_value(labs[:, 0])
    guess = chroma / _LAB_CHROMA
    for _ in range(2):  # how much Lab chroma a step of HVC is worth depends on the place
        there = hvc_to_lab(np.stack([np.full_like(value, hue100), value, guess], axis=-1))
        guess *= chroma / np.maximum(np.hypot(there[:, 1], there[:, 2]), 1e-6)
    turn = np.degrees(angle - np.arctan2(there[:, 2], there[:, 1]))
    off = np.abs((turn + 180.0) % 360.0 - 180.0)
    near = np.flatnonzero(off <= _NEAR_ANGLE)
    return np.asarray(near[np.argsort(-chroma[near])[:_LOOKED_AT]])


def why_dull(tubes: tuple[Tube, ...], parts: tuple[Part, ...], name: str, table: HueTable) -> str:
    """Say what keeps one of the twelve hues from being clean in a set.

    A primary is missing, or leans to the wrong side, or that is as far as its mix `parts` goes.
    """
    one, other = _BETWEEN[name]
    if one == other:
        return gettext("there is no %(value)s in the set", value=one)
    for wanted, away in ((one, other), (other, one)):
        there = tubes_of_hue(tubes, wanted, table)
        if not there:
            return gettext("there is no %(wanted)s in the set", wanted=wanted)
        used = tuple(part.tube for part in parts if part.tube in there) or there
        if said := _leans_away(used, wanted, away, table):
            return said
    used = tuple(part.tube for part in parts if part.tube.role is Role.COLOUR)
    if not used:
        return gettext("no two of these tubes meet there")
    names = [tube.label for tube in used]
    if len(names) == 1:
        return gettext("%(names)s is no stronger itself", names=names[0])
    return gettext(
        "%(names)s lean the right way already, and mixing two tubes costs some intensity",
        names=said_together(names),
    )


def _leans_away(used: tuple[Tube, ...], wanted: str, away: str, table: HueTable) -> str | None:
    """Name a primary that leans off the side on which it should meet the other."""
    six = [str(hue.name) for hue in table.hues(6)]
    good = six[_between_place(six.index(wanted), six.index(away))]
    leans = [table.lean(qualities(tube).shown).towards for tube in used]
    if any(lean in (None, good) for lean in leans):
        return None
    return gettext(
        "the %(wanted)s (%(label)s) leans to %(leans)s",
        wanted=wanted,
        label=used[0].label,
        leans=leans[0],
    )


def _between_place(one: int, other: int) -> int:
    """Give the place on the six-hue circle one step from `one` on the shorter way to `other`."""
    return (one + (1 if (other - one) % 6 < 3 else -1)) % 6


_BETWEEN = {
    "yellow": ("yellow", "yellow"),
    "yellow-orange": ("yellow", "red"),
    "orange": ("yellow", "red"),
    "red-orange": ("red", "yellow"),
    "red": ("red", "red"),
    "red-violet": ("red", "blue"),
    "violet": ("red", "blue"),
    "blue-violet": ("blue", "red"),
    "blue": ("blue", "blue"),
    "blue-green": ("blue", "yellow"),
    "green": ("blue", "yellow"),
    "yellow-green": ("yellow", "blue"),
}
