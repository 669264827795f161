"""Giving a photograph to another student's sheet."""

from dataclasses import dataclass

from noema.actions.print_sheets import newest_sheets
from noema.store.reviews import AttemptRow, attempt_of_school
from noema.store.sheets import SheetRow, sheets_of_assignment
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me


@dataclass(frozen=True, kw_only=True)
class WhosePage:
    """The sheets a photograph could be of."""

    frame: Frame
    attempt: AttemptRow
    sheets: tuple[SheetRow, ...]


def whose_page(photograph_id: int) -> WhosePage:
    """Collect the other sheets of the same exercise."""
    attempt = attempt_of_school(db(), me().school_id, photograph_id)
    sheets = newest_sheets(sheets_of_assignment(db(), attempt.assignment_id))
    return WhosePage(
        frame=frame(Stage.REVIEW),
        attempt=attempt,
        sheets=tuple(sheet for sheet in sheets if sheet.id != attempt.sheet_id),
    )
