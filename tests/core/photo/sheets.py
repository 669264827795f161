"""Sheets the tests of reading share."""

from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.layout import Layout
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout
from noema.formats.sheet_pdf import sheets_pdf
from tests.core.exercises.grounds import plain


def sheet_with_code(code: str) -> tuple[Layout, bytes]:
    """Give a value scale of seven steps with a code of its own, and its PDF."""
    asked = plain(7)
    layout = worksheet_layout(asked, Paper.A4, code, grey_only=True)
    drawing = draw_worksheet(layout, asked, Paper.A4, Printed(student="Ada"))
    return layout, sheets_pdf([drawing], "sheet")
