"""The shade ladder: each tube with more and more black, or a mixed dark."""

from functools import partial

from noema.core.exercises.from_paints import dark_of
from noema.core.exercises.kind import Kind, Plot, weights
from noema.core.exercises.ladder import Ladder, LadderOptions, ladder
from noema.core.exercises.teaching import Teaching
from noema.core.language import N_
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube


def _to_dark(_tube: Tube, paints: PaintSet) -> tuple[Part, ...]:
    return dark_of(paints)


_LADDER = Ladder(
    kind="shade-ladder",
    name=N_("Shade ladder"),
    end=N_("the dark"),
    to=_to_dark,
    how_to=N_("Start from the colour and bring the dark in on the tip of the knife."),
)

KIND = Kind(
    name=_LADDER.kind,
    label=_LADDER.name,
    says=N_("Each tube with more and more black, or a mixed dark."),
    teaching=Teaching(
        place=6,
        see=N_("A little dark goes far: hue and intensity change together with value."),
        mistake=N_("The second step is nearly black: too much dark at once."),
        say=N_(
            "Bring the dark to the colour on the tip of the brush, never the colour to the dark."
        ),
        easier=N_("Three steps of one tube."),
        harder=N_("Black and a mixed dark side by side."),
        ask=N_("Which hue changed as it got darker, and towards what?"),
    ),
    options=LadderOptions,
    ask=partial(ladder, what=_LADDER),
    plot=Plot.PATH,
    weights=weights(hue=1, value=2, intensity=1, evenness=2),
)
