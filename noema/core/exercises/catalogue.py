"""All kinds of exercise, found by looking into the folder `kinds`."""

from importlib import import_module
from pkgutil import iter_modules

from noema.core.errors import BadExercise
from noema.core.exercises import kinds
from noema.core.exercises.kind import Kind


def kind_of(name: str) -> Kind:
    """Find a kind by its name."""
    if name not in KINDS:
        raise BadExercise(f"There is no exercise “{name}”: choose one of {', '.join(KINDS)}.")
    return KINDS[name]


def _found() -> dict[str, Kind]:
    modules = [
        import_module(f"{kinds.__name__}.{one.name}") for one in iter_modules(kinds.__path__)
    ]
    found = [kind for module in modules for kind in module.KINDS]
    return {kind.name: kind for kind in sorted(found, key=lambda kind: kind.name)}


KINDS = _found()
