"""Sets to ask exercises of, and every kind with choices that suit it."""

from functools import cache

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.levels import Key
from noema.core.exercises.media import Medium
from noema.core.pigments.shelf import builtin_set

Choices = tuple[tuple[str, object], ...]


def choose(**values: object) -> Choices:
    """Name what is chosen of a kind."""
    return tuple(values.items())


SETS = ("split-six+black", "three-printers", "muted-earths", "darks")

CHOICES = {
    "value-scale": (choose(steps=11), choose(steps=7, hue="red")),
    "colour-wheel": (choose(), choose(hues=24), choose(hues=6, rings=("tint-out", "grey"))),
    "tint-ladder": (choose(), choose(steps=11)),
    "shade-ladder": (choose(),),
    "tone-ladder": (choose(steps=5),),
    "intensity-chart": (choose(), choose(steps=9, tints=True)),
}


@cache
def asked(kind: str, choices: Choices, name: str, key: Key = Key.PAINTS) -> Asked:
    ground = Ground(paints=builtin_set(name), table=USUAL_HUES, key=key)
    return kind_of(kind).asked(kind_of(kind).chosen(dict(choices)), ground)


def plain(steps: int, medium: Medium = Medium.ACRYLIC) -> Asked:
    """Give a value scale of no paints in particular."""
    scale = kind_of("value-scale")
    return scale.asked_plainly(scale.chosen({"steps": steps}), medium)


EVERY = [
    (kind, wanted, name)
    for kind in KINDS
    for wanted in CHOICES.get(kind, (choose(),))
    for name in SETS
]
"""Every kind, with its usual and some other choices, of every set."""
