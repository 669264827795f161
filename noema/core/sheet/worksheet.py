"""The worksheet of any exercise: rows, stairs or a wheel of cells on a landscape page.

Marks and the code stand where every sheet has them. Reference patches run along all four edges,
so that light falling off anywhere can be seen; the middle belongs to the cells. A cell is at least
12 mm across and keeps 3 mm of bare paper round it.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import ceil, cos, pi, sin

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, AskedCell, CellShape
from noema.core.language import N_, gettext
from noema.core.sheet.layout import Cell, Layout, Patch, PatchKind, Point, Polygon, box
from noema.core.sheet.paper import LANDSCAPE, MARGIN_MM, MARKER_MM, QR_MM, Paper, PaperFrame

LEAST_CELL_MM, GAP_MM = 12.0, 3.0
MOST_CELL_MM, MOST_LARGER_MM = 34.0, 60.0
LABEL_MM = 3.6  # room for a label above a row of cells
VOLUMES_MM, _MOST_VOLUMES = 2.8, 2  # a line of volumes over a cell, and how many there may be
SIDE_MM = MARGIN_MM + MARKER_MM + 3.0  # clear of the marks and patches at the edges
CELLS_TOP_MM, CELLS_BOTTOM_MM = 55.0, 33.0  # from the top and from the bottom of the page
ROW_NAME_MM = 27.0
PATCH_MM, PATCH_STEP_MM = 7.5, 13.0
GREYS = (56, 92, 128, 160, 192, 224)
COLOURS = (
    (196, 60, 48),
    (226, 150, 40),
    (232, 212, 60),
    (84, 158, 78),
    (44, 120, 168),
    (124, 72, 148),
)
RING_MM = 13.0  # depth of a wheel's ring
_RIM_TOP_MM, _RIM_BOTTOM_MM = 28.5, 29.5  # the rim keeps its names clear of the marks
_HUB_MM = 13.5  # nothing is painted nearer the middle
_ARC_STEPS = 7
TUBES_NAME = N_("Tubes as they come")
_BESIDE_WHEEL_MM = 15.0  # width of a tube's cell beside a wheel
_BESIDE_TOP_MM, _BESIDE_BOTTOM_MM = 46.0, 60.0  # under the title, above what was said last time
_TARGET_SHARE = 0.42  # of a match cell's width that shows the printed colour


@dataclass(frozen=True, kw_only=True)
class LabelledCell:
    """A cell and where its label stands."""

    cell: AskedCell
    polygon_mm: Polygon
    label_mm: Point
    target_mm: Polygon | None  # where its colour is printed to be matched


@dataclass(frozen=True, kw_only=True)
class RowName:
    """What stands before a row, or names a ring."""

    text: str
    at_mm: Point


@dataclass(frozen=True, kw_only=True)
class Plan:
    """Where everything of an exercise stands."""

    frame: PaperFrame
    placed: tuple[LabelledCell, ...]
    names: tuple[RowName, ...]
    tubes: tuple[LabelledCell, ...] = ()  # as they come

    @property
    def on_paper(self) -> tuple[LabelledCell, ...]:
        """All that is painted."""
        return (*self.placed, *self.tubes)


def plan_of(asked: Asked, paper: Paper, *, larger: bool = False, volumes: bool = False) -> Plan:
    """Find a place for every cell; refuses what would come out under 12 mm.

    For a hand that needs room, cells are as large as the page lets them be. Lines of volumes
    over the cells get room where there is some.
    """
    frame = LANDSCAPE[paper]
    if asked.arrangement is Arrangement.WHEEL:
        return _wheel(asked, frame, larger=larger)
    for lines in (_MOST_VOLUMES, 1) if volumes else ():
        try:
            return _in_rows(asked, frame, LABEL_MM + lines * VOLUMES_MM, larger=larger)
        except BadExercise:
            continue
    return _in_rows(asked, frame, LABEL_MM, larger=larger)


def fits(asked: Asked, paper: Paper) -> bool:
    """Say whether every cell of an exercise finds a place on a page."""
    try:
        plan_of(asked, paper)
    except BadExercise:
        return False
    return True


def worksheet_layout(
    asked: Asked,
    paper: Paper,
    code: str,
    *,
    grey_only: bool,
    larger: bool = False,
    volumes: bool = False,
) -> Layout:
    """Plan the page of an exercise as the reader will need it."""
    plan = plan_of(asked, paper, larger=larger, volumes=volumes)
    frame = plan.frame
    return Layout(
        sheet=code,
        width_mm=frame.width_mm,
        height_mm=frame.height_mm,
        grey_only=grey_only,
        qr_text=code,
        qr_polygon_mm=frame.qr_polygon_mm,
        markers=frame.markers,
        reference=(*_edge_patches(frame, grey_only), *_bare_between(plan)),
        cells=tuple(
            Cell(
                id=one.cell.id,
                label=one.cell.label,
                polygon_mm=one.polygon_mm,
                target_lab=one.cell.lab,
            )
            for one in plan.on_paper
        ),
    )


def _in_rows(asked: Asked, frame: PaperFrame, label_mm: float, *, larger: bool) -> Plan:
    if not larger:
        return _rows(asked, frame, MOST_CELL_MM, label_mm)
    plans = (_rows(wrapped, frame, MOST_LARGER_MM, label_mm) for wrapped in _wrapped(asked, frame))
    return max(plans, key=_least_across)


def _wrapped(asked: Asked, frame: PaperFrame) -> Iterator[Asked]:
    """Give an exercise as it is, and with its rows broken in two, in three, as far as they fit."""
    yield asked
    longest = max(len(band.cells) for band in asked.bands)
    for lines in range(2, longest):
        most = ceil(longest / lines)
        parts = [
            replace(band, label=band.label if not start else "", cells=band.cells[start:][:most])
            for band in asked.bands
            for start in range(0, len(band.cells), most)
        ]
        wrapped = replace(asked, arrangement=Arrangement.ROWS, bands=tuple(parts))
        try:
            _rows(wrapped, frame, MOST_LARGER_MM, LABEL_MM)
        except BadExercise:
            return
        yield wrapped


def _least_across(plan: Plan) -> float:
    """Give the shorter side of a plan's cells, mm; to a tenth, so that fewer rows win a tie."""
    (left, top), (right, bottom) = plan.placed[0].polygon_mm[0], plan.placed[0].polygon_mm[2]
    return round(min(right - left, bottom - top), 1)


