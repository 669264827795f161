"""The colour wheel: primaries, secondaries, tertiaries, and rings of tints, shades and neutrals."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import hue_step
from noema.core.errors import BadExercise
from noema.core.exercises.asked import (
    SEE_THE_HUE,
    Arrangement,
    Asked,
    AskedCell,
    Band,
    CellRole,
    Even,
    Ground,
)
from noema.core.exercises.cells import then_dry
from noema.core.exercises.from_paints import dark_of, pure, purest, shown_with_white, white_of
from noema.core.exercises.kind import Kind, Trait, weights
from noema.core.exercises.levels import Key
from noema.core.exercises.options import Options, flag, number, word, words
from noema.core.exercises.paths import (
    Stop,
    cell_of,
    even_places,
    greyest_place,
    stop_of,
    stops_at,
    way_between,
)
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import by_level
from noema.core.exercises.wheel_concerns import concerns_of
from noema.core.language import N_, gettext, written
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part
from noema.core.pigments.partners import partner
from noema.core.pigments.qualities import qualities
from noema.core.pigments.reach import PRIMARIES, tubes_of_hue, why_dull
from noema.core.pigments.says import say_parts
from noema.core.pigments.tube import Role, Tube

Place = tuple[str, float, tuple[Tube, ...]]  # name, hue100, and the tube where it is one
_GREYED = (
    ("neutral-1", N_("greyed, 1 of 4")),
    ("neutral-2", N_("greyed, 2 of 4")),
    ("neutral-3", N_("greyed, 3 of 4")),
    ("neutral-4", N_("greyed, 4 of 4")),
)
_RINGS = (
    ("tint-in", N_("tints inside")),
    ("tint-out", N_("tints outside")),
    ("shade", N_("shades")),
    ("grey", N_("greys of each value")),
    *_GREYED,
)
_RING_NAMES = {
    "tint-in": N_("inner tint"),
    "tint-out": N_("outer tint"),
    "shade": N_("shade"),
    "grey": N_("grey"),
    **dict(_GREYED),
}
"""What a ring, and each of its cells after its hue, is called."""

MOST_RINGS = {6: 4, 12: 3, 24: 1}
"""Rings, the pure one included, whose cells stay 12 mm across on a sheet."""

_DULL_BELOW = 2.0  # chroma under which a hue counts as not there
_LET_DOWN, _STRAIGHT = "let-down", "straight"
_DARKS = (
    (_LET_DOWN, N_("let down with white, until they show")),
    (_STRAIGHT, N_("straight, however dark")),
)
_SHOWS_FROM = 3.0  # value under which a mix hides its hue
_SHOW_DARKS = N_("Let hues that are too dark to show down with a little white.")
_DEGREES = 5  # from pure to neutral, of which four are painted


@dataclass(frozen=True, kw_only=True)
class WheelOptions(Options):
    """What may be chosen of a colour wheel."""

    hues: int = number(N_("Hues"), tuple(MOST_RINGS), 12, N_("How many hues go round it."))
    primaries: int = number(
        N_("Primaries"),
        (3, 6),
        3,
        N_("What it stands on: three tubes, or a warm and a cool of each."),
        words=(("3", N_("three")), ("6", N_("split: a warm and a cool of each"))),
    )
    rings: tuple[str, ...] = words(
        N_("Rings"), _RINGS, N_("Rings beside the pure one, each mixed from it."), flag="ring"
    )
    darks: str = word(
        N_("Dark hues"),
        _DARKS,
        _LET_DOWN,
        N_("Violets and blues too dark to show their hue: with a little white, or as mixed."),
    )
    anticlockwise: bool = flag(N_("anticlockwise from yellow"), N_("Which way it runs."))


def _ask(chosen: WheelOptions, ground: Ground) -> Asked:
    hues, rings = chosen.hues, tuple(dict.fromkeys(chosen.rings))
    _check_rings(hues, rings)
    pures = _pures(chosen, ground)
    bands = [_ring(ring, pures, ground) for ring in rings]
    pure_band = Band(label=gettext("pure"), cells=tuple(pures), even=Even.HUE)
    outside = [band for ring, band in zip(rings, bands, strict=True) if ring == "tint-out"]
    inside = [band for ring, band in zip(rings, bands, strict=True) if ring != "tint-out"]
    return Asked(
        kind=KIND.name,
        title=gettext("Colour wheel, %(hues)s hues", hues=hues),
        arrangement=Arrangement.WHEEL,
        bands=(*outside, pure_band, *inside),
        how_to=(
            _first_line(pures),
            gettext(
                "Start from the lighter colour and bring the darker in by small "
                "touches; judge the middle by eye, not by parts."
            ),
            *((gettext("Mix each ring from the pure hue of its wedge."),) if rings else ()),
            then_dry(gettext("Clean the brush between hues.")),
        ),
        concerns=concerns_of(pures, ground),
        anticlockwise=chosen.anticlockwise,
    )


def _check_rings(hues: int, rings: tuple[str, ...]) -> None:
    if len(rings) >= MOST_RINGS[hues]:
        most = MOST_RINGS[hues] - 1
        can = (
            gettext("at most %(most)s rings more", most=most)
            if most
            else gettext("no ring but the pure one")
        )
        raise BadExercise(
            gettext(
                "With %(hues)s hues and %(count)s rings more the cells would be "
                "under 12 mm: %(hues)s hues have room for %(can)s; choose fewer "
                "rings or fewer hues.",
                hues=hues,
                count=len(rings),
                can=can,
            )
        )


def _primaries(chosen: WheelOptions, ground: Ground) -> int:
    if chosen.primaries == 3:
        return 3
    if chosen.hues == 6:
        raise BadExercise(
            gettext("Six hues leave no room for two tubes of each primary: take 12 or 24 hues.")
        )
    for name in PRIMARIES:
        if len(tubes_of_hue(ground.paints.tubes, name, ground.table)) < 2:
            raise BadExercise(
                gettext(
                    "The set %(label)s has no two tubes of %(name)s: take 3 primaries, "
                    "or a set with a warm and a cool of each.",
                    label=ground.paints.label,
                    name=name,
                )
            )
    return chosen.primaries


def _pures(chosen: WheelOptions, ground: Ground) -> list[AskedCell]:
    hues, places = chosen.hues, list[Place]()
    primaries = _primaries(chosen, ground)
    if ground.key is Key.NAMED:
        places = [(hue.name, hue.hue100, ()) for hue in ground.table.hues(hues)]
    elif primaries == 6:
        places = _split_places(ground, hues)
    else:
        places = _places(ground, hues)
    surface, lets_down = ground.paints.binder.dry, chosen.darks == _LET_DOWN
    cells = [
        _pure_cell(ground, n, name, hue100, tubes, surface)
        for n, (name, hue100, tubes) in enumerate(places, start=1)
    ]
    if not lets_down or ground.paints.white is None:
        return cells
    return [_shown(cell, place[1], ground) for cell, place in zip(cells, places, strict=True)]


def _places(ground: Ground, hues: int) -> list[Place]:
    """Stand primaries at their tubes' own hues, secondaries at their names', the rest between."""
    names, half = [hue.name for hue in ground.table.hues(hues)], hues // 6
    anchors = [
        _anchor(ground, hue.name) if hue.name in PRIMARIES else (hue.hue100, ())
        for hue in ground.table.hues(6)
    ]
    placed: list[Place] = []
    for turn, ((start, tubes), (end, _)) in enumerate(pairwise((*anchors, anchors[0]))):
        apart = (start - end) % 100.0  # the wheel runs against the numbers
        placed += [
            (names[turn * half + n], (start - apart * n / half) % 100.0, () if n else tubes)
            for n in range(half)
        ]
    return placed


def _split_places(ground: Ground, hues: int) -> list[Place]:
    """Stand both tubes of each primary on the wheel, and mixes evenly between unlike ones."""
    third = hues // 3
    pairs = [_both(ground, name) for name in PRIMARIES]
    placed: list[Place] = []
    for turn in range(3):
        first, last = pairs[turn]
        following = pairs[(turn + 1) % 3][0]
        placed += [(tube.label, _hue(tube), (tube,)) for tube in (first, last)]
        start, apart = _hue(last), (_hue(last) - _hue(following)) % 100.0
        between = [(start - apart * n / (third - 1)) % 100.0 for n in range(1, third - 1)]
        named = [ground.table.nearest(hue100, 12) for hue100 in between]
        # Each at the hue that bears its name, where there is one for each.
        own = len(set(named)) == len(named)
        placed += [
            (hue.name, hue.hue100 if own else hue100, ())
            for hue, hue100 in zip(named, between, strict=True)
        ]
    return placed


def _both(ground: Ground, name: str) -> tuple[Tube, Tube]:
    """Give the two tubes of a primary that lie farthest apart, in wheel order."""
    own = sorted(
        tubes_of_hue(ground.paints.tubes, name, ground.table),
        key=lambda tube: hue_step(ground.table.of(name).hue100, _hue(tube)),
    )
    return own[-1], own[0]


def _anchor(ground: Ground, name: str) -> tuple[float, tuple[Tube, ...]]:
    parts = pure(ground, name)
    if len(parts) == 1 and parts[0].tube.role is Role.COLOUR:
        return _hue(parts[0].tube), (parts[0].tube,)
    return ground.table.of(name).hue100, ()


def _hue(tube: Tube) -> float:
    """Give the hue a tube has when painted as it comes; a near black's by its tint."""
    seen = qualities(tube)
    hue100 = seen.masstone.hue100 if seen.masstone.chroma >= 1.0 else seen.shown.hue100
    assert hue100 is not None  # only colours are asked
    return hue100


