"""What the list of classes shows."""

from dataclasses import dataclass
from datetime import UTC, datetime

from noema.store.classes import ClassRow
from noema.web.frame.page import Frame, Stage, frame
from noema.web.today.views import week_words


@dataclass(frozen=True, kw_only=True)
class ClassLine:
    """A class in the list."""

    id: int
    name: str
    students: int
    week: str


@dataclass(frozen=True, kw_only=True)
class OverviewPage:
    """All classes."""

    frame: Frame
    classes: tuple[ClassLine, ...]


def overview_page(rows: tuple[ClassRow, ...]) -> OverviewPage:
    """Collect the classes."""
    today = datetime.now(UTC).date()
    return OverviewPage(
        frame=frame(Stage.PROGRESS),
        classes=tuple(
            ClassLine(
                id=row.id,
                name=row.name,
                students=row.students,
                week=week_words(row.week_on(today), row.unit_weeks),
            )
            for row in rows
        ),
    )
