"""Worksheets drawn, from the plan of an exercise."""

import textwrap
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from noema.core.exercises.asked import Arrangement, Asked, Even
from noema.core.language import N_, gettext
from noema.core.pigments.says import say_volumes
from noema.core.sheet.drawing import Anchor, Code, Drawing, Item, Mark, Shape, Words
from noema.core.sheet.key_sheet import rgb_of
from noema.core.sheet.layout import Layout, PatchKind, Polygon
from noema.core.sheet.paper import Paper
from noema.core.sheet.wheel_names import names_round
from noema.core.sheet.worksheet import (
    CELLS_TOP_MM,
    LABEL_MM,
    SIDE_MM,
    TUBES_NAME,
    LabelledCell,
    Plan,
    plan_of,
)
from noema.core.sheet.worksheet import (
    VOLUMES_MM as _VOLUMES_MM,
)

OUTLINE_GREY, OUTLINE_MM = 150, 0.2  # light enough to vanish under paint
_HOW_TO_MM, _LINE_MM = 3.1, 4.1
_COLUMN_LETTERS, _WIDE_LETTERS = 24, 150  # a line of how-to beside a wheel, and above rows
_LETTER_MM = 1.43  # width of a letter of a label, about: longer labels are cut
_SMALL_LETTER_MM = 1.2  # of a line of volumes
_NAME_LETTERS = 15  # a row's name, a line
_BESIDE_NAME_MM = (100.0, 114.0)  # down the page, either paper
_RIM_MM = 3.6
_SAID_LETTERS = 62  # of a line about the last time, on the right


@dataclass(frozen=True, kw_only=True)
class Printed:
    """What is printed for the person: nothing a reader needs."""

    student: str = ""
    school_class: str = ""
    due: str = ""
    cautions: tuple[str, ...] = ()
    shows_parts: bool = False  # a beginner's help: the volumes beside each cell
    last_time: str = ""  # what was said of the sheet that is done again
    larger: bool = False  # its cells are as large as the page lets them be


def draw_worksheet(layout: Layout, asked: Asked, paper: Paper, words: Printed) -> Drawing:
    """Draw the page for one student, on the very layout by which it will be read."""
    plan = plan_of(asked, paper, larger=words.larger, volumes=words.shows_parts)
    plan = _as_laid_out(plan, layout)
    items: list[Item] = [Mark(id=m.id, square_mm=m.corners_mm) for m in layout.markers]
    items.append(Code(text=layout.qr_text, square_mm=layout.qr_polygon_mm))
    items += [
        Shape(polygon_mm=patch.polygon_mm, fill_rgb=patch.nominal_srgb)
        for patch in layout.reference
        if patch.kind is not PatchKind.PAPER
    ]
    for one in plan.on_paper:
        if one.target_mm is not None:
            items.append(Shape(polygon_mm=one.target_mm, fill_rgb=rgb_of(one.cell.lab)))
        items.append(
            Shape(
                polygon_mm=one.polygon_mm,
                line_grey=OUTLINE_GREY,
                line_mm=OUTLINE_MM,
                name=one.cell.id,
            )
        )
    items += _last_time(plan, asked, words)
    items += _labels(plan, asked, shows_parts=words.shows_parts)
    items += _heading(asked, words, layout.sheet, layout.qr_polygon_mm[0][0] - 6.0)
    items += _how_to(asked)
    items += _foot(plan, words)
    return Drawing(
        width_mm=layout.width_mm,
        height_mm=layout.height_mm,
        title=f"{asked.title} {layout.sheet}",
        items=tuple(items),
    )


def _as_laid_out(plan: Plan, layout: Layout) -> Plan:
    """Move cells to where the sheet has them: one printed long ago may be laid out otherwise."""
    laid = {cell.id: cell.polygon_mm for cell in layout.cells}
    placed, tubes = (
        tuple(_moved(one, laid[one.cell.id]) for one in part) for part in (plan.placed, plan.tubes)
    )
    return replace(plan, placed=placed, tubes=tubes)


def _moved(one: LabelledCell, polygon: Polygon) -> LabelledCell:
    if polygon == one.polygon_mm:
        return one
    (left, top), (right, _) = polygon[0], polygon[1]
    return replace(one, polygon_mm=polygon, label_mm=((left + right) / 2.0, top - 1.2))