def _rows(asked: Asked, frame: PaperFrame, most_mm: float, label_mm: float) -> Plan:
    rows = len(asked.bands) + bool(asked.tubes)
    columns = max(
        len(asked.tubes),
        *(
            len(band.cells) + (row if asked.arrangement is Arrangement.STAIRS else 0)
            for row, band in enumerate(asked.bands)
        ),
    )
    named = ROW_NAME_MM if asked.tubes or any(band.label for band in asked.bands) else 0.0
    left = SIDE_MM + named
    width = (frame.width_mm - SIDE_MM - left + GAP_MM) / columns
    height = (frame.height_mm - CELLS_TOP_MM - CELLS_BOTTOM_MM) / rows
    across, down = width - GAP_MM, height - max(GAP_MM, label_mm + 0.6)
    if min(across, down) < LEAST_CELL_MM:
        raise BadExercise(
            gettext(
                "%(count)s rows of %(columns)s cells would be %(min)s mm across on "
                "this paper: cells need %(least_cell_mm)s mm; take fewer rows or "
                "steps.",
                count=rows,
                columns=columns,
                min=format(min(across, down), ".0f"),
                least_cell_mm=format(LEAST_CELL_MM, ".0f"),
            )
        )
    size = min(across, 2.2 * most_mm), min(down, most_mm)
    pitch = min(height, size[1] + label_mm + 2.4)

    def at(row: int, column: int) -> Point:
        return left + column * width, CELLS_TOP_MM + label_mm + row * pitch

    def name(text: str, row: int, shift: int) -> RowName:
        _, top = at(row, 0)
        return RowName(text=text, at_mm=(SIDE_MM + shift * width, top + size[1] / 2.0 + 1.0))

    placed, names = [], []
    for row, band in enumerate(asked.bands):
        shift = row if asked.arrangement is Arrangement.STAIRS else 0
        names.append(name(band.label, row, shift))
        for column, cell in enumerate(band.cells, start=shift):
            placed.append(_placed(cell, box(*at(row, column), *size), shows=asked.shows_targets))
    if asked.tubes:
        names.append(name(gettext(TUBES_NAME), rows - 1, 0))
    tubes = tuple(
        _placed(cell, box(*at(rows - 1, column), *size), shows=False)
        for column, cell in enumerate(asked.tubes)
    )
    return Plan(frame=frame, placed=tuple(placed), names=tuple(names), tubes=tubes)