def _pure_cell(
    ground: Ground, n: int, name: str, hue100: float, tubes: tuple[Tube, ...], surface: Surface
) -> AskedCell:
    if tubes:
        stop = stop_of([Part(tube=tubes[0], amount=1.0)], surface)
        note = gettext("%(label)s as it comes.", label=tubes[0].label.capitalize())
        return cell_of(stop, f"h{n}", name, note, role=CellRole.END)
    mixed = purest(ground.paints.tubes, hue100, surface)
    if mixed and hvc_of(stop_of(mixed, surface).lab).chroma >= _DULL_BELOW:
        note = gettext("As intense as these paints mix it: %(parts)s.", parts=say_parts(mixed))
        return cell_of(stop_of(mixed, surface), f"h{n}", name, note)
    return _fallen_back(ground, n, name, mixed, surface)


def _shown(cell: AskedCell, hue100: float, ground: Ground) -> AskedCell:
    """Let a hue too dark to show down with just so much white that it is at its most intense."""
    white, surface = white_of(ground.paints), ground.paints.binder.dry
    if cell.limit or cell.hvc.value >= _SHOWS_FROM:
        return cell
    parts = shown_with_white(cell.parts, white, hue100, _SHOWS_FROM, surface)
    note = gettext("Let down with white until its hue shows: %(parts)s.", parts=say_parts(parts))
    return cell_of(stop_of(parts, surface), cell.id, cell.label, note, role=cell.role)


