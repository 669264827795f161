"""The shade ladder: each tube with more and more black, or a mixed dark."""

from functools import partial

from noema.core.exercises.from_paints import dark_of
from noema.core.exercises.kind import Kind, Plot, weights
from noema.core.exercises.ladder import Ladder, LadderOptions, ladder
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
    options=LadderOptions,
    ask=partial(ladder, what=_LADDER),
    plot=Plot.PATH,
    weights=weights(hue=1, value=2, intensity=1, evenness=2),
)
