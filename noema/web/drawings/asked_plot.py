"""What an exercise expects, drawn true to how painters think of it, before or after painting.

The value scale is a stair, the intensity chart a bridge through neutral, ladders are paths; all
others lie on the wheel seen from above. Painted colours, where there are any, are joined to theirs.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.asked import Asked, AskedCell, Even, Lab
from noema.core.exercises.kind import Plot
from noema.core.exercises.naming import cell_names
from noema.core.language import gettext
from noema.web.drawings.stair import even_path
from noema.web.drawings.wheel import MIDDLE, SIZE, point

WIDTH, HEIGHT = 540.0, 280.0
_LEFT, _TOP, _BOTTOM = 40.0, 14.0, 30.0
_RIM = 16.0  # chroma at which hues are named
_LEAST_CHROMA = 8.0  # drawn at least this far out

Place = tuple[float, float]


@dataclass(frozen=True, kw_only=True)
class Dot:
    """A cell on the plot."""

    id: str
    x: float
    y: float
    fill: str
    said: str
    painted_x: float | None  # where it was painted
    painted_y: float | None
    painted_fill: str


@dataclass(frozen=True, kw_only=True)
class AskedPlot:
    """The whole plot."""

    says: str  # what it shows, for those who can't see it and under the picture
    view_box: str
    lines: tuple[tuple[str, float, float, str], ...]  # path, and where its name stands
    ways: tuple[str, ...]  # paths through the expected cells of a row
    dots: tuple[Dot, ...]
    radius: float


def make_asked_plot(
    asked: Asked, plot: Plot, table: HueTable, painted: Mapping[str, Lab] | None = None
) -> AskedPlot:
    """Draw an exercise; with the painted colours by cell where there are some."""
    hvcs = {cell.id: cell.hvc for cell in asked.cells}
    seen = dict(painted or {})
    seen_hvcs = dict(zip(seen, hvcs_of(np.array(list(seen.values()))), strict=True)) if seen else {}
    most = max([_LEAST_CHROMA, *(hvc.chroma for hvc in (*hvcs.values(), *seen_hvcs.values()))])
    frame = _FRAMES[plot](asked, most, table)
    fills = lab_to_hex([cell.lab for cell in asked.cells])
    seen_fills = dict(zip(seen, lab_to_hex(list(seen.values())), strict=True)) if seen else {}
    names = cell_names(asked)
    places = {cell.id: frame.place(cell, cell.hvc) for cell in asked.cells}
    dots = []
    for cell, fill in zip(asked.cells, fills, strict=True):
        x, y = places[cell.id]
        seen_at = frame.place(cell, seen_hvcs[cell.id]) if cell.id in seen_hvcs else None
        dots.append(
            Dot(
                id=cell.id,
                x=x,
                y=y,
                fill=fill,
                said=f"{names[cell.id]}: {_said(cell.hvc)}",
                painted_x=seen_at[0] if seen_at else None,
                painted_y=seen_at[1] if seen_at else None,
                painted_fill=seen_fills.get(cell.id, ""),
            )
        )
    return AskedPlot(
        says=frame.says,
        view_box=frame.view_box,
        lines=frame.lines,
        ways=frame.ways or _ways(asked, places),
        dots=tuple(dots),
        radius=frame.radius,
    )


@dataclass(frozen=True, kw_only=True)
class _Frame:
    says: str
    view_box: str
    lines: tuple[tuple[str, float, float, str], ...]
    place: Callable[[AskedCell, HVC], Place]
    radius: float
    ways: tuple[str, ...] = ()


def _above(_asked: Asked, _most: float, table: HueTable) -> _Frame:
    rings = tuple(
        (_circle(chroma), MIDDLE + 3.0, point(25.0, chroma)[1] - 3.0, f"{chroma:g}")
        for chroma in (4.0, 8.0, 12.0)
    )
    names = tuple(("", *point(hue.hue100, _RIM), hue.name) for hue in table.hues(6))
    return _Frame(
        says=gettext(
            "The wheel from above: neutral in the middle, chroma outwards (rings at 4, 8, 12)."
        ),
        view_box=f"0 20 {SIZE:g} {SIZE - 40:g}",
        lines=(*rings, *names),
        place=lambda _cell, hvc: point(hvc.hue100, hvc.chroma),
        radius=11.0,
    )


def _stair(asked: Asked, _most: float, _table: HueTable) -> _Frame:
    order = {cell.id: n for n, cell in enumerate(asked.cells)}
    width = (WIDTH - 34.0) / len(order)

    def place(cell: AskedCell, hvc: HVC) -> Place:
        return round(34.0 + (order[cell.id] + 0.5) * width, 1), _value_y(hvc.value)

    return _Frame(
        says=gettext("The stair: value up, step by step."),
        view_box=f"0 0 {WIDTH:g} {HEIGHT:g}",
        lines=_value_lines(),
        place=place,
        radius=7.0,
        ways=(even_path([cell.hvc.value for cell in asked.cells]),),
    )


def _path(asked: Asked, most: float, _table: HueTable) -> _Frame:
    def place(_cell: AskedCell, hvc: HVC) -> Place:
        return round(_LEFT + (WIDTH - _LEFT - 20.0) * hvc.chroma / most, 1), _value_y(hvc.value)

    return _Frame(
        says=gettext("Paths: value up, chroma to the right; each row a way of its own."),
        view_box=f"0 0 {WIDTH:g} {HEIGHT:g}",
        lines=_value_lines(),
        place=place,
        radius=7.0,
    )


def _bridge(asked: Asked, most: float, _table: HueTable) -> _Frame:
    along: dict[str, float] = {}
    for band in asked.bands:
        count = len(band.cells)
        along |= {cell.id: (n + 0.5) / count for n, cell in enumerate(band.cells)}
    room = HEIGHT - _TOP - _BOTTOM

    def place(cell: AskedCell, hvc: HVC) -> Place:
        x = _LEFT + (WIDTH - _LEFT) * along[cell.id]
        return round(x, 1), round(_TOP + room * (1.0 - hvc.chroma / most), 1)

    ticks = [chroma for chroma in (0.0, 4.0, 8.0, 12.0, 16.0) if chroma <= most]
    return _Frame(
        says=gettext(
            "The bridge: chroma falls from one hue to the neutral and rises to the other."
        ),
        view_box=f"0 0 {WIDTH:g} {HEIGHT:g}",
        lines=tuple(_line(_TOP + room * (1.0 - c / most), f"{c:g}") for c in ticks),
        place=place,
        radius=7.0,
    )


def _ways(asked: Asked, places: Mapping[str, Place]) -> tuple[str, ...]:
    """Join the expected cells of a row, or round a ring."""
    return tuple(
        _joined([places[cell.id] for cell in band.cells], closed=band.even is Even.HUE)
        for band in asked.bands
        if band.even is not Even.NOT or any(c.role.stands_apart for c in band.cells)
    )


def _joined(places: Sequence[Place], *, closed: bool) -> str:
    return "M" + "L".join(f"{x} {y}" for x, y in places) + ("Z" if closed else "")


def _value_lines() -> tuple[tuple[str, float, float, str], ...]:
    return tuple(_line(_value_y(value), f"{value:g}") for value in (0.0, 2.0, 4.0, 6.0, 8.0, 10.0))


def _line(y: float, name: str) -> tuple[str, float, float, str]:
    return f"M34 {y:.1f}H{WIDTH:g}", 24.0, round(y + 4.0, 1), name


def _circle(chroma: float) -> str:
    radius = round(abs(MIDDLE - point(25.0, chroma)[1]), 1)
    return (
        f"M{MIDDLE - radius} {MIDDLE}a{radius} {radius} 0 1 0 {2 * radius} 0"
        f"a{radius} {radius} 0 1 0 {-2 * radius} 0"
    )


def _value_y(value: float) -> float:
    room = HEIGHT - 10.0 - 26.0  # as the stair of a judged sheet
    return round(10.0 + room * (1.0 - max(0.0, min(10.0, value)) / 10.0), 1)


def _said(hvc: HVC) -> str:
    return f"{hvc.notation} {hvc.value:.1f}/{hvc.chroma:.1f}"


_FRAMES = {Plot.ABOVE: _above, Plot.STAIR: _stair, Plot.PATH: _path, Plot.BRIDGE: _bridge}