def _first_line(pures: list[AskedCell]) -> str:
    first = gettext("Primaries first, then the hues between them, each from its two neighbours.")
    return f"{first} {gettext(_SHOW_DARKS)}" if any(map(_is_let_down, pures)) else first


def _is_let_down(cell: AskedCell) -> bool:
    return any(part.tube.role is Role.WHITE for part in cell.parts)


def _fallen_back(
    ground: Ground, n: int, name: str, mixed: tuple[Part, ...], surface: Surface
) -> AskedCell:
    """Ask for what can be reached where a hue isn't there: the eye's middle of its neighbours."""
    twelve = ground.table.nearest(ground.table.of(name).hue100, 12).name
    reason = why_dull(ground.paints.tubes, mixed, twelve, ground.table)
    if not mixed:
        one, other = _primaries_round(ground, name)
        way = way_between(one, other, surface)
        mixed = stops_at(way, even_places(way.labs, 3, Even.DISTANCE)[1:2], surface)[0].parts
    return cell_of(
        stop_of(mixed, surface),
        f"h{n}",
        name,
        gettext(
            "The nearest these paints come to %(name)s: %(parts)s.",
            name=name,
            parts=say_parts(mixed),
        ),
        limit=gettext(
            "these paints can't give a clean %(name)s, because %(reason)s", name=name, reason=reason
        ),
    )


