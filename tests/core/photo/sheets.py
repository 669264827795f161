"""Sheets the tests of reading share."""

from noema.core.exercises.media import Medium
from noema.core.exercises.value_scale import ValueScale
from noema.core.sheet.layout import Layout
from noema.core.sheet.paper import Paper
from noema.core.sheet.value_scale_sheet import SheetWords, draw_value_scale, value_scale_layout
from noema.formats.sheet_pdf import sheets_pdf


def sheet_with_code(code: str) -> tuple[Layout, bytes]:
    """Give a value scale of seven steps with a code of its own, and its PDF."""
    scale = ValueScale(steps=7, medium=Medium.ACRYLIC)
    layout = value_scale_layout(scale, Paper.A4, code)
    words = SheetWords(student="Ada", school_class="Year 8", due="Due in week 6")
    return layout, sheets_pdf([draw_value_scale(layout, scale, words)], "sheet")
