"""Schemes: a few hues that belong together, found on the class's wheel from one colour outwards."""

from dataclasses import dataclass
from enum import Enum

import numpy as np
from numpy.typing import NDArray

from noema.core.bench.seen import Lab
from noema.core.colour.hvc import HVC, hvc_of, hvc_to_lab, hvcs_of
from noema.core.colour.names import NEAR_NEUTRAL_BELOW, HueTable, hue_step
from noema.core.colour.srgb import lab_to_linear, linear_to_lab
from noema.core.errors import Refused
from noema.core.language import N_, gettext
from noema.core.pictures.colours import ColourShares, Floats, PictureColours
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.qualities import qualities
from noema.core.pigments.recipe import Recipe, recipe
from noema.core.pigments.shelf import TUBES, WHITE, PaintSet


class SchemeKind(Enum):
    """How a scheme's hues lie on the wheel."""

    COMPLEMENT = "complement"
    SPLIT = "split"
    NEIGHBOURS = "neighbours"
    TRIAD = "triad"
    FAMILY = "family"  # not by places: the base led towards the others by mixing

    @property
    def label(self) -> str:
        """Its name for people."""
        return _LABELS[self]


_LABELS = {
    SchemeKind.COMPLEMENT: N_("complement"),
    SchemeKind.SPLIT: N_("split complement"),
    SchemeKind.NEIGHBOURS: N_("neighbours"),
    SchemeKind.TRIAD: N_("triad"),
    SchemeKind.FAMILY: N_("mixed family"),
}
_PLACES = {  # of 24 on the wheel, from the base
    SchemeKind.COMPLEMENT: (0, 12),
    SchemeKind.SPLIT: (0, 10, 14),
    SchemeKind.NEIGHBOURS: (0, 2, 22),
    SchemeKind.TRIAD: (0, 8, 16),
}
BY_PLACES = tuple(_PLACES)
"""The schemes a picture can be held against."""

USUAL_SHARES = (6, 3, 1)
"""Most, some, a little."""

_MOST_SHARE = 20
_WHEEL = 24
_NEAR = 1.5  # places of 24 within which a colour counts as one of a scheme's
_LED = 0.3  # share of another tube's pull by which a base is led towards it
_TINTS = (0.0, 2.0)  # white to a pull of 1
_MOST_LED = 3
_SECTORS = 12  # of Lab's circle that a picture's hues are gathered in
_STRONG_PERCENT, _STRONGER = 95.0, 1.2  # where a picture is strong; how much beyond that counts
_GREY = 5.0  # chroma of Lab under which a place has no hue of its own


@dataclass(frozen=True, kw_only=True)
class SchemeColour:
    """One colour of a scheme."""

    hue: str  # of 24
    lab: Lab
    share: float  # of the area
    recipe: Recipe


@dataclass(frozen=True, kw_only=True)
class Scheme:
    """A few colours and how much of each."""

    kind: SchemeKind
    colours: tuple[SchemeColour, ...]  # the base first


def scheme_from(
    base: Lab,
    kind: SchemeKind,
    paints: PaintSet,
    table: HueTable,
    shares: tuple[int, ...] = USUAL_SHARES,
) -> Scheme:
    """Build a scheme from one colour outwards; refuses a colour without a hue."""
    if not shares or any(not 1 <= one <= _MOST_SHARE for one in shares):
        raise Refused(
            gettext("Shares are whole numbers from 1 to %(most)s, such as 6:3:1.", most=_MOST_SHARE)
        )
    hvc = hvc_of(base)
    if hvc.hue100 is None or hvc.chroma < NEAR_NEUTRAL_BELOW:
        raise Refused(gettext("A scheme begins with a hue: choose a spot that isn't grey."))
    labs = _family(base, paints) if kind is SchemeKind.FAMILY else _placed(hvc, base, kind, table)
    parts = _spread(shares, len(labs))
    return Scheme(
        kind=kind,
        colours=tuple(
            SchemeColour(
                hue=_hue_of(lab, table),
                lab=lab,
                share=part,
                recipe=recipe(lab, paints.tubes, paints.binder.dry),
            )
            for lab, part in zip(labs, parts, strict=True)
        ),
    )


def _spread(shares: tuple[int, ...], count: int) -> list[float]:
    """Give each of some colours its share; the last one's is divided among those left over."""
    taken = [float(one) for one in shares[:count]]
    if count > len(taken):
        over = count - len(taken) + 1
        taken = [*taken[:-1], *[taken[-1] / over] * over]
    return [one / sum(taken) for one in taken]


def _placed(hvc: HVC, base: Lab, kind: SchemeKind, table: HueTable) -> list[Lab]:
    """Give the base and the hues at a scheme's places, all of its value and chroma."""
    assert hvc.hue100 is not None
    place = place_of(hvc.hue100, table)
    labs = [base]
    for step in _PLACES[kind][1:]:
        hue = hue_at(place + step, table)
        lightness, a, b = _shown(hvc_to_lab([hue, hvc.value, hvc.chroma])).tolist()
        labs.append((lightness, a, b))
    return labs


