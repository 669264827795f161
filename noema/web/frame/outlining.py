"""An outline that is placed over a photograph: what its page shows, and what it sends back."""

from dataclasses import dataclass

from wtforms import Form

from noema.core.errors import BadOutline
from noema.core.language import gettext
from noema.core.photo.by_hand import Outline, box_of
from noema.core.sheet.layout import Layout, Point
from noema.formats.outline_json import outline_from_json
from noema.web.frame.forms import TextLine, Whole


class OutlineForm(Form):
    """An outline as the page writes it, or a person types it: places as "x,y x,y"."""

    sheet = Whole()
    corners = TextLine()
    sides = TextLine()
    paper = TextLine()
    nudges = TextLine()


@dataclass(frozen=True, kw_only=True)
class PlacedCell:
    """A cell to be drawn over the photograph."""

    id: str
    label: str
    corners: str  # "x,y x,y ...": shares of the box round all cells


@dataclass(frozen=True, kw_only=True)
class Outlining:
    """An outline over a photograph, as its page needs it."""

    photo: str  # its address
    size_px: tuple[int, int]
    box_mm: tuple[float, float]
    cells: tuple[PlacedCell, ...]
    corners: str
    sides: str
    paper: str
    nudges: str


def outlining(
    photo: str, size_px: tuple[int, int], layout: Layout, outline: Outline, sent: OutlineForm | None
) -> Outlining:
    """Give what is shown; what was just refused as it was sent, so that it can be put right."""
    box, sent = box_of(layout), sent or OutlineForm()
    return Outlining(
        photo=photo,
        size_px=size_px,
        box_mm=(box[2][0] - box[0][0], box[2][1] - box[0][1]),
        cells=_cells(layout),
        corners=sent.corners.data or _said(outline.corners),
        sides=sent.sides.data or _said(outline.sides),
        paper=sent.paper.data or _said(outline.paper),
        nudges=sent.nudges.data or _said_nudges(outline),
    )


def outline_sent(given: OutlineForm) -> Outline:
    """Read the outline that was sent."""
    return outline_from_json(
        {
            **{name: _points(name, given[name].data) for name in ("corners", "sides", "paper")},
            "nudges": dict(_nudge(part) for part in given.nudges.data.split()),
        }
    )


def _cells(layout: Layout) -> tuple[PlacedCell, ...]:
    box = box_of(layout)
    (left, top), (right, bottom) = box[0], box[2]
    return tuple(
        PlacedCell(
            id=cell.id,
            label=cell.label,
            corners=_said(
                tuple(
                    ((x - left) / (right - left), (y - top) / (bottom - top))
                    for x, y in cell.polygon_mm
                )
            ),
        )
        for cell in layout.cells
    )


def _points(name: str, text: str) -> list[list[float]]:
    """Read "x,y x,y": what the page writes and a person may type."""
    try:
        return [[float(one) for one in part.split(",")] for part in text.split()]
    except ValueError as wrong:
        raise BadOutline(
            gettext("Write the %(name)s as pairs like 0.25,0.5 with blanks between.", name=name)
        ) from wrong


def _nudge(part: str) -> tuple[str, list[float]]:
    try:
        name, across, down = part.replace(":", ",").rsplit(",", 2)
        return name, [float(across), float(down)]
    except ValueError as wrong:
        raise BadOutline(
            gettext("Write moved cells as name:right,down in mm, like c3:1.5,-2.")
        ) from wrong


def _said(points: tuple[Point, ...]) -> str:
    return " ".join(f"{x:.4f},{y:.4f}" for x, y in points)


def _said_nudges(outline: Outline) -> str:
    return " ".join(f"{name}:{x:.1f},{y:.1f}" for name, (x, y) in outline.nudges.items())
