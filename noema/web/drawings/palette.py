"""A palette seen from above: tubes with their dabs round it, piles on it, the knife and the jar."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import cos, pi, sin, sqrt

from noema.core.bench.acts import Bench
from noema.core.bench.palette import Palette, Pile
from noema.core.bench.says import dose_words
from noema.core.bench.seen import PileColour, colours_of
from noema.core.colour.srgb import lab_to_hex
from noema.core.language import gettext
from noema.core.planning.amounts import rounded_ml

WIDTH, TUBE_ROW = 760.0, 92.0
_ACROSS = 8  # tubes in a row
_PILE_ROW, _PILES_ACROSS = 190.0, 5
_RADIUS_OF_ML, _LEAST_RADIUS, _MOST_RADIUS = 42.0, 12.0, 66.0
_DAB_RADIUS_OF_ML, _MOST_DAB = 15.0, 26.0
_CORNERS = 28


@dataclass(frozen=True, kw_only=True)
class DrawnTube:
    """A tube beside the palette, and its dab."""

    x: float
    y: float
    label: str
    fill: str  # as it comes, dry
    dab: float  # radius; 0 where nothing is squeezed
    said: str


@dataclass(frozen=True, kw_only=True)
class DrawnPile:
    """A pile."""

    name: str
    x: float
    y: float
    points: str  # its outline; empty where nothing is there
    fill: str
    smear: str  # the same let down with white, at its side; empty unless asked for
    radius: float
    said: str
    is_dry: bool


@dataclass(frozen=True, kw_only=True)
class DrawnPalette:
    """Everything on it."""

    width: float
    height: float
    board_y: float
    tubes: tuple[DrawnTube, ...]
    piles: tuple[DrawnPile, ...]
    knife_fill: str  # what clings to it; empty for a clean one
    said: str


def draw_palette(
    palette: Palette, bench: Bench, tube_fills: Mapping[str, str], smears: Mapping[str, str]
) -> DrawnPalette:
    """Draw a palette; piles that are wet show their wet colour."""
    rows = -(-len(bench.paints.tubes) // _ACROSS)
    board_y = rows * TUBE_ROW
    colours = colours_of(palette, bench.paints)
    tubes = tuple(
        _tube(number, palette, bench, tube_fills) for number in range(len(bench.paints.tubes))
    )
    piles = tuple(
        _pile(number, name, pile, colours.get(name), smears.get(name, ""), board_y)
        for number, (name, pile) in enumerate(palette.piles.items())
    )
    pile_rows = max(-(-len(piles) // _PILES_ACROSS), 1)
    clinging = Palette(piles={"knife": Pile(paint=palette.knife)})
    knife = colours_of(clinging, bench.paints).get("knife")
    return DrawnPalette(
        width=WIDTH,
        height=board_y + pile_rows * _PILE_ROW + 40.0,
        board_y=board_y,
        tubes=tubes,
        piles=piles,
        knife_fill="" if knife is None else lab_to_hex([knife.wet_lab])[0],
        said=_said(palette),
    )


def fills_of(bench: Bench) -> Mapping[str, str]:
    """Give how every tube looks as it comes, dry, by name."""
    alone = Palette(piles={t.name: Pile(paint={t.name: 1.0}) for t in bench.paints.tubes})
    labs = [colour.lab for colour in colours_of(alone, bench.paints).values()]
    return dict(zip(alone.piles, lab_to_hex(labs), strict=True))


def _tube(number: int, palette: Palette, bench: Bench, fills: Mapping[str, str]) -> DrawnTube:
    tube = bench.paints.tubes[number]
    dab = palette.dabs.get(tube.name, 0.0)
    across = min(len(bench.paints.tubes), _ACROSS)
    left = bench.left_ml(palette, tube.name)
    return DrawnTube(
        x=round((number % _ACROSS + 0.5) * WIDTH / across, 1),
        y=(number // _ACROSS) * TUBE_ROW + 14.0,
        label=tube.label,
        fill=fills[tube.name],
        dab=round(min(_DAB_RADIUS_OF_ML * sqrt(dab), _MOST_DAB), 1),
        said=gettext(
            "%(tube)s: %(dab)s ml squeezed out and not used, %(left)s ml left in the tube",
            tube=tube.label,
            dab=f"{dab:.2f}",
            left=f"{left:.1f}",
        ),
    )


def _pile(
    number: int,
    name: str,
    pile: Pile,
    colour: PileColour | None,
    smear: str,
    board_y: float,
) -> DrawnPile:
    radius = min(max(_RADIUS_OF_ML * sqrt(pile.ml), _LEAST_RADIUS), _MOST_RADIUS)
    x = (number % _PILES_ACROSS + 0.5) * WIDTH / _PILES_ACROSS
    y = board_y + (number // _PILES_ACROSS + 0.5) * _PILE_ROW
    lab = None if colour is None else colour.lab if pile.is_dry else colour.wet_lab
    return DrawnPile(
        name=name,
        x=round(x, 1),
        y=round(y, 1),
        points="" if lab is None else _outline(x, y, radius, number),
        fill="" if lab is None else lab_to_hex([lab])[0],
        smear=smear,
        radius=round(radius, 1),
        said=_pile_said(name, pile),
        is_dry=pile.is_dry,
    )


def _pile_said(name: str, pile: Pile) -> str:
    if pile.ml <= 0.0:
        return gettext("pile %(name)s: nothing yet", name=name)
    amount = dose_words(rounded_ml(pile.ml))
    if pile.is_dry:
        return gettext("pile %(name)s: %(amount)s, dry", name=name, amount=amount)
    return gettext("pile %(name)s: %(amount)s, wet", name=name, amount=amount)


def _said(palette: Palette) -> str:
    if not palette.piles:
        return gettext("A palette with no pile yet.")
    piles = [_pile_said(name, pile) for name, pile in palette.piles.items()]
    return gettext("A palette: %(piles)s.", piles="; ".join(piles))


def _outline(x: float, y: float, radius: float, number: int) -> str:
    """Give a heap's edge: a circle a knife has pushed about, the same for the same pile."""
    corners = []
    for corner in range(_CORNERS):
        turn = 2.0 * pi * corner / _CORNERS
        pushed = 1.0 + 0.06 * sin(3.0 * turn + number) + 0.04 * sin(5.0 * turn + 2.0 * number)
        reach = radius * pushed
        corners.append(f"{x + 1.1 * reach * cos(turn):.1f},{y + 0.9 * reach * sin(turn):.1f}")
    return " ".join(corners)
