"""The value scale: dark to light in equal steps of value, of a neutral or of one hue.

Step 1 is the darkest. With a set of paints, steps are cut from the way these paints really mix;
without one they are neutral, equally spaced between the ends usual for the medium.
"""

from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from noema.core.colour.hvc import hvc_of
from noema.core.colour.value import lightness_to_value, value_to_lab
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, Even, Ground
from noema.core.exercises.cells import limits_said
from noema.core.exercises.from_paints import dark_of, pure, white_of
from noema.core.exercises.from_picture import PictureFacts
from noema.core.exercises.kind import Kind, Plot, Trait, weights
from noema.core.exercises.levels import Key
from noema.core.exercises.media import REACH, Medium
from noema.core.exercises.options import Lab, Options, hue_or_tube, number, some_colours
from noema.core.exercises.paths import (
    Stop,
    Way,
    cell_of,
    end_or_step,
    even_stops,
    stops_at,
    way_between,
)
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import by_level
from noema.core.language import N_, gettext, written
from noema.core.pigments.mix import Part
from noema.core.pigments.says import say_parts

_STEPS = range(5, 12)
_NEUTRAL = "neutral"
_SHORT = 0.25  # values a fixed end may lie beyond the paints before it is said


_MAKE_ENDS = N_("Make plenty of both ends first: %(parts)s, and white.")
_FROM_LIGHT = N_(
    "Start each step from the lighter pile and bring in the darker by "
    "small touches; clean the knife between mixes."
)
_OWN = range(2, 12)  # values of a picture's own
_OWN_APART = 0.3  # values under which two of them are one step


@dataclass(frozen=True, kw_only=True)
class ScaleOptions(Options):
    """What may be chosen of a value scale."""

    steps: int = number(
        N_("Steps"), _STEPS, 9, N_("Cells from dark to light, both ends with them.")
    )
    values: tuple[Lab, ...] = some_colours(
        N_("A picture's own values in place of even steps, a line each: L, a, b"),
        N_("Greys or colours whose values are the steps, in place of even ones."),
        "30.0, 0, 0\n62.0, 0, 0",
    )
    hue: str = hue_or_tube(
        N_("Of"), _NEUTRAL, "neutral", N_("What it leads through: a hue or a tube.")
    )


def _ask(chosen: ScaleOptions, ground: Ground) -> Asked:
    steps, surface = chosen.steps, ground.paints.binder.dry
    white, dark = (Part(tube=white_of(ground.paints), amount=1.0),), dark_of(ground.paints)
    hue = () if chosen.hue == _NEUTRAL else pure(ground, chosen.hue)
    way = way_between(dark, white, surface, legs=hue)
    if chosen.values:
        cells = _cells_at(_own_values(chosen), way, ground, _own_note)
        return _own_scale(cells, (gettext(_MAKE_ENDS, parts=say_parts(dark)), gettext(_FROM_LIGHT)))
    fixed = ground.key is Key.NAMED and not hue
    stops = even_stops(way, steps, Even.VALUE, surface)
    cells = _fixed_cells(way, steps, ground) if fixed else _cells(stops, steps)
    how_to = (
        gettext(_MAKE_ENDS, parts=say_parts(dark)),
        gettext(_FROM_LIGHT),
        gettext(
            "Let it dry, squint: every step should jump the same. Photograph it flat, in daylight."
        ),
    )
    return _scale(
        cells,
        gettext("Value scale of %(hue)s", hue=chosen.hue) if hue else gettext("Value scale"),
        how_to,
    )


def _ask_plainly(chosen: ScaleOptions, medium: Medium) -> Asked | None:
    if chosen.hue != _NEUTRAL:
        return None
    if chosen.values:
        found = _own_values(chosen)
        cells = tuple(_plain_cell(n, value, len(found)) for n, value in enumerate(found, start=1))
        return _own_scale(cells, _how_to(medium))
    values = even_values(REACH[medium].darkest, REACH[medium].lightest, chosen.steps)
    cells = tuple(_plain_cell(n, value, chosen.steps) for n, value in enumerate(values, start=1))
    return _scale(cells, gettext("Value scale"), _how_to(medium))


def _scale(cells: tuple[AskedCell, ...], name: str, how_to: tuple[str, ...]) -> Asked:
    return Asked(
        kind=KIND.name,
        title=gettext("%(name)s, %(steps)s steps", name=name, steps=len(cells)),
        arrangement=Arrangement.ROWS,
        bands=(Band(label="", cells=cells, even=Even.VALUE),),
        how_to=how_to,
        concerns=limits_said(
            cells,
            lambda cell: gettext("Step %(label)s", label=cell.label),
            gettext("hold the steps against the student's own ends instead"),
        ),
    )


def _own_scale(cells: tuple[AskedCell, ...], how_to: tuple[str, ...]) -> Asked:
    return Asked(
        kind=KIND.name,
        title=gettext("Value plan, %(count)s values", count=len(cells)),
        arrangement=Arrangement.ROWS,
        bands=(Band(label="", cells=cells),),
        how_to=how_to,
        concerns=limits_said(
            cells,
            lambda cell: gettext("Step %(label)s", label=cell.label),
            gettext("hold the steps against the student's own ends instead"),
        ),
    )


def _own_values(chosen: ScaleOptions) -> tuple[float, ...]:
    """Give a picture's own values from dark to light; refuses too few, many, or like ones."""
    values = sorted(float(lightness_to_value(lab[0])) for lab in chosen.values)
    if len(values) not in _OWN:
        raise BadExercise(
            gettext(
                "A value plan has %(fewest)s to %(most)s values, not %(count)s.",
                fewest=_OWN[0],
                most=_OWN[-1],
                count=len(values),
            )
        )
    if any(after - before < _OWN_APART for before, after in pairwise(values)):
        raise BadExercise(
            gettext("Two values of the plan are the same: take the picture in fewer values.")
        )
    return tuple(values)


