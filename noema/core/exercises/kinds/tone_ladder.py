"""The tone ladder: each tube with more and more grey of its own value."""

from functools import partial

from noema.core.colour.hvc import hvc_of
from noema.core.exercises.asked import Even
from noema.core.exercises.from_paints import dark_of, white_of
from noema.core.exercises.kind import Kind, Plot, weights
from noema.core.exercises.ladder import Ladder, LadderOptions, ladder
from noema.core.exercises.paths import even_stops, way_between
from noema.core.exercises.teaching import Teaching
from noema.core.language import N_
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube


def _to_grey(tube: Tube, paints: PaintSet) -> tuple[Part, ...]:
    """Give the grey of the tube's own value, from the set's dark and white."""
    surface = paints.binder.dry
    value = hvc_of(lab_of_parts([Part(tube=tube, amount=1.0)], surface)).value
    white = (Part(tube=white_of(paints), amount=1.0),)
    stops = even_stops(way_between(dark_of(paints), white, surface), 41, Even.VALUE, surface)
    return min(stops, key=lambda stop: abs(hvc_of(stop.lab).value - value)).parts


_LADDER = Ladder(
    kind="tone-ladder",
    name=N_("Tone ladder"),
    end=N_("the grey"),
    to=_to_grey,
    how_to=N_(
        "Mix a grey of the colour's own value first; then let the colour take it step by step."
    ),
)

KIND = Kind(
    name=_LADDER.kind,
    label=_LADDER.name,
    says=N_("Each tube with more and more grey of its own value."),
    teaching=Teaching(
        place=7,
        see=N_(
            "A grey of the tube's own value takes intensity away and leaves light and dark alone."
        ),
        mistake=N_("The grey is darker than the tube, so that the whole row darkens."),
        say=N_(
            "Match the grey to the tube before you begin: squint until the edge between them goes."
        ),
        easier=N_("Three steps of one tube."),
        harder=N_("Steps of a light and of a dark tube, each with its own grey."),
        ask=N_("Does the last step still have a hue?"),
    ),
    options=LadderOptions,
    ask=partial(ladder, what=_LADDER),
    plot=Plot.PATH,
    weights=weights(hue=1, value=1, intensity=2, evenness=2),
    turn=5,
)
