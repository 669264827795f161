"""Units to start from, each to be changed as a class likes."""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from noema.core.exercises.media import Medium
from noema.core.language import N_
from noema.core.planning.frame import Wish

_TABLE = Path(__file__).parent / "data" / "ready_units.toml"


@dataclass(frozen=True, kw_only=True)
class ReadyUnit:
    """An ordered wish for exercises."""

    id: str
    label: str  # to be looked up in the reader's language
    wishes: tuple[Wish, ...]


_LABELS = {
    "six-weeks-acrylic": N_("Six weeks of beginners, acrylic"),
    "first-term-gouache": N_("A school year's first term, twelve weeks, gouache"),
    "evening-watercolour": N_("An evening class, watercolour"),
}


def _load() -> dict[str, ReadyUnit]:
    with _TABLE.open("rb") as file:
        units = tomllib.load(file)["unit"]
    return {unit["id"]: _unit(unit) for unit in units}


def _unit(unit: Mapping[str, Any]) -> ReadyUnit:
    wishes: list[Wish] = []
    for one in unit["wish"]:
        wishes.append(
            Wish(
                id=one["kind"],
                kind=one["kind"],
                medium=Medium(unit["medium"]),
                options=one.get("options", {}),
                set_ref=unit["set"],
                after=(wishes[-1].id,) if wishes else (),
                redo=one.get("redo", False),
            )
        )
    return ReadyUnit(id=unit["id"], label=_LABELS[unit["id"]], wishes=tuple(wishes))


READY = _load()
