"""A palette seen from above: tubes with their dabs round it, piles on it, the knife and the jar."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import cos, pi, sin, sqrt

from noema.core.bench.acts import Bench
from noema.core.bench.palette import Palette, Pile
from noema.core.bench.says import dose_words
from noema.core.bench.seen import PileColour, colours_of
from noema.core.colour.srgb import lab_to_hex
from noema.core.language import gettext, written
from noema.core.pigments.tube import Tube
from noema.core.planning.amounts import rounded_ml

WIDTH, TUBE_ROW = 560.0, 84.0
_ACROSS = 8  # tubes in a row
_PILE_ROW, _FEWEST_ACROSS, _PILES_ACROSS = 200.0, 2, 5
_RADIUS_OF_ML, _LEAST_RADIUS, _MOST_RADIUS = 44.0, 12.0, 62.0
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
    """Draw a palette with the tubes whose fills are given; wet piles show their wet colour."""
    shown = [tube for tube in bench.paints.tubes if tube.name in tube_fills]
    board_y = -(-len(shown) // _ACROSS) * TUBE_ROW
    colours = colours_of(palette, bench.paints)
    tubes = tuple(
        _tube(tube, _place(n, len(shown), _ACROSS), palette, bench, tube_fills[tube.name])
        for n, tube in enumerate(shown)
    )
    across = min(max(len(palette.piles), _FEWEST_ACROSS), _PILES_ACROSS)
    most = min(WIDTH / across / 2.2 - 4.0, _MOST_RADIUS)
    piles = tuple(
        _pile(
            _place(n, across, across),
            name,
            pile,
            colours.get(name),
            smears.get(name, ""),
            board_y,
            most,
        )
        for n, (name, pile) in enumerate(palette.piles.items())
    )
    pile_rows = max(-(-len(piles) // across), 1)
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


def _place(number: int, count: int, most_across: int) -> tuple[float, int]:
    """Give the middle of a place in a row, and the row's number."""
    across = min(count, most_across)
    return round((number % across + 0.5) * WIDTH / across, 1), number // across


def _tube(
    tube: Tube, place: tuple[float, int], palette: Palette, bench: Bench, fill: str
) -> DrawnTube:
    x, row = place
    dab = palette.dabs.get(tube.name, 0.0)
    return DrawnTube(
        x=x,
        y=row * TUBE_ROW + 10.0,
        label=tube.label,
        fill=fill,
        dab=round(min(_DAB_RADIUS_OF_ML * sqrt(dab), _MOST_DAB), 1),
        said=gettext(
            "%(tube)s: %(dab)s ml squeezed out and not used, %(left)s ml left in the tube",
            tube=tube.label,
            dab=written(dab, ".2f"),
            left=written(bench.left_ml(palette, tube.name), ".1f"),
        ),
    )


def _pile(
    place: tuple[float, int],
    name: str,
    pile: Pile,
    colour: PileColour | None,
    smear: str,
    board_y: float,
    most: float,
) -> DrawnPile:
    radius = min(max(_RADIUS_OF_ML * sqrt(pile.ml), _LEAST_RADIUS), most)
    x, y = place[0], board_y + (place[1] + 0.5) * _PILE_ROW
    lab = None if colour is None else colour.lab if pile.is_dry else colour.wet_lab
    return DrawnPile(
        name=name,
        x=round(x, 1),
        y=round(y, 1),
        points="" if lab is None else _outline(x, y, radius, len(name) + ord(name[0])),
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
