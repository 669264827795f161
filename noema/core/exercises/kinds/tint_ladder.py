"""The tint ladder: each tube with more and more white, or water."""

from functools import partial

from noema.core.exercises.from_paints import white_of
from noema.core.exercises.kind import Kind, Plot, weights
from noema.core.exercises.ladder import Ladder, LadderOptions, ladder
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
    options=LadderOptions,
    ask=partial(ladder, what=_LADDER),
    plot=Plot.PATH,
    weights=weights(hue=1, value=2, intensity=1, evenness=2),
    turn=2,
)
