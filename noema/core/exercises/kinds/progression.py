"""Progressions: one hue led towards others, and every branch lightened in steps.

A class sees in it how a mix lightened with white turns chalky, where pale yellow keeps it lively.
"""

from dataclasses import dataclass

import numpy as np

from noema.core.colour.names import hue_step
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, Band, Even, Ground
from noema.core.exercises.cells import then_dry
from noema.core.exercises.from_paints import pure, white_of
from noema.core.exercises.from_picture import PictureFacts
from noema.core.exercises.kind import Kind, Plot, weights
from noema.core.exercises.options import (
    Lab,
    Options,
    hue_or_tube,
    number,
    some_colours,
    some_tubes,
    word,
)
from noema.core.exercises.paths import (
    cells_of_row,
    even_places,
    even_stops,
    stop_of,
    stops_at,
    way_between,
)
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import by_level
from noema.core.language import N_, Term, gettext
from noema.core.pigments.mix import Part
from noema.core.pigments.partners import partner
from noema.core.pigments.qualities import qualities
from noema.core.pigments.recipe import recipe
from noema.core.pigments.says import say_parts
from noema.core.pigments.tube import Role, Tube

_STEPS = range(4, 8)
_FEWEST, _MOST = 3, 5  # branches
_WHITE, _PALE_YELLOW = "white", "pale-yellow"
_LIGHTENERS = ((_WHITE, N_("white")), (_PALE_YELLOW, N_("pale yellow: white with a little yellow")))
_ALONE = Term(N_("by itself"))  # a branch that is led nowhere
_SHOWS = 24.0  # CIEDE2000 from white at which a pale yellow is plainly yellow, and still pale
_YELLOWS = np.geomspace(0.005, 2.0, 60)  # volumes of yellow to one of white
_YELLOW = 6.0  # chroma of a tint from which a tube makes a pale yellow, no beige


@dataclass(frozen=True, kw_only=True)
class ProgressionOptions(Options):
    """What may be chosen of a progression."""

    hue: str = hue_or_tube(
        N_("From"), "red", "red", N_("The hue or tube every branch starts from.")
    )
    spot: tuple[Lab, ...] = some_colours(
        N_("From a colour instead, as L, a, b"),
        N_("A colour of a picture that every branch starts from, in place of a hue."),
        "62.0, 28.5, 51.0",
    )
    tubes: tuple[str, ...] = some_tubes(
        N_("Towards (none ticked: its neighbours and its complement)"),
        N_("Three to five tubes, a branch each; without, neighbours of the hue and what greys it."),
    )
    steps: int = number(
        N_("Steps"), _STEPS, 5, N_("Cells of a branch, from the mix up to the light.")
    )
    lighten: str = word(
        N_("Lighten with"), _LIGHTENERS, _WHITE, N_("What every branch is led up to.")
    )


def _ask(chosen: ProgressionOptions, ground: Ground) -> Asked:
    surface = ground.paints.binder.dry
    base, light = _base(chosen, ground), _light(chosen, ground)
    name = gettext("the spot's colour") if chosen.spot else chosen.hue.replace("-", " ")
    words = dict(_LIGHTENERS)[chosen.lighten].partition(":")[0]
    bands = []
    for row, (label, mix) in enumerate(_branches(chosen, base, ground), start=1):
        stops = even_stops(way_between(mix, light, surface), chosen.steps, Even.DISTANCE, surface)
        cells = cells_of_row(stops, row, _notes(chosen.steps, mix, light))
        bands.append(Band(label=label, cells=cells, even=Even.DISTANCE))
    return Asked(
        kind=KIND.name,
        title=gettext("Progression of %(name)s, with %(words)s", name=name, words=words),
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            gettext(
                "Mix plenty of %(name)s first (%(parts)s): every branch starts from it.",
                name=name,
                parts=say_parts(base),
            ),
            _lead(bands, name),
            gettext(
                "Then lighten each in even steps with %(words)s (%(parts)s). "
                "Which branches stay lively?",
                words=words,
                parts=say_parts(light),
            ),
            then_dry(gettext("Clean the knife between branches.")),
        ),
    )


def _from_picture(facts: PictureFacts) -> ProgressionOptions | None:
    return None if facts.spot is None else ProgressionOptions(spot=(facts.spot,))


def _lead(bands: list[Band], name: str) -> str:
    lead = gettext("Lead each branch halfway to its tube; that is its first cell.")
    if bands[0].label != _ALONE:
        return lead
    return f"{lead} {gettext('The one by itself begins with %(name)s.', name=name)}"


def _base(chosen: ProgressionOptions, ground: Ground) -> tuple[Part, ...]:
    if len(chosen.spot) > 1:
        raise BadExercise(gettext("A progression starts from one colour: give one line."))
    if chosen.spot:
        found = recipe(chosen.spot[0], ground.paints.tubes, ground.paints.binder.dry)
        if found.parts[0].tube.role is Role.WHITE and len(found.parts) == 1:
            raise BadExercise(gettext("A progression starts from a colour: this one is white."))
        return found.parts
    if base := pure(ground, chosen.hue):
        return base
    raise BadExercise(
        gettext(
            "The set %(label)s can't give %(hue)s: start from another hue.",
            label=ground.paints.label,
            hue=chosen.hue,
        )
    )


