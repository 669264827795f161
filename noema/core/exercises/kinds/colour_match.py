"""The colour match: given colours, mixed to match."""

from dataclasses import dataclass

import numpy as np

from noema.core.colour.hvc import hvc_to_lab
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, Ground
from noema.core.exercises.cells import limits_said, then_dry
from noema.core.exercises.from_picture import PictureFacts
from noema.core.exercises.kind import Kind, Trait, weights
from noema.core.exercises.levels import Level
from noema.core.exercises.options import Lab, Options, at_level, number, some_colours
from noema.core.exercises.paths import Stop, cell_of
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import by_level
from noema.core.language import N_, gettext
from noema.core.pigments.reach import VALUES, reach
from noema.core.pigments.recipe import Recipe, recipe
from noema.core.pigments.says import say_left, say_parts

_COUNTS = range(4, 13)
_OF_REACH = {  # share of the reach at which targets are set: the duller, the more goes into a mix
    Level.BEGINNER: 0.85,
    Level.INTERMEDIATE: 0.65,
    Level.ADVANCED: 0.4,
}
_MISSED = 2.5  # CIEDE2000 from which a target counts as out of reach
_ACROSS = 4  # targets in a row


@dataclass(frozen=True, kw_only=True)
class MatchOptions(Options):
    """What may be chosen of a colour match."""

    targets: tuple[Lab, ...] = some_colours(
        N_("Colours to match, a line each: L, a, b or a mix (left empty: picked by level)"),
        N_("The colours to match; without, they are picked by level."),
        "62.0, 28.5, 51.0\nwarm-yellow:4, ultramarine:1",
    )
    count: int = number(N_("Colours"), _COUNTS, 6, N_("How many are picked."))
    level: Level | None = at_level(N_("How far from the tubes colours are picked."))


def _ask(chosen: MatchOptions, ground: Ground) -> Asked:
    level = chosen.level or Level.INTERMEDIATE
    targets = chosen.targets or _picked(chosen.count, level, ground)
    if len(targets) not in _COUNTS:
        raise BadExercise(
            gettext(
                "A match has %(fewest)s to %(most)s colours, not %(count)s.",
                fewest=_COUNTS[0],
                most=_COUNTS[-1],
                count=len(targets),
            )
        )
    found = [recipe(target, ground.paints.tubes, ground.paints.binder.dry) for target in targets]
    cells = [_match_cell(n, one, ground) for n, one in enumerate(found, start=1)]
    bands = [
        Band(label="", cells=tuple(cells[start : start + _ACROSS]))
        for start in range(0, len(cells), _ACROSS)
    ]
    return Asked(
        kind=KIND.name,
        title=gettext("Colour match, %(count)s colours", count=len(cells)),
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            gettext("Look first: how light is it? Which hue? How intense? Then mix in that order."),
            gettext(
                "Put a touch beside the printed colour and squint: value first, "
                "then hue, then intensity."
            ),
            then_dry(gettext("Clean the knife between mixes.")),
        ),
        concerns=limits_said(
            cells,
            lambda cell: gettext("Colour %(label)s", label=cell.label),
            gettext("take another colour, or a set with a stronger tube"),
        ),
        shows_targets=True,
    )


def _from_picture(facts: PictureFacts) -> MatchOptions | None:
    if len(facts.spots) not in _COUNTS:
        return None
    return MatchOptions(targets=facts.spots)


def _picked(count: int, by: Level, ground: Ground) -> tuple[tuple[float, float, float], ...]:
    """Pick colours round the wheel, light and dark in turn, well inside the set's reach."""
    highest = reach(ground.paints.tubes)
    hues = np.flatnonzero(highest.max(axis=1) > 1.0)
    picked = hues[np.linspace(0, len(hues), count, endpoint=False).astype(int)]
    labs = []
    for n, hue in enumerate(picked):
        able = np.flatnonzero(highest[hue] >= 0.7 * highest[hue].max())
        level = able[0] if n % 2 else able[-1]
        chroma = _OF_REACH[by] * highest[hue, level]
        labs.append(hvc_to_lab([hue * 2.5, VALUES[level], chroma]).tolist())
    found = [recipe(lab, ground.paints.tubes, ground.paints.binder.dry) for lab in labs]
    return tuple(one.lab for one in found)


def _match_cell(n: int, found: Recipe, ground: Ground) -> AskedCell:
    limit = say_left(found, ground.table) if found.away > _MISSED else ""
    stop = Stop(parts=found.parts, lab=found.lab)
    return cell_of(
        stop,
        f"m{n}",
        str(n),
        gettext("Nearest mix: %(parts)s.", parts=say_parts(found.parts)),
        limit=limit,
    )


KIND = Kind(
    name="colour-match",
    label=N_("Colour match"),
    says=N_("Given colours, mixed to match: value first, then hue, then intensity."),
    teaching=Teaching(
        place=14,
        see=N_(
            "Value first: squint until the edge between target and mix goes; then hue, then "
            "intensity."
        ),
        mistake=N_("The hue is chased before the value is right."),
        say=N_("Squint. Is yours lighter or darker? Mend that first."),
        easier=N_("Four colours near to tubes of the set."),
        harder=N_("Greyer colours, far from every tube."),
        ask=N_("What did you change last, and did it need it?"),
    ),
    options=MatchOptions,
    ask=_ask,
    from_picture=_from_picture,
    traits=frozenset({Trait.VALUE_FIRST, Trait.ANY_TUBE_STEERS, Trait.UNLIKE_NEIGHBOURS}),
    tolerances=by_level(hue=(3.5, 2.5, 1.5), value=(0.6, 0.4, 0.25), chroma=(2.0, 1.4, 0.9)),
    weights=weights(hue=2, value=3, intensity=2),
    turn=9,
)