def _placed(cell: AskedCell, whole: Polygon, *, shows: bool) -> LabelledCell:
    (left, top), (right, bottom) = whole[0], whole[2]
    label = ((left + right) / 2.0, top - 1.2)
    if not shows:
        return LabelledCell(
            cell=cell, polygon_mm=_outline(cell, whole), label_mm=label, target_mm=None
        )
    split = left + (right - left) * _TARGET_SHARE
    return LabelledCell(
        cell=cell,
        polygon_mm=box(split, top, right - split, bottom - top),
        label_mm=label,
        target_mm=box(left, top, split - left, bottom - top),
    )


def _outline(cell: AskedCell, whole: Polygon) -> Polygon:
    """Give a box, or a diamond: a box whose upright sides come to points."""
    if cell.shape is CellShape.BOX:
        return whole
    (left, top), (right, bottom) = whole[0], whole[2]
    tip = min((right - left) * 0.22, 5.0)
    middle = (top + bottom) / 2.0
    return (
        (left, middle),
        (left + tip, top),
        (right - tip, top),
        (right, middle),
        (right - tip, bottom),
        (left + tip, bottom),
    )


def _wheel(asked: Asked, frame: PaperFrame, *, larger: bool) -> Plan:
    """Lay rings from the outermost in, yellow at the top."""
    middle = (frame.width_mm / 2.0, (_RIM_TOP_MM + frame.height_mm - _RIM_BOTTOM_MM) / 2.0)
    outer = middle[1] - _RIM_TOP_MM
    hues = len(asked.bands[0].cells)
    depth = max(RING_MM, _deepest(outer, len(asked.bands), hues)) if larger else RING_MM
    placed, names = [], []
    for ring, band in enumerate(asked.bands):
        out = outer - ring * (depth + GAP_MM)
        inside = out - depth
        arc = 2.0 * pi * (out + inside) / 2.0 / hues - GAP_MM
        if arc < LEAST_CELL_MM or inside < _HUB_MM:
            raise BadExercise(
                gettext(
                    "%(hues)s hues with %(count)s rings leave cells under "
                    "%(least_cell_mm)s mm on this paper: take fewer rings or fewer "
                    "hues.",
                    hues=hues,
                    count=len(asked.bands),
                    least_cell_mm=format(LEAST_CELL_MM, ".0f"),
                )
            )
        names.append(RowName(text=band.label, at_mm=(middle[0], middle[1])))
        for n, cell in enumerate(band.cells):
            turn = (-n if asked.anticlockwise else n) / hues
            placed.append(_wedge(cell, middle, inside, out, turn, hues))
    return Plan(
        frame=frame, placed=tuple(placed), names=tuple(names), tubes=_beside_wheel(asked, frame)
    )


def _deepest(outer: float, rings: int, hues: int) -> float:
    """Give how deep rings can be, mm: clear of the hub, the innermost's cells wide enough."""
    by_hub = (outer - _HUB_MM + GAP_MM) / rings - GAP_MM
    narrowest = (LEAST_CELL_MM + GAP_MM) * hues / (2.0 * pi)  # its middle's distance from the hub
    by_arc = (outer - (rings - 1) * GAP_MM - narrowest) / (rings - 0.5)
    return min(by_hub, by_arc, MOST_CELL_MM)


def _beside_wheel(asked: Asked, frame: PaperFrame) -> tuple[LabelledCell, ...]:
    """Lay tubes as they come under each other, at the right of a wheel."""
    left = frame.width_mm - SIDE_MM - _BESIDE_WHEEL_MM
    pitch = LEAST_CELL_MM + LABEL_MM + 0.6
    if len(asked.tubes) * pitch > frame.height_mm - _BESIDE_TOP_MM - _BESIDE_BOTTOM_MM:
        raise BadExercise(
            gettext(
                "%(count)s tubes as they come find no room beside a wheel: leave them out.",
                count=len(asked.tubes),
            )
        )
    return tuple(
        _placed(
            cell,
            box(left, _BESIDE_TOP_MM + n * pitch, _BESIDE_WHEEL_MM, LEAST_CELL_MM),
            shows=False,
        )
        for n, cell in enumerate(asked.tubes)
    )


def _wedge(
    cell: AskedCell, middle: Point, inside: float, out: float, turn: float, hues: int
) -> LabelledCell:
    """Give a wedge with 3 mm of paper to its neighbours on both sides."""
    angle = 2.0 * pi * turn
    outline = [
        _at(middle, radius, angle + side * (pi / hues - GAP_MM / 2.0 / radius))
        for radius, sides in ((out, _arc(1)), (inside, _arc(-1)))
        for side in sides
    ]
    label = _at(middle, (inside + out) / 2.0, angle)
    return LabelledCell(cell=cell, polygon_mm=tuple(outline), label_mm=label, target_mm=None)