def _from_picture(facts: PictureFacts) -> ScaleOptions | None:
    if len(facts.values) not in _OWN:
        return None
    lightnesses = [round(float(value_to_lab(value)[0]), 2) for value in facts.values]
    return ScaleOptions(values=tuple((one, 0.0, 0.0) for one in lightnesses))


def even_values(darkest: float, lightest: float, steps: int) -> tuple[float, ...]:
    """Give equally spaced values from the darkest to the lightest.

    >>> even_values(2.0, 10.0, 5)
    (2.0, 4.0, 6.0, 8.0, 10.0)
    """
    stride = (lightest - darkest) / (steps - 1)
    return tuple(darkest + stride * step for step in range(steps))


def _cells(stops: tuple[Stop, ...], steps: int) -> tuple[AskedCell, ...]:
    return tuple(
        cell_of(stop, f"c{n}", str(n), _note(n, steps), role=end_or_step(n, steps))
        for n, stop in enumerate(stops, start=1)
    )


def _fixed_cells(way: Way, steps: int, ground: Ground) -> tuple[AskedCell, ...]:
    """Hold each step at a fixed value, and give the mix of these paints that comes nearest."""
    reach = REACH[Medium.GOUACHE if ground.paints.binder.value == "gouache" else Medium.ACRYLIC]
    return _cells_at(even_values(reach.darkest, reach.lightest, steps), way, ground, _note)


def _cells_at(
    wanted: tuple[float, ...], way: Way, ground: Ground, note_of: Callable[[int, int], str]
) -> tuple[AskedCell, ...]:
    """Ask for fixed values, each with the mix on a way that comes nearest."""
    values, steps = lightness_to_value(way.labs[:, 0]), len(wanted)
    cells = []
    for n, value in enumerate(wanted, start=1):
        place = float(np.interp(value, values, np.arange(len(values))))
        stop = stops_at(way, np.array([place]), ground.paints.binder.dry)[0]
        off = float(np.interp(place, np.arange(len(values)), values)) - value
        lightness, a, b = value_to_lab(value).tolist()
        limit = "" if abs(off) <= _SHORT else gettext("these paints stop before it")
        asked = Stop(parts=stop.parts, lab=stop.lab if limit else (lightness, a, b))
        note, role = note_of(n, steps), end_or_step(n, steps)
        cells.append(cell_of(asked, f"c{n}", str(n), note, limit=limit, role=role))
    return tuple(cells)


def _plain_cell(n: int, value: float, steps: int) -> AskedCell:
    lightness, a, b = value_to_lab(value).tolist()
    return AskedCell(
        id=f"c{n}",
        label=str(n),
        lab=(lightness, a, b),
        hvc=hvc_of((lightness, a, b)),
        parts=(),
        note=gettext("Value %(value)s.", value=written(value, ".1f")),
        role=end_or_step(n, steps),
    )


def _own_note(n: int, steps: int) -> str:
    return gettext("Value %(n)s of %(steps)s of the picture.", n=n, steps=steps)


def _note(n: int, steps: int) -> str:
    if n == 1:
        return gettext("The darkest these paints make.")
    if n == steps:
        return gettext("White as it comes.")
    return gettext(
        "%(n)s of %(steps)s equal steps of value up from the dark.", n=n - 1, steps=steps - 1
    )


def _how_to(medium: Medium) -> tuple[str, str]:
    """Give the two lines printed on the sheet, in the order a painter works."""
    if medium is Medium.WATERCOLOUR:
        return (
            gettext(
                "Make both ends first: bare paper at one, your strongest wash at "
                "the other. Then the middle, then the steps between, with more "
                "water for each lighter one."
            ),
            gettext(
                "Let each wash dry before you judge it; another layer makes it "
                "darker. Squint: every step should jump the same. Photograph it "
                "flat, in daylight."
            ),
        )
    if medium.is_dry:
        return (
            gettext(
                "Make both ends first: bare paper at one, your darkest dark at the "
                "other. Then the middle, then the steps between."
            ),
            gettext(
                "Build up each step in thin layers right to the outline. Squint: "
                "every step should jump the same. Photograph it flat, in daylight."
            ),
        )
    return (
        gettext(
            "Mix plenty of both ends first. Start each step from the lighter "
            "pile and bring in the darker by small touches; clean the knife "
            "between mixes."
        ),
        gettext(
            "Paint each step thick and even, right to the outline. Let it dry, "
            "squint, then photograph it flat, in daylight."
        ),
    )


KIND = Kind(
    name="value-scale",
    label=N_("Value scale"),
    says=N_("Black to white in steps the eye counts as equal."),
    teaching=Teaching(
        place=5,
        see=N_("Squint: between even steps every edge is equally clear."),
        mistake=N_("Steps crowd together at one end and leap at the other."),
        say=N_("Make both ends first, then the middle, then halve what is left."),
        easier=N_("Five steps."),
        harder=N_("Nine or more steps, or a hue in place of grey."),
        ask=N_("Which two steps can you hardly tell apart?"),
    ),
    options=ScaleOptions,
    ask=_ask,
    from_picture=_from_picture,
    without_paints=_ask_plainly,
    plot=Plot.STAIR,
    traits=frozenset({Trait.ONE_SCALE}),
    tolerances=by_level(value=(0.7, 0.5, 0.3)),
    weights=weights(value=2, evenness=2, neutral=1),
    turn=1,
)
