"""All kinds of exercise, found by looking into the folder `kinds`."""

from importlib import import_module
from pkgutil import iter_modules
from typing import Any

from noema.core.errors import BadExercise
from noema.core.exercises import kinds
from noema.core.exercises.kind import Kind, Trait
from noema.core.exercises.levels import Level
from noema.core.exercises.tolerance import Tolerance
from noema.core.language import gettext

AnyKind = Kind[Any]
"""A kind whatever its options: its own functions alone know them."""


def kind_of(name: str) -> AnyKind:
    """Find a kind by its name."""
    if name not in KINDS:
        raise BadExercise(
            gettext(
                "There is no exercise “%(name)s”: choose one of %(kinds)s.",
                name=name,
                kinds=", ".join(KINDS),
            )
        )
    return KINDS[name]


def usual_tolerance(kind: str, level: Level) -> Tolerance:
    """Give the tolerances a kind has at a level, where a teacher chose no others."""
    return kind_of(kind).tolerances[level]


def has(kind: str, trait: Trait) -> bool:
    """Say whether a trait is true of a kind."""
    return trait in kind_of(kind).traits


def _found() -> dict[str, AnyKind]:
    modules = [
        import_module(f"{kinds.__name__}.{one.name}") for one in iter_modules(kinds.__path__)
    ]
    found: list[AnyKind] = [module.KIND for module in modules]
    return {kind.name: kind for kind in sorted(found, key=lambda kind: kind.name)}


KINDS = _found()

TRAINING = tuple(
    sorted(
        (name for name, kind in KINDS.items() if kind.turn is not None),
        key=lambda name: KINDS[name].turn or 0,
    )
)
"""Names of the kinds that train a skill, the first learnt first."""

FIRST_KIND = TRAINING[0]
"""The kind a class begins with, and the only one there was at first."""