def _arc(way: int) -> Iterator[float]:
    for n in range(_ARC_STEPS):
        yield way * (2.0 * n / (_ARC_STEPS - 1) - 1.0)


def _at(middle: Point, radius: float, angle: float) -> Point:
    return (
        round(middle[0] + radius * sin(angle), 3),
        round(middle[1] - radius * cos(angle), 3),
    )


def _edge_patches(frame: PaperFrame, grey_only: bool) -> Iterator[Patch]:
    """Put greys and colours in turn along the edges, bare paper between them."""
    kinds: list[tuple[int, int, int]] = []
    for grey, colour in zip(GREYS, COLOURS, strict=True):
        kinds.append((grey, grey, grey))
        if not grey_only:
            kinds.append(colour)
    # Each edge starts elsewhere in the row, so that no side holds only dark patches.
    for edge, spots in enumerate(_edges(frame)):
        for n, (x, y) in enumerate(spots):
            fill = kinds[(n * 5 + edge * 3) % len(kinds)]
            yield printed_patch(
                f"{'g' if len(set(fill)) == 1 else 'c'}{edge}{n}",
                box(x, y, PATCH_MM, PATCH_MM),
                fill,
            )
        for n, ((x, y), (next_x, next_y)) in enumerate(zip(spots, spots[1:], strict=False)):
            if abs(next_x - x) + abs(next_y - y) <= PATCH_STEP_MM + 0.1:
                yield printed_patch(f"p{edge}{n}", _bare(x, y, next_x > x), None)


def _bare(x: float, y: float, across: bool) -> Polygon:
    room = PATCH_STEP_MM - PATCH_MM - 1.6
    if across:
        return box(x + PATCH_MM + 0.8, y, room, PATCH_MM)
    return box(x, y + PATCH_MM + 0.8, PATCH_MM, room)


def _edges(frame: PaperFrame) -> Iterator[list[Point]]:
    """Give the patches' corners: along the top, the bottom, the left and the right edge."""
    near = MARGIN_MM + 1.0
    start = MARGIN_MM + MARKER_MM + 4.0
    for length, code in ((frame.width_mm, True), (frame.width_mm, False)):
        y = near if code else frame.height_mm - near - PATCH_MM
        end = length - start - (QR_MM + 8.0 if code else 0.0)
        yield [(x, y) for x in _run(start, end, length)]
    for x in (near, frame.width_mm - near - PATCH_MM):
        end = frame.height_mm - start
        begin = start if x == near else start + QR_MM - 8.0
        yield [(x, y) for y in _run(begin, end, frame.height_mm)]


def _run(start: float, end: float, length: float) -> Iterator[float]:
    """Step along an edge, leaving out the mark in its middle."""
    middle, clear = length / 2.0, MARKER_MM / 2.0 + 3.0
    at = start
    while at + PATCH_MM <= end:
        if at + PATCH_MM > middle - clear and at < middle + clear:
            at = middle + clear
            continue
        yield round(at, 3)
        at += PATCH_STEP_MM


def printed_patch(name: str, polygon: Polygon, fill: tuple[int, int, int] | None) -> Patch:
    """Make a patch whose colour isn't known yet; without a fill it is blank paper."""
    kind = PatchKind.PAPER
    if fill is not None:
        kind = PatchKind.GREY if len(set(fill)) == 1 else PatchKind.COLOUR
    return Patch(
        id=name,
        kind=kind,
        polygon_mm=polygon,
        nominal_srgb=fill or (255, 255, 255),
        lab=None,
        lab_sigma=None,
        lab_source=None,
    )


def _bare_between(plan: Plan) -> Iterator[Patch]:
    """Name the bare paper to the right of every upright cell: light is seen there too."""
    boxes = [one for one in plan.on_paper if len(one.polygon_mm) == 4]
    for n, one in enumerate(boxes):
        (_, top), (right, bottom) = one.polygon_mm[0], one.polygon_mm[2]
        taken = _starts_right_of(right, top, plan.on_paper)
        if taken is None or taken - right >= GAP_MM - 0.01:
            yield printed_patch(f"pc{n}", box(right + 0.6, top, GAP_MM - 1.2, bottom - top), None)


def _starts_right_of(right: float, top: float, placed: Sequence[LabelledCell]) -> float | None:
    starts = [
        min(x for x, _ in other.target_mm or other.polygon_mm)
        for other in placed
        if abs(min(y for _, y in other.polygon_mm) - top) < 0.1
    ]
    return min((start for start in starts if start > right - 0.01), default=None)
