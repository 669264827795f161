"""An exercise in its expected colours, as it will lie on the paper."""

from dataclasses import dataclass

from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.asked import Asked
from noema.core.exercises.piles import say_mixes
from noema.core.language import gettext
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import plan_of

_AIR = 6.0  # mm shown round the cells


@dataclass(frozen=True, kw_only=True)
class ShownCell:
    """A cell in its expected colour."""

    points: str  # of an SVG polygon, mm
    fill: str
    label: str
    label_x: float
    label_y: float
    said: str
    limited: bool  # the paints can't quite do it


@dataclass(frozen=True, kw_only=True)
class AskedSheet:
    """The page in colour."""

    cells: tuple[ShownCell, ...]
    names: tuple[tuple[str, float, float], ...]
    view_box: str
    said: str


def make_asked_sheet(asked: Asked, paper: Paper) -> AskedSheet:
    """Lay out an exercise's cells in colour; refuses what doesn't fit the paper."""
    plan, mixes = plan_of(asked, paper), say_mixes(asked)
    fills = lab_to_hex([one.cell.lab for one in plan.on_paper])
    xs = [x for one in plan.on_paper for x, _ in one.polygon_mm] + [n.at_mm[0] for n in plan.names]
    ys = [y for one in plan.on_paper for _, y in one.polygon_mm]
    left, top = min(xs) - _AIR, min(ys) - _AIR
    return AskedSheet(
        cells=tuple(
            ShownCell(
                points=" ".join(f"{x:.2f},{y:.2f}" for x, y in one.polygon_mm),
                fill=fill,
                label=one.cell.label,
                label_x=round(one.label_mm[0], 2),
                label_y=round(one.label_mm[1], 2),
                said=_said(one.cell.label, one.cell.note, mixes.get(one.cell.id, "")),
                limited=bool(one.cell.limit),
            )
            for one, fill in zip(plan.on_paper, fills, strict=True)
        ),
        names=tuple((name.text, name.at_mm[0], name.at_mm[1]) for name in plan.names),
        view_box=f"{left:.1f} {top:.1f} {max(xs) - left + _AIR:.1f} {max(ys) - top + _AIR:.1f}",
        said=gettext(
            "%(title)s: %(count)s cells in their expected colours",
            title=asked.title,
            count=len(asked.cells),
        ),
    )


def _said(label: str, note: str, parts: str) -> str:
    return f"{label}: {note} {parts}" if label else f"{note} {parts}"
