"""Which few tubes would do for a picture: how much of it each choice of tubes and white reaches.

Every pair and triple of tubes is mixed on a net, once; a choice of tubes reaches what the pairs and
triples in it do. A colour of the picture counts as reached when a mix lies within the tolerance.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvcs_of
from noema.core.colour.names import NEAR_NEUTRAL_BELOW, HueTable
from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pictures.camera import USUAL_SHIFT, CameraShift, fit_shift
from noema.core.pictures.colours import ColourShares, Floats
from noema.core.pictures.net import nearest_mixes, net_of
from noema.core.pigments.film import Surface
from noema.core.pigments.shelf import TUBES, WHITE, PaintSet
from noema.core.pigments.tube import Role, Tube

WITHIN = 5.0
"""CIEDE2000 within which a colour counts as reached: a shade off, not another colour."""

MOST_RANKED = 20
_PAIR = 2
_PLAIN, _GAINS, _CAPPED = 1.0, 0.2, 10.0
"""Mean CIEDE2000 under which nothing was photographed; by which a shift must explain more; at which
one colour's is capped."""

_SURELY = 0.85  # of the area, that a pair reaches where a picture was painted with it
_FITTED, _LIKELY = 100, 20  # colours by which a camera's shift is fitted; pairs it is fitted for
_MOST_AWAY = 15.0  # of Lab, beyond which a colour is lost anyway
_MIDDLE, _GREY = (40.0, 75.0), 4.0  # L* of a middle value; chroma of Lab that passes for grey
_WORTH_SAYING = 0.005  # of the area, that is lost
_MOST_COLOURS = 400  # of a picture; smaller ones make up next to nothing of it


@dataclass(frozen=True, kw_only=True)
class FewTubes:
    """A choice of tubes, white aside."""

    tubes: tuple[Tube, ...]
    share_within: float  # of the picture's area
    median_de: float  # CIEDE2000 to the nearest mix, of the middle of the area
    lost: str  # what becomes another colour; empty where all is reached
    greys: bool  # whether its tubes mix to a neutral: complements, where there are two


def few_tubes(
    shares: ColourShares,
    paints: PaintSet,
    count: int,
    table: HueTable,
    *,
    photographed: bool = False,
) -> tuple[FewTubes, ...]:
    """Rank the choices of so many tubes of a set by how much of a picture they reach.

    Of one that may have been photographed, a camera's usual shift is undone where it was painted
    with one pair.
    """
    colours = [tube for tube in paints.tubes if tube.role is not Role.WHITE]
    if not 1 <= count <= len(colours):
        raise BadPaint(
            gettext(
                "The set holds %(there)s tubes beside white: choose at most as many.",
                there=len(colours),
            )
        )
    lab, weight = shares.lab[:_MOST_COLOURS], shares.share[:_MOST_COLOURS]
    white = paints.white or TUBES[WHITE]
    nets = _nets(colours, white, count, paints.binder.dry)
    ranked = _ranked(lab, weight, nets, len(colours), count)
    if photographed and count == _PAIR:
        painted = _as_photographed(lab, weight, nets, ranked[0][1])
        if painted is not None:
            pair, shift = painted
            lab = shift.undone(lab)
            ranked = _ranked(lab, weight, nets, len(colours), count)
            ranked.sort(key=lambda one: one[0] != pair)  # each was given its own camera
    hues = np.array(_hues_of(lab, table))
    return tuple(
        FewTubes(
            tubes=tuple(colours[n] for n in chosen),
            share_within=_share_within(nearest, weight),
            median_de=_weighted_median(nearest, weight),
            lost=_lost(chosen, nearest, lab, weight, nets, hues, table),
            greys=_greys(_mixes_of(chosen, nets)),
        )
        for chosen, nearest in ranked[:MOST_RANKED]
    )


Group = tuple[int, ...]


def _groups(chosen: Group, count: int) -> Iterable[Group]:
    """Give the pairs and triples, or the one tube, whose mixes a choice holds."""
    if count == 1:
        return [chosen]
    groups: list[Group] = list(combinations(chosen, 2))
    return groups + list(combinations(chosen, 3))


def _nets(colours: list[Tube], white: Tube, count: int, surface: Surface) -> dict[Group, Floats]:
    """Give the Lab of every group's mixes, with white and without."""
    sizes = [1] if count == 1 else [2] if count == 2 else [2, 3]
    return {
        group: net_of(tuple(colours[n] for n in group), white, surface)
        for size in sizes
        for group in combinations(range(len(colours)), size)
    }


