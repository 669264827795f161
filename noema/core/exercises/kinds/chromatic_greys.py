"""Chromatic greys: steered from warm to cool by their parts."""

from dataclasses import dataclass

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, Band, Even, Ground
from noema.core.exercises.cells import then_dry
from noema.core.exercises.from_paints import greyest_pairs, white_of
from noema.core.exercises.kind import Kind, Trait, weights
from noema.core.exercises.options import Options, number
from noema.core.exercises.paths import cells_of_row, even_stops, way_between
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import by_level
from noema.core.language import N_, gettext, said_together
from noema.core.pigments.mix import Part
from noema.core.pigments.partners import white_to_show
from noema.core.pigments.tube import Tube

_STEPS = (5, 7, 9)


@dataclass(frozen=True, kw_only=True)
class GreyOptions(Options):
    """What may be chosen of chromatic greys."""

    steps: int = number(N_("Steps"), _STEPS, 7, N_("Cells of a row, both ends with them."))


def _ask(chosen: GreyOptions, ground: Ground) -> Asked:
    steps = chosen.steps
    surface = ground.paints.binder.dry
    white = white_of(ground.paints)
    found = greyest_pairs(ground, 5)
    if not found:
        raise BadExercise(gettext("Greys are steered between two colours: choose a set with two."))
    bands = []
    for row, pair in enumerate(found, start=1):
        warm, cool = (_greyed(tube, pair.parts, white) for tube in pair.tubes)
        stops = even_stops(way_between(warm, cool, surface), steps, Even.DISTANCE, surface)
        notes = [
            gettext("Grey %(n)s of %(steps)s, steered by its parts.", n=n, steps=steps)
            for n in range(1, steps + 1)
        ]
        cells = cells_of_row(stops, row, notes)
        label = said_together([tube.label for tube in pair.tubes])
        bands.append(Band(label=label, cells=cells, even=Even.DISTANCE))
    return Asked(
        kind=KIND.name,
        title=gettext("Chromatic greys, %(steps)s steps", steps=steps),
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            gettext(
                "Mix both ends of a row with white first: the two tubes, each greyed a little."
            ),
            gettext("Steer from warm to cool by small touches; keep the value the same."),
            then_dry(gettext("Clean the knife between mixes.")),
        ),
    )


def _greyed(tube: Tube, dark: tuple[Part, ...], white: Tube) -> tuple[Part, ...]:
    """Lean a neutral towards one of its tubes, let down to a middle grey."""
    leaning = [Part(tube=p.tube, amount=p.amount * (3.0 if p.tube == tube else 1.0)) for p in dark]
    return (*leaning, Part(tube=white, amount=white_to_show(leaning)))


KIND = Kind(
    name="chromatic-greys",
    label=N_("Chromatic greys"),
    says=N_("Greys steered from warm to cool."),
    teaching=Teaching(
        place=10,
        see=N_("A touch of a warm or a cool colour steers a grey and leaves it a grey."),
        mistake=N_("The greys turn into colours: too much of the tube that steers."),
        say=N_(
            "Look at each beside a plain grey, and let a little down with white to see its lean."
        ),
        easier=N_("Five steps."),
        harder=N_("All steps of one value."),
        ask=N_("Where does warm end and cool begin?"),
    ),
    options=GreyOptions,
    ask=_ask,
    traits=frozenset({Trait.ANY_TUBE_STEERS}),
    tolerances=by_level(hue=(8.0, 6.0, 4.0), value=(0.7, 0.5, 0.3), chroma=(1.2, 0.9, 0.6)),
    weights=weights(hue=2, value=1, evenness=2, neutral=1),
    turn=6,
)
