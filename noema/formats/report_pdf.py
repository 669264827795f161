"""Reports and colour notebooks on paper: paragraphs, strips of joints, courses of skills."""

from collections.abc import Sequence
from dataclasses import dataclass

from reportlab.graphics.shapes import Drawing, Line, Polygon, PolyLine, Rect, String
from reportlab.lib.colors import Color, HexColor
from reportlab.lib.units import mm
from reportlab.platypus import (
    Flowable,
    KeepTogether,
    PageBreak,
    Spacer,
    Table,
)

from noema.core.colour.srgb import lab_to_hex
from noema.core.language import N_, gettext
from noema.core.progress.course import Course, Point
from noema.core.sheet.layout import Triple
from noema.formats.paper_pages import (
    HEAD,
    SMALL,
    SOFT,
    TEXT,
    TITLE,
    WIDTH,
    paragraph,
    report_bytes,
)
from noema.formats.typefaces import REGULAR

_FIELD, _INK, _BAND = HexColor("#959595"), HexColor("#111111"), HexColor("#c9c9c9")
_MOST_ACROSS = 24
_CURVE = (52 * mm, 20 * mm)


@dataclass(frozen=True, kw_only=True)
class PaperJoint:
    """One cell on paper."""

    label: str
    painted: Triple  # Lab D50
    expected: Triple
    mix: str = ""  # how it was to be mixed; for notebooks


@dataclass(frozen=True, kw_only=True)
class PaperAttempt:
    """One exercise's sheet in a report."""

    title: str
    when: str
    words: str  # what came of it
    joints: tuple[PaperJoint, ...]


@dataclass(frozen=True, kw_only=True)
class PaperCourse:
    """One skill in a report."""

    words: str
    points: tuple[Point, ...]
    course: Course


@dataclass(frozen=True, kw_only=True)
class StudentPaper:
    """A student's page."""

    name: str
    where: str  # class and week
    says: tuple[str, ...]  # in a sentence each
    courses: tuple[PaperCourse, ...]
    attempts: tuple[PaperAttempt, ...]


@dataclass(frozen=True, kw_only=True)
class ClassPaper:
    """A class's report."""

    name: str
    where: str
    says: tuple[str, ...]
    students: tuple[tuple[str, PaperCourse | None, str], ...]  # name, course, words


def student_report(paper: StudentPaper) -> bytes:
    """Draw a student's report; what doesn't fit one page goes on."""
    story: list[Flowable] = [
        paragraph(paper.name, TITLE),
        paragraph(paper.where, SOFT),
        Spacer(1, 4 * mm),
        *(paragraph(words, TEXT) for words in paper.says),
        *_courses(paper.courses),
        *(_attempt(one) for one in paper.attempts),
        Spacer(1, 4 * mm),
        paragraph(gettext(_HOW_TO_READ), SOFT),
    ]
    return report_bytes(story, gettext("%(name)s, report", name=paper.name))


def class_report(paper: ClassPaper) -> bytes:
    """Draw a class's report."""
    rows = [
        [paragraph(name, TEXT), "" if course is None else _curve(course), paragraph(words, SMALL)]
        for name, course, words in paper.students
    ]
    story: list[Flowable] = [
        paragraph(paper.name, TITLE),
        paragraph(paper.where, SOFT),
        Spacer(1, 4 * mm),
        *(paragraph(words, TEXT) for words in paper.says),
        Spacer(1, 4 * mm),
    ]
    if rows:
        widths = [38 * mm, _CURVE[0] + 4 * mm, WIDTH - 42 * mm - _CURVE[0]]
        story.append(Table(rows, colWidths=widths, style=_ROWS, repeatRows=0))
    return report_bytes(
        [*story, Spacer(1, 4 * mm), paragraph(gettext(_HOW_TO_READ), SOFT)],
        gettext("%(name)s, report", name=paper.name),
    )


def notebook(name: str, where: str, charts: Sequence[PaperAttempt]) -> bytes:
    """Draw a colour notebook: every chart with its mixes, to mix from later."""
    story: list[Flowable] = [
        paragraph(name, TITLE),
        paragraph(gettext("Colour notebook · %(where)s", where=where), SOFT),
    ]
    if not charts:
        story.append(paragraph(gettext("No chart has been read yet."), TEXT))
    for n, chart in enumerate(charts):
        story += [PageBreak()] if n else [Spacer(1, 4 * mm)]
        story += [paragraph(chart.title, HEAD), paragraph(chart.when, SOFT), Spacer(1, 2 * mm)]
        story.append(_recipes(chart.joints))
    return report_bytes(story, gettext("%(name)s, colour notebook", name=name))