def _ranked(
    lab: Floats, weight: Floats, nets: dict[Group, Floats], tubes: int, count: int
) -> list[tuple[Group, Floats]]:
    """Give every choice with the CIEDE2000 of each colour to its nearest mix, the best first."""
    away = {names: _away(labs, lab) for names, labs in nets.items()}
    ranked = []
    for chosen in combinations(range(tubes), count):
        inside = [away[group] for group in _groups(chosen, count)]
        ranked.append((chosen, np.minimum.reduce(inside)))
    return sorted(ranked, key=lambda one: _worth(one[1], weight), reverse=True)


def _as_photographed(
    lab: Floats, weight: Floats, nets: dict[Group, Floats], as_it_is: Floats
) -> tuple[Group, CameraShift] | None:
    """Find the pair a picture was painted with, and what a camera did to it; None: it wasn't.

    Any other picture stays as its file says: its colours aren't those of two tubes. `as_it_is` is
    how far colours lie from the best pair's mixes without any shift.
    """
    plainly = float(np.minimum(as_it_is, _CAPPED) @ weight / weight.sum())
    if plainly < _PLAIN:
        return None
    some, say = lab[:_FITTED], weight[:_FITTED]
    usual = USUAL_SHIFT.undone(some)
    near = {
        names: min(_mean_away(mixes, some, say), _mean_away(mixes, usual, say))
        for names, mixes in nets.items()
    }
    likely = sorted(near, key=near.__getitem__)[:_LIKELY]
    fits = {names: fit_shift(nets[names], some, say) for names in likely}
    best = min(fits, key=lambda names: fits[names].cost)
    left = _away(nets[best], fits[best].shift.undone(lab))
    explains = _share_within(left, weight) >= _SURELY
    return (best, fits[best].shift) if explains and fits[best].cost + _GAINS < plainly else None


def _mean_away(mixes: Floats, lab: Floats, weight: Floats) -> float:
    away, _ = cKDTree(mixes).query(lab)
    return float(np.minimum(away, _MOST_AWAY) @ weight)


def _away(mixes: Floats, lab: Floats) -> Floats:
    """Give the CIEDE2000 from each colour (n, 3) to the nearest of some mixes."""
    return nearest_mixes(mixes, lab).away


def _worth(nearest: Floats, weight: Floats) -> tuple[float, float]:
    """Rank by the area reached, then by how near the rest comes."""
    mean = float(nearest @ weight / weight.sum())
    return round(_share_within(nearest, weight), 3), -mean


def _share_within(nearest: Floats, weight: Floats) -> float:
    return float(weight[nearest <= WITHIN].sum() / weight.sum())


def _weighted_median(values: Floats, weight: Floats) -> float:
    order = np.argsort(values)
    total = np.cumsum(weight[order])
    return float(values[order][int(np.searchsorted(total, total[-1] / 2.0))])


def _lost(
    chosen: Group,
    nearest: Floats,
    lab: Floats,
    weight: Floats,
    nets: dict[Group, Floats],
    hues: NDArray[np.str_],
    table: HueTable,
) -> str:
    """Say which hue of the picture loses most, and what becomes of it."""
    out = nearest > WITHIN
    if not out.any():
        return ""
    names = np.unique(hues[out])
    areas = [float(weight[out & (hues == name)].sum() / weight.sum()) for name in names]
    if max(areas) < _WORTH_SAYING:
        return ""
    hue, share = str(names[int(np.argmax(areas))]), f"{max(areas):.0%}"
    worst = int(np.argmax(np.where(out & (hues == hue), weight, 0.0)))
    mixes = _mixes_of(chosen, nets)
    nearest_mix = mixes[int(np.argmin(ciede2000(mixes, lab[worst])))]
    (became,) = _hues_of(nearest_mix[None], table)
    if became == hue:
        return gettext(
            "%(hue)s comes out duller, lighter or darker (%(share)s)", hue=hue, share=share
        )
    return gettext("%(hue)s turns %(became)s (%(share)s)", hue=hue, became=became, share=share)


def _mixes_of(chosen: Group, nets: dict[Group, Floats]) -> Floats:
    return np.concatenate([nets[group] for group in _groups(chosen, len(chosen))])


def _greys(mixes: Floats) -> bool:
    """Say whether a middle grey is among some mixes: in the dark and in white anything is grey."""
    middle = mixes[(mixes[:, 0] > _MIDDLE[0]) & (mixes[:, 0] < _MIDDLE[1])]
    return bool(len(middle)) and float(np.hypot(middle[:, 1], middle[:, 2]).min()) < _GREY


def _hues_of(labs: Floats, table: HueTable) -> list[str]:
    """Name the hue of each colour (n, 3) among twelve, or grey."""
    return [
        gettext("grey")
        if hvc.hue100 is None or hvc.chroma < NEAR_NEUTRAL_BELOW
        else table.nearest(hvc.hue100, 12).name
        for hvc in hvcs_of(labs)
    ]