def _labels(plan: Plan, asked: Asked, *, shows_parts: bool) -> Iterator[Words]:
    if asked.arrangement is Arrangement.WHEEL:
        yield from _wheel_labels(plan, asked)
        yield from _cell_labels(plan.tubes, {}, shows_parts=False)
        yield from _over_tubes(plan)
        return
    ends = dict(_ends_of_value(asked))
    yield from _cell_labels(plan.on_paper, ends, shows_parts=shows_parts)
    for name in plan.names:
        lines = textwrap.wrap(gettext(name.text), _NAME_LETTERS)[:3]
        for n, line in enumerate(lines):
            y = name.at_mm[1] + (n - (len(lines) - 1) / 2.0) * 3.6
            yield Words(at_mm=(name.at_mm[0], y), text=line, size_mm=3.1, grey=40)


def _over_tubes(plan: Plan) -> Iterator[Words]:
    """Say what the cells beside a wheel are."""
    if plan.tubes:
        at = (plan.frame.width_mm - SIDE_MM, plan.tubes[0].label_mm[1] - 4.4)
        text = gettext(TUBES_NAME)
        yield Words(at_mm=at, text=text, size_mm=2.9, anchor=Anchor.END, grey=60)


def _cell_labels(
    cells: Sequence[LabelledCell], ends: Mapping[str, str], *, shows_parts: bool
) -> Iterator[Words]:
    for one in cells:
        x, y = one.label_mm
        text = ends.get(one.cell.id) or _label(one)
        volumes = _volumes(one, cells) if shows_parts else ()
        for n, line in enumerate(volumes):
            at = (x, y - (len(volumes) - 1 - n) * _VOLUMES_MM)
            yield Words(at_mm=at, text=line, size_mm=2.3, anchor=Anchor.MIDDLE, grey=70)
        if text:
            at = (x, y - len(volumes) * _VOLUMES_MM)
            yield Words(at_mm=at, text=text, size_mm=2.7, anchor=Anchor.MIDDLE, grey=70)


def _volumes(one: LabelledCell, cells: Sequence[LabelledCell]) -> tuple[str, ...]:
    """Give a cell's volumes in as many lines as fit between its label and what is above it."""
    if len(one.cell.parts) < 2:
        return ()
    xs, ys = [x for x, _ in one.polygon_mm], [y for _, y in one.polygon_mm]
    above = [
        max(y for _, y in other.polygon_mm)
        for other in cells
        if max(y for _, y in other.polygon_mm) < min(ys)
        and min(x for x, _ in other.polygon_mm) < max(xs)
        and max(x for x, _ in other.polygon_mm) > min(xs)
    ]
    room = min(ys) - max(above, default=CELLS_TOP_MM)
    most = int((room - LABEL_MM + 0.6) / _VOLUMES_MM)
    width = int((max(xs) - min(xs) + 2.0) / _SMALL_LETTER_MM)
    # Where there is little room, what is brought into the lighter pile.
    whole = _short_parts(one)
    brought = whole.rpartition(" + ")[2]
    for said in (whole, brought, brought.partition(" of ")[0]):
        lines = textwrap.wrap(said, max(4, width))
        if len(lines) <= most:
            return tuple(lines)
    return ()


def _ends_of_value(asked: Asked) -> Iterator[tuple[str, str]]:
    """Say at which end a row of values is dark, by cell."""
    for band in asked.bands:
        if band.even is Even.VALUE:
            ends = sorted((band.cells[0], band.cells[-1]), key=lambda cell: cell.hvc.value)
            for cell, word in zip(ends, (N_("darkest"), N_("lightest")), strict=True):
                yield cell.id, f"{gettext(cell.label)} {gettext(word)}"


def _label(one: LabelledCell) -> str:
    """Give a cell's label, as much of it as there is room for."""
    xs = [x for x, _ in one.polygon_mm]
    most = max(3, int((max(xs) - min(xs) + 2.0) / _LETTER_MM))
    text = gettext(one.cell.label)
    return text if len(text) <= most else text[: most - 1] + "."


def _short_parts(one: LabelledCell) -> str:
    """Say the volumes by the short name of each tube, such as: 10 white + 1 yellow."""
    return say_volumes([(p.tube.short, p.amount) for p in one.cell.parts])


