"""Small multiples of drift: a column a cell, a dot a student, for hue, value and intensity."""

from collections.abc import Sequence
from dataclasses import dataclass

from noema.core.language import gettext
from noema.core.progress.class_patterns import CellDrifts

COLUMN, HEIGHT, LEFT = 30.0, 96.0, 96.0
_MOST_ROOMS = 3.0
_SPREAD = 4.0  # between dots at the same place
_PLACES = 5  # beside each other


@dataclass(frozen=True, kw_only=True)
class Column:
    """One cell."""

    id: str
    label: str
    middle: float
    said: str


@dataclass(frozen=True, kw_only=True)
class Quantity:
    """One row of the small multiples."""

    name: str
    up: str  # what lies above the middle
    down: str
    dots: str  # SVG path of points


@dataclass(frozen=True, kw_only=True)
class DriftField:
    """All of it."""

    columns: tuple[Column, ...]
    quantities: tuple[Quantity, ...]
    width: float
    height: float = HEIGHT
    left: float = LEFT
    within_from: float = HEIGHT / 2 - HEIGHT / 2 / _MOST_ROOMS
    room_high: float = HEIGHT / _MOST_ROOMS


def make_field(cells: Sequence[CellDrifts]) -> DriftField:
    """Draw the drifts of all students."""
    rows = (
        (gettext("hue"), gettext("up the circle"), gettext("down"), [cell.hue for cell in cells]),
        (gettext("value"), gettext("lighter"), gettext("darker"), [cell.value for cell in cells]),
        (
            gettext("intensity"),
            gettext("more intense"),
            gettext("duller"),
            [cell.chroma for cell in cells],
        ),
    )
    return DriftField(
        columns=tuple(
            Column(
                id=cell.id,
                label=cell.label if len(cell.label) < 4 else str(n + 1),
                middle=_middle(n),
                said=f"{gettext(cell.label)}: {_astray(cell)}",
            )
            for n, cell in enumerate(cells)
        ),
        quantities=tuple(
            Quantity(name=name, up=up, down=down, dots=_dots(drifts))
            for name, up, down, drifts in rows
            if any(drifts)
        ),
        width=LEFT + COLUMN * len(cells) + 8.0,
    )


def _middle(n: int) -> float:
    return LEFT + COLUMN * (n + 0.5)


def _dots(columns: Sequence[Sequence[float]]) -> str:
    """Give points, those that would lie on each other side by side."""
    parts = []
    for n, drifts in enumerate(columns):
        taken: dict[int, int] = {}
        for drift in sorted(drifts):
            y = HEIGHT / 2 - HEIGHT / 2 * max(-1.0, min(1.0, drift / _MOST_ROOMS)) * 0.96
            row = round(y / _SPREAD)
            place = taken.get(row, 0)
            taken[row] = place + 1
            side = ((place % _PLACES) + 1) // 2 * (1 if place % 2 else -1)
            parts.append(f"M{_middle(n) + side * _SPREAD:.1f} {y:.1f}h0")
    return "".join(parts)


def _astray(cell: CellDrifts) -> str:
    counted = len(cell.value)
    said = [
        gettext(
            "%(off)s of %(counted)s off in %(name)s",
            off=sum(abs(one) > 1.0 for one in drifts),
            counted=counted,
            name=name,
        )
        for name, drifts in (
            (gettext("hue"), cell.hue),
            (gettext("value"), cell.value),
            (gettext("intensity"), cell.chroma),
        )
        if drifts
    ]
    return ", ".join(said) or gettext("nothing counts")
