"""The disc of what a set can mix, seen from above: neutral in the middle, intensity outwards.

Yellow stands at the top and the hues run clockwise through orange and red, at the angles at which
the eye counts equal steps. Every patch shows a colour these paints really mix.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, pi, sin

import numpy as np
from markupsafe import Markup

from noema.core.colour.hvc import HVC, hvc_to_lab, lab_of
from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.pigments.qualities import qualities
from noema.core.pigments.reach import HUE_STEP, VALUES
from noema.core.pigments.tube import Role, Tube

SIZE = 640.0
MIDDLE = SIZE / 2.0
UNIT = 17.0  # drawing units to one of chroma
RING = 2.0  # chroma
_TOP_HUE = 25.0  # yellow
_RIM = 16.2  # chroma at which names stand
_MOST = 16.0


@dataclass(frozen=True, kw_only=True)
class DiscPlace:
    """Something with a name at a place on the disc."""

    label: str
    x: float
    y: float
    anchor: str
    fill: str = ""
    text_x: float = 0.0
    text_y: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Wheel:
    """The whole disc."""

    patches: Markup  # SVG paths of mixed colours
    names: tuple[DiscPlace, ...]
    tubes: tuple[DiscPlace, ...]
    rings: tuple[tuple[float, str], ...]  # radius, chroma
    size: float = SIZE
    middle: float = MIDDLE


def make_wheel(tubes: Sequence[Tube], highest: np.ndarray, table: HueTable) -> Wheel:
    """Lay out a set's reach, (40, 9) as `reach` gives it, with its tubes."""
    names = tuple(
        _named(hue.name, hue.hue100, plain=place % 2 == 0)
        for place, hue in enumerate(table.hues(12))
    )
    return Wheel(
        patches=_patches(highest),
        names=names,
        tubes=_tubes(tubes, names),
        rings=tuple((round(chroma * UNIT, 1), f"{chroma:g}") for chroma in (4.0, 8.0, 12.0)),
    )


def point(hue100: float | None, chroma: float) -> tuple[float, float]:
    """Give the place of a hue and chroma on the disc; a neutral stands in the middle."""
    if hue100 is None:
        return MIDDLE, MIDDLE
    angle = _angle(hue100)
    return (
        round(MIDDLE + chroma * UNIT * sin(angle), 1),
        round(MIDDLE - chroma * UNIT * cos(angle), 1),
    )


def path_of(mixes: Sequence[HVC]) -> str:
    """Draw a way over the disc as an SVG path."""
    places = [point(mix.hue100, mix.chroma) for mix in mixes]
    return "M" + "L".join(f"{x} {y}" for x, y in places)


def _angle(hue100: float) -> float:
    """Clockwise from the top; hue100 falls from yellow to orange and red."""
    return (_TOP_HUE - hue100) / 100.0 * 2.0 * pi


def _patches(highest: np.ndarray) -> Markup:
    """Fill each hue out to its reach, at the value at which it gets most intense."""
    cells: list[tuple[float, float, float, float]] = []  # hue, inner chroma, outer chroma, value
    for place, row in enumerate(highest):
        top, value = min(float(row.max()), _MOST), float(VALUES[int(row.argmax())])
        cells += [
            (place * HUE_STEP, float(inner), min(float(inner) + RING, top), value)
            for inner in np.arange(0.0, top, RING)
        ]
    if not cells:
        return Markup("")
    middles = [(hue, value, (inner + outer) / 2.0) for hue, inner, outer, value in cells]
    fills = lab_to_hex(hvc_to_lab(np.array(middles)))
    return Markup(
        "".join(
            f'<path d="{_wedge(hue, inner, outer)}" fill="{fill}"/>'
            for (hue, inner, outer, _), fill in zip(cells, fills, strict=True)
        )
    )


def _wedge(hue100: float, inner: float, outer: float) -> str:
    half = HUE_STEP / 2.0 + 0.04  # a hair over, so that no seam shows
    corners = [
        point(hue100 - half, inner),
        point(hue100 - half, outer),
        point(hue100 + half, outer),
        point(hue100 + half, inner),
    ]
    return "M" + "L".join(f"{x} {y}" for x, y in corners) + "Z"


def _named(name: str, hue100: float, plain: bool) -> DiscPlace:
    x, y = point(hue100, _RIM if plain else _RIM + 0.6)
    anchor = "middle" if abs(x - MIDDLE) < 40 else "start" if x > MIDDLE else "end"
    return DiscPlace(label=name, x=x, y=y + 5, anchor=anchor, text_x=x, text_y=y)


def _tubes(tubes: Sequence[Tube], names: Sequence[DiscPlace]) -> tuple[DiscPlace, ...]:
    coloured = [tube for tube in tubes if tube.role is Role.COLOUR]
    if not coloured:
        return ()
    shown = [qualities(tube).shown for tube in coloured]
    placed = []
    for tube, hvc, fill in zip(coloured, shown, lab_to_hex(lab_of(shown)), strict=True):
        x, y = point(hvc.hue100, hvc.chroma)
        right = x >= MIDDLE
        placed.append(
            DiscPlace(
                label=tube.label,
                x=x,
                y=y,
                anchor="start" if right else "end",
                fill=fill,
                text_x=round(x + (14 if right else -14), 1),
                text_y=round(y + 5, 1),
            )
        )
    return tuple(_apart(placed, names))


def _apart(placed: list[DiscPlace], names: Sequence[DiscPlace]) -> list[DiscPlace]:
    """Move labels that would lie on another, or on a name, down the page; the upper first."""
    taken: list[DiscPlace] = []
    for one in sorted(placed, key=lambda p: p.text_y):
        y = one.text_y
        while any(_touching(other, one, y) for other in (*names, *taken)):
            y += 4
        taken.append(
            DiscPlace(
                label=one.label,
                x=one.x,
                y=one.y,
                anchor=one.anchor,
                fill=one.fill,
                text_x=one.text_x,
                text_y=y,
            )
        )
    return taken


def _touching(a: DiscPlace, b: DiscPlace, y: float) -> bool:
    """Say whether two labels would overlap if the second stood at y."""
    (a_from, a_to), (b_from, b_to) = _extent(a), _extent(b)
    return abs(a.text_y - y) < 15 and a_from < b_to and b_from < a_to


def _extent(label: DiscPlace) -> tuple[float, float]:
    """Give where a label begins and ends across the page, about."""
    width = 8.0 * len(label.label)
    start = label.text_x - {"start": 0.0, "middle": width / 2, "end": width}[label.anchor]
    return start, start + width
