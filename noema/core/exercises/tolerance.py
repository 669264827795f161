"""How far a cell may lie from its step and still hold: usual for a kind and level, or chosen."""

import csv
from dataclasses import dataclass
from pathlib import Path

from noema.core.errors import BadExercise
from noema.core.exercises.levels import Level

_TABLE = Path(__file__).parent / "data" / "tolerances.csv"
_ANY = "*"
_WIDEST = {"hue": 25.0, "value": 5.0, "chroma": 12.0}


@dataclass(frozen=True, kw_only=True)
class Tolerance:
    """Rooms for drift; None where a kind doesn't ask for it."""

    hue: float | None  # steps of the hundred-step circle
    value: float
    chroma: float | None

    def __post_init__(self) -> None:
        for name, widest in _WIDEST.items():
            room = getattr(self, name)
            if room is not None and not 0.05 <= room <= widest:
                raise BadExercise(
                    f"A tolerance of {room:g} in {name} makes no sense: "
                    f"choose one between 0.05 and {widest:g}."
                )

    @property
    def said(self) -> str:
        """The rooms in words.

        >>> Tolerance(hue=4.0, value=0.8, chroma=None).said
        'hue within 4, value within 0.8'
        """
        rooms = ((name, getattr(self, name)) for name in _WIDEST)
        return ", ".join(f"{name} within {room:g}" for name, room in rooms if room is not None)


def usual_tolerance(kind: str, level: Level) -> Tolerance:
    """Give the tolerances a kind has at a level, where a teacher chose no others.

    >>> usual_tolerance("value-scale", Level.ADVANCED)
    Tolerance(hue=None, value=0.3, chroma=None)
    """
    return _USUAL.get((kind, level), _USUAL[(_ANY, level)])


def _load() -> dict[tuple[str, Level], Tolerance]:
    with _TABLE.open(encoding="utf-8", newline="") as file:
        rows = csv.DictReader(line for line in file if not line.startswith("#"))
        return {
            (row["kind"], Level(row["level"])): Tolerance(
                hue=_room(row["hue"]), value=float(row["value"]), chroma=_room(row["chroma"])
            )
            for row in rows
        }


def _room(text: str) -> float | None:
    return float(text) if text else None


_USUAL = _load()