def _light(chosen: ProgressionOptions, ground: Ground) -> tuple[Part, ...]:
    """Give white, or white with just so much of the set's lightest yellow that it shows."""
    white = Part(tube=white_of(ground.paints), amount=1.0)
    if chosen.lighten == _WHITE:
        return (white,)
    yellows = [tube for tube in ground.paints.colours if _is_yellow(tube, ground)]
    if not yellows:
        raise BadExercise(
            gettext(
                "The set %(label)s has no yellow: lighten with white, or add one.",
                label=ground.paints.label,
            )
        )
    yellow = max(yellows, key=lambda tube: qualities(tube).masstone.value)
    tinted = [(white, Part(tube=yellow, amount=float(amount))) for amount in _YELLOWS]
    surface = ground.paints.binder.dry
    chroma = [float(np.hypot(*stop_of(parts, surface).lab[1:])) for parts in tinted]
    return tinted[int(np.argmin(np.abs(np.array(chroma) - _SHOWS)))]


def _branches(
    chosen: ProgressionOptions, base: tuple[Part, ...], ground: Ground
) -> list[tuple[str, tuple[Part, ...]]]:
    """Give each branch's name and first mix: halfway from the base to a tube, to the eye."""
    surface = ground.paints.binder.dry
    branches = []
    for tube in _towards(chosen, base, ground):
        led = way_between(base, (Part(tube=tube, amount=1.0),), surface)
        halfway = even_places(led.labs, 3, Even.DISTANCE)[1:2]
        branches.append(
            (gettext("to %(tube)s", tube=tube.label), stops_at(led, halfway, surface)[0].parts)
        )
    if len(branches) < _FEWEST and not chosen.tubes:
        branches.insert(0, (_ALONE, base))  # of few tubes: the hue alone beside the others
    if not _FEWEST <= len(branches) <= _MOST:
        raise BadExercise(
            gettext(
                "A progression has %(fewest)s to %(most)s branches towards tubes "
                "other than its own, not %(count)s: choose so many, or a set with "
                "more tubes.",
                fewest=_FEWEST,
                most=_MOST,
                count=len(branches),
            )
        )
    return branches


def _towards(
    chosen: ProgressionOptions, base: tuple[Part, ...], ground: Ground
) -> tuple[Tube, ...]:
    """Give the tubes that were chosen, or the nearest in hue and the one that greys the base."""
    paints, main = ground.paints, max(base, key=lambda part: part.amount).tube
    own = {main} if len(base) == 1 else set()
    if chosen.tubes:
        named = (paints.tube(name) for name in dict.fromkeys(chosen.tubes))
        return tuple(tube for tube in named if tube not in own)
    others = [tube for tube in paints.colours if tube not in own]
    near = sorted(others, key=lambda tube: _apart(main, tube))
    greyed = partner(main, paints.tubes, ground.table).by[:1] if len(others) > 1 else ()
    return tuple(dict.fromkeys((*near[:2], *greyed, *near[2:])))[:_FEWEST]


def _apart(one: Tube, other: Tube) -> float:
    hues = qualities(one).shown.hue100, qualities(other).shown.hue100
    if hues[0] is None or hues[1] is None:
        return 50.0
    return abs(hue_step(hues[0], hues[1]))


def _is_yellow(tube: Tube, ground: Ground) -> bool:
    shown = qualities(tube).shown
    return shown.chroma >= _YELLOW and ground.table.lean(shown).hue == "yellow"


def _notes(steps: int, mix: tuple[Part, ...], light: tuple[Part, ...]) -> list[str]:
    return [
        gettext("The branch as it is led: %(parts)s.", parts=say_parts(mix)),
        *(
            gettext("%(n)s of %(steps)s equal steps up to the light.", n=n, steps=steps - 1)
            for n in range(1, steps - 1)
        ),
        gettext("What it is lightened with: %(parts)s.", parts=say_parts(light)),
    ]


KIND = Kind(
    name="progression",
    label=N_("Progression"),
    says=N_(
        "One hue led towards others and lightened: white turns chalky, pale yellow stays lively."
    ),
    teaching=Teaching(
        place=8,
        see=N_(
            "White alone turns a colour chalky; a pale yellow keeps it alive as it gets lighter."
        ),
        mistake=N_("The hue jumps where it should wander."),
        say=N_("Lead it by its neighbour on the wheel, a touch at each step."),
        easier=N_("Four steps."),
        harder=N_("Seven steps, once with white and once with pale yellow."),
        ask=N_("Where did it lose its life?"),
    ),
    options=ProgressionOptions,
    ask=_ask,
    from_picture=_from_picture,
    plot=Plot.PATH,
    tolerances=by_level(hue=(4.0, 3.0, 2.0), value=(0.9, 0.6, 0.4), chroma=(2.4, 1.7, 1.1)),
    weights=weights(hue=2, value=2, intensity=2, evenness=2),
)
