"""The pictures on the desk: the sheet with its cells outlined, the key beside it, last time."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import cast

from noema.core.colour.srgb import lab_to_hex
from noema.core.judging.judgement import Judgement
from noema.core.sheet.layout import Layout, Polygon
from noema.core.words.amounts import cell_words, opening
from noema.store.base import Json

_ROUND_MM = 9.0  # shown round a magnified cell
_ROUND_SHARE = 0.03  # the same of a photograph


@dataclass(frozen=True, kw_only=True)
class CellOutline:
    """A cell on a picture."""

    id: str
    points: str  # SVG polygon
    said: str
    fill: str = "none"  # the colour asked for, on the key


@dataclass(frozen=True, kw_only=True)
class Sight:
    """A picture with the cells on it."""

    width: float
    height: float
    outlines: tuple[CellOutline, ...]
    near: str  # view box round the chosen cell; empty where it isn't on the picture

    @property
    def whole(self) -> str:
        """The view box of all of it."""
        return f"0 0 {self.width:g} {self.height:g}"


def sight_of_sheet(layout: Layout, judgement: Judgement, chosen: str) -> Sight:
    """Outline the cells on the straightened sheet, in mm."""
    polygons = {cell.id: cell.polygon_mm for cell in layout.cells}
    size = (layout.width_mm, layout.height_mm)
    return _sight(size, polygons, judgement, chosen, _ROUND_MM)


def sight_of_key(layout: Layout, judgement: Judgement, chosen: str) -> Sight:
    """Draw the sheet as it was asked for: every cell filled with its expected colour."""
    sight = sight_of_sheet(layout, judgement, chosen)
    expected = {cell.id: cell.expected_lab for cell in judgement.cells}
    fills = dict(zip(expected, lab_to_hex(list(expected.values())), strict=True))
    filled = tuple(
        CellOutline(id=one.id, points=one.points, said=one.said, fill=fills[one.id])
        for one in sight.outlines
        if one.id in fills
    )
    return Sight(width=sight.width, height=sight.height, outlines=filled, near=sight.near)


def sight_of_photograph(
    body: Json, size_px: tuple[int, int], judgement: Judgement, chosen: str
) -> Sight:
    """Outline the cells on the photograph itself, as the reader found them."""
    shares = cast(Mapping[str, Sequence[tuple[float, float]]], body.get("outlines", {}))
    width, height = float(size_px[0]), float(size_px[1])
    polygons = {
        cell: tuple((x * width, y * height) for x, y in points) for cell, points in shares.items()
    }
    return _sight((width, height), polygons, judgement, chosen, _ROUND_SHARE * width)


def _sight(
    size: tuple[float, float],
    polygons: Mapping[str, Polygon],
    judgement: Judgement,
    chosen: str,
    margin: float,
) -> Sight:
    names = {cell.id: cell.label for cell in judgement.cells}
    return Sight(
        width=size[0],
        height=size[1],
        outlines=tuple(
            CellOutline(
                id=name,
                points=" ".join(f"{x:.2f},{y:.2f}" for x, y in points),
                said=opening(cell_words(names.get(name, name))),
            )
            for name, points in polygons.items()
        ),
        near=_near(polygons[chosen], margin) if chosen in polygons else "",
    )


def _near(points: Polygon, margin: float) -> str:
    left, top = (min(point[axis] for point in points) - margin for axis in (0, 1))
    right, bottom = (max(point[axis] for point in points) + margin for axis in (0, 1))
    return f"{left:.1f} {top:.1f} {right - left:.1f} {bottom - top:.1f}"