def _primaries_round(ground: Ground, name: str) -> tuple[tuple[Part, ...], tuple[Part, ...]]:
    names = [str(hue.name) for hue in ground.table.hues(24)]
    before = (names.index(name) // 8) % 3
    tubes = [pure(ground, PRIMARIES[(before + turn) % 3]) for turn in (0, 1)]
    if not tubes[0] or not tubes[1]:
        raise BadExercise(
            gettext(
                "The set %(label)s lacks a primary for %(name)s: choose another set.",
                label=ground.paints.label,
                name=name,
            )
        )
    return tubes[0], tubes[1]


def _ring(ring: str, pures: list[AskedCell], ground: Ground) -> Band:
    make = {"tint-in": _tint, "tint-out": _tint, "shade": _shade, "grey": _grey}.get(ring)
    degree = int(ring.rsplit("-", 1)[1]) if ring.startswith("neutral-") else 0
    cells = []
    for n, cell in enumerate(pures, start=1):
        stop, note = _neutralised(cell, degree, ground) if make is None else make(cell, ground)
        cells.append(
            cell_of(
                stop,
                f"{ring}-{n}",
                "",
                note,
                limit=cell.limit and SEE_THE_HUE,
                role=CellRole.TINT if make is _tint else CellRole.STEP,
                of=cell.id,
            )
        )
    return Band(label=gettext(_RING_NAMES[ring]), cells=tuple(cells))


def _tint(cell: AskedCell, ground: Ground) -> tuple[Stop, str]:
    white = (Part(tube=white_of(ground.paints), amount=1.0),)
    return _halfway(cell, white, ground), gettext(
        "%(label)s halfway to white.", label=cell.label.capitalize()
    )


def _shade(cell: AskedCell, ground: Ground) -> tuple[Stop, str]:
    return _halfway(cell, dark_of(ground.paints), ground), gettext(
        "%(label)s halfway to the dark.", label=cell.label
    )


def _grey(cell: AskedCell, ground: Ground) -> tuple[Stop, str]:
    """Ask for the neutral of the hue's own value."""
    surface = ground.paints.binder.dry
    white = (Part(tube=white_of(ground.paints), amount=1.0),)
    way = way_between(dark_of(ground.paints), white, surface)
    place = float(np.argmin(np.abs(way.labs[:, 0] - cell.lab[0])))
    stop = stops_at(way, np.array([place]), surface)[0]
    return stop, gettext(
        "Grey as light as %(label)s: value %(value)s.",
        label=cell.label,
        value=written(cell.hvc.value, ".1f"),
    )


def _neutralised(cell: AskedCell, degree: int, ground: Ground) -> tuple[Stop, str]:
    """Go some of the way from the hue to its neutral, by the true partner of its main tube."""
    surface = ground.paints.binder.dry
    colours = [part for part in cell.parts if part.tube.role is not Role.WHITE]
    main = max(colours or cell.parts, key=lambda part: part.amount).tube
    by = partner(main, ground.paints.tubes, ground.table).parts
    others = tuple(part for part in by if part.tube != main)
    if not others:
        raise BadExercise(
            gettext("One tube can't be neutralised: choose a set with its complement.")
        )
    way = way_between(cell.parts, others, surface)
    middle = greyest_place(way)
    places = even_places(way.labs[: middle + 1], _DEGREES + 1, Even.DISTANCE)
    stop = stops_at(way, places[degree : degree + 1], surface)[0]
    return stop, gettext(
        "%(label)s, %(degree)s of %(degrees)s steps towards its neutral.",
        label=cell.label.capitalize(),
        degree=degree,
        degrees=_DEGREES,
    )


def _halfway(cell: AskedCell, end: tuple[Part, ...], ground: Ground) -> Stop:
    surface = ground.paints.binder.dry
    way = way_between(cell.parts, end, surface)
    return stops_at(way, even_places(way.labs, 3, Even.DISTANCE)[1:2], surface)[0]


KIND = Kind(
    name="colour-wheel",
    label=N_("Colour wheel"),
    says=N_("Every hue from a few tubes, each in its place."),
    teaching=Teaching(
        place=3,
        see=N_(
            "The dark tube goes to the light one by touches: yellow is green long before "
            "half of it is blue."
        ),
        mistake=N_(
            "Equal parts are mixed: the strong tube swallows the weak one, and the secondary "
            "stands too near it."
        ),
        say=N_(
            "Begin with the light pile, bring the dark to it on the tip of the knife, and "
            "look at both neighbours."
        ),
        easier=N_("Six hues."),
        harder=N_("A ring of tints or of greyed hues as well."),
        ask=N_("Which place was hardest to reach, and which two tubes came nearest?"),
    ),
    options=WheelOptions,
    ask=_ask,
    traits=frozenset({Trait.ANY_TUBE_STEERS, Trait.LIGHT_AT_TOP, Trait.OPENS_A_SET}),
    tolerances=by_level(hue=(4.0, 3.0, 2.0), value=(1.0, 0.8, 0.5), chroma=(2.8, 2.0, 1.3)),
    weights=weights(hue=3, value=1, intensity=2, evenness=1),
    turn=3,
)
