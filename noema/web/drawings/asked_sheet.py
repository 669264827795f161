"""An exercise in its expected colours, as it will lie on the paper."""

from dataclasses import dataclass

from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.asked import Asked
from noema.core.exercises.piles import say_mixes
from noema.core.language import gettext
from noema.core.sheet.layout import Polygon
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import plan_of
from noema.web.drawings.named import SwatchName, names_of, names_shown

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
    middle: tuple[float, float]
    named: SwatchName | None  # where names are shown


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
    names = names_of([one.cell.lab for one in plan.on_paper]) if names_shown() else ()
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
                middle=_middle(one.polygon_mm),
                named=names[n] if names else None,
            )
            for n, (one, fill) in enumerate(zip(plan.on_paper, fills, strict=True))
        ),
        names=tuple((name.text, name.at_mm[0], name.at_mm[1]) for name in plan.names),
        view_box=f"{left:.1f} {top:.1f} {max(xs) - left + _AIR:.1f} {max(ys) - top + _AIR:.1f}",
        said=gettext(
            "%(title)s: %(count)s cells in their expected colours",
            title=asked.title,
            count=len(asked.cells),
        ),
    )


def _middle(polygon: Polygon) -> tuple[float, float]:
    xs, ys = [x for x, _ in polygon], [y for _, y in polygon]
    return round(sum(xs) / len(xs), 2), round(sum(ys) / len(ys), 2)


def _said(label: str, note: str, parts: str) -> str:
    said = f"{gettext(note)} {parts}"
    return f"{gettext(label)}: {said}" if label else said
