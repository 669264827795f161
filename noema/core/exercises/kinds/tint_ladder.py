"""The tint ladder: each tube with more and more white, or water."""

from functools import partial

from noema.core.exercises.from_paints import white_of
from noema.core.exercises.kind import Kind, Plot, weights
from noema.core.exercises.ladder import Ladder, LadderOptions, ladder
from noema.core.exercises.teaching import Teaching
from noema.core.language import N_
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube


def _to_white(_tube: Tube, paints: PaintSet) -> tuple[Part, ...]:
    return (Part(tube=white_of(paints), amount=1.0),)


_LADDER = Ladder(
    kind="tint-ladder",
    name=N_("Tint ladder"),
    end=N_("white"),
    to=_to_white,
    how_to=N_(
        "Start from white and bring the colour in by small touches; strong tubes need a trace."
    ),
    washes=True,
)

KIND = Kind(
    name=_LADDER.kind,
    label=_LADDER.name,
    says=N_("Each tube with more and more white, or water."),
    teaching=Teaching(
        place=4,
        see=N_(
            "A deep tube gains intensity from the first touch of white, then turns paler and "
            "cooler."
        ),
        mistake=N_("The first steps are pale already: too much white at once."),
        say=N_("At the deep end add white to colour, at the pale end add colour to white."),
        easier=N_("Three steps of one tube."),
        harder=N_("A weak and a strong tube side by side, in equal steps."),
        ask=N_("Where in the row is it most intense?"),
    ),
    options=LadderOptions,
    ask=partial(ladder, what=_LADDER),
    plot=Plot.PATH,
    weights=weights(hue=1, value=2, intensity=1, evenness=2),
    turn=2,
)
