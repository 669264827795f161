"""Sets to ask exercises of, and every kind with choices that suit it."""

from functools import cache

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Asked, Ground, Wanted
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.levels import Key
from noema.core.pigments.shelf import builtin_set

SETS = ("split-six+black", "three-printers", "muted-earths", "darks")

CHOICES = {
    "value-scale": (Wanted(steps=11), Wanted(steps=7, hue="red")),
    "colour-wheel": (Wanted(), Wanted(hues=24), Wanted(hues=6, rings=("tint-out", "grey"))),
    "tint-ladder": (Wanted(), Wanted(steps=11)),
    "shade-ladder": (Wanted(),),
    "tone-ladder": (Wanted(steps=5),),
    "intensity-chart": (Wanted(), Wanted(steps=9, tints=True)),
}


@cache
def asked(kind: str, wanted: Wanted, name: str, key: Key = Key.PAINTS) -> Asked:
    ground = Ground(paints=builtin_set(name), table=USUAL_HUES, key=key)
    return kind_of(kind).asked(wanted, ground)


EVERY = [
    (kind, wanted, name)
    for kind in KINDS
    for wanted in CHOICES.get(kind, (Wanted(),))
    for name in SETS
]
"""Every kind, with its usual and some other choices, of every set."""