_HOW_TO_READ = N_(
    "In a strip, what was painted lies above what was asked for: where they match, the edge "
    "disappears. In a curve higher is better, and the grey band shows how sure we are. Every "
    "number comes from painted sheets, photographed and compared with what was asked, step by "
    "step; what a photograph can't tell is left out, and the teacher's word counts over the "
    "reading. Printed colours are near, not exact."
)
_ROWS = [
    ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
    ("LINEABOVE", (0, 1), (-1, -1), 0.4, _BAND),
    ("LEFTPADDING", (0, 0), (-1, -1), 0),
]


def _attempt(one: PaperAttempt) -> Flowable:
    parts: list[Flowable] = [
        paragraph(one.title, HEAD),
        paragraph(one.when, SOFT),
        _strip(one.joints),
    ]
    return KeepTogether([*parts, paragraph(one.words, TEXT)])


def _strip(joints: Sequence[PaperJoint]) -> Drawing:
    across = min(len(joints), _MOST_ACROSS)
    rows = -(-len(joints) // max(across, 1))
    wide, high = WIDTH / max(across, 1), 12 * mm
    drawing = Drawing(WIDTH, rows * (high + 2) + 4)
    drawing.add(Rect(0, 0, WIDTH, rows * (high + 2) + 4, fillColor=_FIELD, strokeColor=None))
    fills = lab_to_hex(
        [lab for one in joints for lab in (one.painted, one.expected)] or [(0, 0, 0)]
    )
    for n in range(len(joints)):
        x = n % across * wide + 1
        y = (rows - 1 - n // across) * (high + 2) + 3
        drawing.add(_box(x, y + 0.4 * high, wide - 2, 0.6 * high, fills[2 * n]))
        drawing.add(_box(x, y, wide - 2, 0.4 * high, fills[2 * n + 1]))
    return drawing


def _box(x: float, y: float, wide: float, high: float, fill: str) -> Rect:
    return Rect(x, y, wide, high, fillColor=HexColor(fill), strokeColor=None)


def _courses(courses: Sequence[PaperCourse]) -> list[Flowable]:
    if not courses:
        return []
    cells = [[_curve(one), paragraph(one.words, SMALL)] for one in courses]
    rows = [cells[n : n + 3] for n in range(0, len(cells), 3)]
    filled = [[*row, *[""] * (3 - len(row))] for row in rows]
    return [Spacer(1, 3 * mm), Table(filled, colWidths=[WIDTH / 3] * 3, style=_ROWS[:1])]


def _curve(one: PaperCourse) -> Drawing:
    wide, high = _CURVE
    drawing = Drawing(wide, high)
    drawing.add(Rect(0, 0, wide, high, fillColor=HexColor("#ececec"), strokeColor=None))
    weeks = [point.week for point in one.points]
    last = max([*weeks, 12])
    xs = [(week - 0.5) / last * wide for week in weeks]
    for points in (1, 2, 3):
        drawing.add(Line(0, points / 4 * high, wide, points / 4 * high, strokeColor=_white()))
    if len(xs) > 1:
        outline = [*zip(xs, one.course.high, strict=True)]
        outline += reversed([*zip(xs, one.course.low, strict=True)])
        flat = [part for x, y in outline for part in (x, y / 4 * high)]
        drawing.add(Polygon(flat, fillColor=_BAND, strokeColor=None))
        line = [p for x, y in zip(xs, one.course.curve, strict=True) for p in (x, y / 4 * high)]
        drawing.add(PolyLine(line, strokeColor=_INK, strokeWidth=1.4))
    for x, point in zip(xs, one.points, strict=True):
        y = min(max(point.points, 0.0), 4.0) / 4 * high
        drawing.add(Rect(x - 1.3, y - 1.3, 2.6, 2.6, fillColor=_INK, strokeColor=None))
    return drawing


def _white() -> Color:
    return HexColor("#ffffff")


def _recipes(joints: Sequence[PaperJoint]) -> Table:
    """Lay cells out three in a row, each with its colour and its mix."""
    cells = [
        [_swatch(one), paragraph(one.label, TEXT), paragraph(one.mix, SMALL)] for one in joints
    ]
    rows = [cells[n : n + 3] for n in range(0, len(cells), 3)]
    filled = [[*row, *[""] * (3 - len(row))] for row in rows]
    return Table(filled, colWidths=[WIDTH / 3] * 3, style=[("VALIGN", (0, 0), (-1, -1), "TOP")])


def _swatch(one: PaperJoint) -> Drawing:
    wide, high = 50 * mm, 18 * mm
    painted, expected = lab_to_hex([one.painted, one.expected])
    drawing = Drawing(wide, high)
    drawing.add(Rect(0, 0, wide, high, fillColor=_FIELD, strokeColor=None))
    drawing.add(_box(3, 3, 0.72 * wide - 3, high - 6, painted))
    drawing.add(_box(0.72 * wide, 3, 0.28 * wide - 3, high - 6, expected))
    drawing.add(
        String(0.74 * wide, 5, gettext("asked"), fontName=REGULAR, fontSize=6, fillColor=_INK)
    )
    return drawing