def _family(base: Lab, paints: PaintSet) -> list[Lab]:
    """Lead a base towards other tubes by mixing, each also as a tint."""
    made = recipe(base, paints.tubes, paints.binder.dry)
    white = paints.white or TUBES[WHITE]
    inside = {part.tube for part in made.parts}
    labs = [base]
    volume = sum(part.amount for part in made.parts)
    pull = sum(part.amount * qualities(part.tube).strength for part in made.parts)
    for tube in [tube for tube in paints.colours if tube not in inside][:_MOST_LED]:
        led = [*made.parts, Part(tube=tube, amount=_LED * pull / qualities(tube).strength)]
        for tint in _TINTS:
            parts = [*led, Part(tube=white, amount=tint * volume)] if tint else led
            lightness, a, b = _shown(lab_of_parts(parts, paints.binder.dry)).tolist()
            labs.append((lightness, a, b))
    return labs


def place_of(hue100: float, table: HueTable) -> float:
    """Give where a hue lies on the wheel, in places of 24 from yellow on."""
    circle = [hue.hue100 for hue in table.hues(_WHEEL)]
    for n, start in enumerate(circle):
        # The wheel runs against the numbers.
        whole = (start - circle[(n + 1) % _WHEEL]) % 100.0
        done = (start - hue100) % 100.0
        if done < whole:
            return n + done / whole
    return 0.0


def hue_at(place: float, table: HueTable) -> float:
    """Give the hue at a place of 24 on the wheel, 0 to 100."""
    circle = [hue.hue100 for hue in table.hues(_WHEEL)]
    n, part = divmod(place % _WHEEL, 1.0)
    start = circle[int(n) % _WHEEL]
    return (start + part * hue_step(start, circle[(int(n) + 1) % _WHEEL])) % 100.0


@dataclass(frozen=True, kw_only=True)
class SchemeFit:
    """How much of a picture's colour already lies on a scheme."""

    kind: SchemeKind
    base: str  # the hue of 24 it fits best from
    share: float  # of the area, each colour weighed by its chroma


def scheme_fits(shares: ColourShares, table: HueTable) -> tuple[SchemeFit, ...]:
    """Hold a picture against every scheme of places; empty where it has no colour."""
    hvcs = hvcs_of(shares.lab)
    coloured = [n for n, one in enumerate(hvcs) if one.chroma >= NEAR_NEUTRAL_BELOW]
    if not coloured:
        return ()
    places = np.array([place_of(hvcs[n].hue100 or 0.0, table) for n in coloured])
    weight = np.array([shares.share[n] * hvcs[n].chroma for n in coloured])
    weight /= weight.sum()
    names = [hue.name for hue in table.hues(_WHEEL)]
    fits = []
    for kind, steps in _PLACES.items():
        held = [float(weight[_on(places, base, steps)].sum()) for base in range(_WHEEL)]
        best = int(np.argmax(held))
        fits.append(SchemeFit(kind=kind, base=names[best], share=held[best]))
    return tuple(fits)


def _on(places: Floats, base: int, steps: tuple[int, ...]) -> NDArray[np.bool_]:
    away = np.array([np.abs((places - base - step + 12.0) % _WHEEL - 12.0) for step in steps])
    return np.asarray(away.min(axis=0) <= _NEAR)


def in_scheme(colours: PictureColours, scheme: Scheme) -> Floats:
    """Give a picture's Lab (h, w, 3) with its hues exchanged for a scheme's, every value kept.

    The hue that takes most of the picture becomes the colour that should have most, and so on;
    what is muted stays so.
    """
    lab = colours.lab
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    sectors = (np.arctan2(lab[..., 2], lab[..., 1]) / (2.0 * np.pi) % 1.0 * _SECTORS).astype(int)
    sectors = np.minimum(sectors, _SECTORS - 1)
    grey, strongest = chroma < _GREY, float(np.percentile(chroma, _STRONG_PERCENT))
    area = np.array([float((~grey & (sectors == n)).mean()) for n in range(_SECTORS)])
    wanted = np.array([one.share for one in scheme.colours]) * area.sum()
    turned = lab.copy()
    for n in np.argsort(-area):
        if not area[n]:
            break
        which = int(np.argmax(wanted))
        wanted[which] -= area[n]
        own = ~grey & (sectors == n)
        turned[own, 1:] = _as_strong(scheme.colours[which].lab, chroma[own], strongest)
    turned[grey, 1:] = _as_strong(scheme.colours[0].lab, chroma[grey], strongest)
    return turned


def _as_strong(lab: Lab, chroma: Floats, strongest: float) -> Floats:
    """Give a* and b* of a hue as strong as places were: the strongest get the colour's chroma."""
    _, a, b = lab
    share = np.minimum(chroma / max(strongest, 1.0), _STRONGER)
    return np.asarray(share[:, None] * np.array([a, b]))


def _shown(lab: Floats) -> Floats:
    """Bring a colour to what a screen shows."""
    return linear_to_lab(np.clip(lab_to_linear(lab), 0.0, 1.0))


def _hue_of(lab: Lab, table: HueTable) -> str:
    hvc = hvc_of(lab)
    if hvc.hue100 is None or hvc.chroma < NEAR_NEUTRAL_BELOW:
        return gettext("grey")
    return table.nearest(hvc.hue100, _WHEEL).name