def _wheel_labels(plan: Plan, asked: Asked) -> Iterator[Words]:
    """Name the hues outside the rim, and the rings where there are several."""
    yield from names_round(plan, _RIM_MM, 2.9, 50)
    rings = ", ".join(gettext(band.label) for band in asked.bands)
    if len(asked.bands) > 1:
        at = (SIDE_MM, plan.frame.height_mm - 46.0)
        for n, line in enumerate(
            textwrap.wrap(gettext("Rings from outside: %(rings)s", rings=rings), _COLUMN_LETTERS)
        ):
            yield Words(at_mm=(at[0], at[1] + n * 3.8), text=line, size_mm=2.9, grey=60)


def _heading(asked: Asked, words: Printed, code: str, right: float) -> Iterator[Item]:
    wheel = asked.arrangement is Arrangement.WHEEL
    longest = 34 if wheel else 60
    name = words.student[:longest] or gettext("Name")
    grey = 0 if words.student else 130
    yield Words(at_mm=(SIDE_MM, 29.0), text=name, size_mm=5.4, bold=True, grey=grey)
    under = [line for line in (words.school_class[:longest], words.due[:longest]) if line]
    for n, line in enumerate(under):
        yield Words(at_mm=(SIDE_MM, 34.2 + 4.4 * n), text=line, size_mm=3.4, grey=60)
    if code:
        yield Words(at_mm=(right, 29.0), text=code, size_mm=5.4, bold=True, anchor=Anchor.END)
        # Beside a wheel there is room for half a line, before the hues round it.
        for n, line in enumerate(textwrap.wrap(asked.title, 22 if wheel else 80)):
            at = (right, 34.2 + 3.8 * n)
            yield Words(at_mm=at, text=line, size_mm=3.2, anchor=Anchor.END, grey=60)


def _last_time(plan: Plan, asked: Asked, words: Printed) -> Iterator[Words]:
    """Say what was said of the sheet before: under its title, or below a wheel at its right."""
    if not words.last_time:
        return
    wheel = asked.arrangement is Arrangement.WHEEL
    said = gettext("Last time: %(said)s", said=words.last_time)
    letters, lines = (_COLUMN_LETTERS, 7) if wheel else (_SAID_LETTERS, 3)
    right = plan.frame.width_mm - SIDE_MM
    x, y = (right - 44.0, plan.frame.height_mm - 58.0) if wheel else (right, 38.2)
    anchor = Anchor.START if wheel else Anchor.END
    for n, line in enumerate(textwrap.wrap(said, letters, max_lines=lines, placeholder=" …")):
        yield Words(at_mm=(x, y + 3.2 * n), text=line, size_mm=2.6, anchor=anchor, grey=60)


def _how_to(asked: Asked) -> Iterator[Words]:
    wheel = asked.arrangement is Arrangement.WHEEL
    top = 46.0 if wheel else CELLS_TOP_MM - 12.0
    letters = _COLUMN_LETTERS if wheel else _WIDE_LETTERS
    lines = [line for text in asked.how_to for line in textwrap.wrap(text, letters)]
    if not wheel and len(lines) > 3:
        lines = textwrap.wrap(" ".join(asked.how_to), letters)
    y = top
    for line in lines:
        yield Words(at_mm=(SIDE_MM, y), text=line, size_mm=_HOW_TO_MM)
        y += _LINE_MM
        if wheel and _BESIDE_NAME_MM[0] < y < _BESIDE_NAME_MM[1]:
            y = _BESIDE_NAME_MM[1]  # the name of the hue at the wheel's left stands here


def _foot(plan: Plan, words: Printed) -> Iterator[Item]:
    bottom, middle = plan.frame.height_mm, plan.frame.width_mm / 2.0
    right, y = plan.frame.width_mm - SIDE_MM, plan.frame.height_mm - 24.5
    for text, left, end in (
        (gettext("Date"), middle + 14.0, middle + 52.0),
        (gettext("Notes"), middle + 58.0, right),
    ):
        yield Words(at_mm=(left, y), text=text, size_mm=2.9, grey=110)
        yield Shape(polygon_mm=((left + 9.0, y), (end, y)), line_grey=190, line_mm=0.2)
    # Left of the mark in the middle of the edge: nothing may come near a mark.
    letters = int((middle - 10.0 - SIDE_MM) / 1.13)
    for n, line in enumerate(textwrap.wrap(" ".join(words.cautions), letters)[:3]):
        at = (SIDE_MM, bottom - 28.4 + n * 2.7)
        yield Words(at_mm=at, text=line, size_mm=2.2, grey=110)
