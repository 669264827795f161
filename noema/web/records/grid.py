"""The grade book as a grid: students by exercise, by mark or by one skill."""

from collections.abc import Iterator
from dataclasses import dataclass

from noema.core.exercises.skills import Skill
from noema.core.language import N_, gettext, written
from noema.formats.grade_book import GradeBook, GradeCell, GradeColumn
from noema.store.classes import ClassRow
from noema.web.frame.page import Frame, Stage, frame
from noema.web.records.papers import grade_book_of

_MARK, _MEAN = "mark", "mean"


@dataclass(frozen=True, kw_only=True)
class GridPlace:
    """One student's newest attempt at one exercise."""

    points: str  # empty where nothing is known
    state: str
    tries: str  # how many, and whether of one sheet; empty for a first


@dataclass(frozen=True, kw_only=True)
class GridLine:
    """A student's row."""

    student_id: int
    name: str
    places: tuple[GridPlace, ...]
    mean: str  # of what is known


@dataclass(frozen=True, kw_only=True)
class GridPage:
    """A class's grade book."""

    frame: Frame
    row: ClassRow
    by: str
    choices: tuple[tuple[str, str], ...]
    out_of: int
    columns: tuple[GradeColumn, ...]
    lines: tuple[GridLine, ...]


def grid_page(row: ClassRow, wanted: str) -> GridPage:
    """Collect the grid by what is wanted, or by what is usual."""
    book = grade_book_of(row)
    marks = ((_MARK, N_("mark")),) if book.out_of else ()
    choices = (*marks, (_MEAN, N_("all skills")), *((s.value, s.value) for s in Skill))
    by = wanted if wanted in dict(choices) else choices[0][0]
    return GridPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        by=by,
        choices=choices,
        out_of=book.out_of or 4 if by == _MARK else 4,
        columns=book.columns,
        lines=tuple(_lines(book, by)),
    )


def _lines(book: GradeBook, by: str) -> Iterator[GridLine]:
    for number, name in book.students:
        found = [book.cells.get((number, column.number)) for column in book.columns]
        known = [p for cell in found if cell and (p := _points(cell, by)) is not None]
        yield GridLine(
            student_id=number,
            name=name,
            places=tuple(
                _place(cell, by, book.excuses.get((number, column.number), ""))
                for cell, column in zip(found, book.columns, strict=True)
            ),
            mean=written(sum(known) / len(known), ".1f") if known else "",
        )


def _points(cell: GradeCell, by: str) -> float | None:
    if by == _MARK:
        return cell.mark
    if by == _MEAN:
        return sum(cell.skills.values()) / len(cell.skills) if cell.skills else None
    return cell.skills.get(by)


def _place(cell: GradeCell | None, by: str, excuse: str) -> GridPlace:
    if cell is None:
        return GridPlace(points="", state=gettext(excuse) if excuse else "", tries="")
    points = _points(cell, by)
    tries = ""
    if cell.attempts > 1:
        tries = gettext("attempt %(count)s", count=cell.attempts)
        if cell.sheets == 1:
            tries = gettext("attempt %(count)s at one sheet", count=cell.attempts)
    return GridPlace(
        points="" if points is None else written(points, ".1f"),
        state=gettext(cell.state),
        tries=tries,
    )
