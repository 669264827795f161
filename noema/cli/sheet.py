"""noema sheet KIND: write sheet.pdf, sheet.svg and layout.json."""

import json
from pathlib import Path
from typing import Any

import click

from noema.cli.asking import exercise_options, question_of
from noema.core.exercises.media import Medium, cautions
from noema.core.pigments.cautions import cautions_of
from noema.core.sheet.code import checked_code
from noema.core.sheet.drawing import Drawing
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.key_sheet import draw_key_sheets
from noema.core.sheet.layout import Layout
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout
from noema.formats.layout_json import layout_to_json
from noema.formats.sheet_pdf import sheets_pdf
from noema.formats.sheet_svg import sheet_svg


@click.command("sheet")
@click.argument("kind")
@exercise_options
@click.option("--medium", type=click.Choice([m.value for m in Medium]), default="acrylic")
@click.option("--code", required=True, help="The sheet's code, such as K7Q2-04.")
@click.option("--paper", type=click.Choice([p.value for p in Paper]), default="a4")
@click.option("--student", default="", help="A name to print.")
@click.option("--parts", is_flag=True, help="Print the volumes beside each cell.")
@click.option("--grey", is_flag=True, help="For a black-and-white printer.")
@click.option("--key-sheet", is_flag=True, help="Also key.pdf, in colour, for the wall.")
@click.option("--out", type=click.Path(path_type=Path), required=True, help="A folder.")
def command(
    kind: str,
    medium: str,
    code: str,
    paper: str,
    student: str,
    parts: bool,
    grey: bool,
    key_sheet: bool,
    out: Path,
    **options: Any,
) -> None:
    """Write the worksheet of an exercise."""
    question = question_of(kind, **options)
    size, code = Paper(paper), checked_code(code)
    plain = question.plainly(Medium(medium))
    asked, of_paints = plain or question.asked(), plain is None
    layout = worksheet_layout(asked, size, code, grey_only=grey or not of_paints, volumes=parts)
    said = (
        cautions_of(question.paints.tubes, question.paints.binder)
        if of_paints
        else cautions(Medium(medium))
    )
    printed = Printed(student=student, cautions=said, shows_parts=parts)
    drawing = draw_worksheet(layout, asked, size, printed)
    _write(out, layout, drawing)
    if key_sheet:
        wall = draw_key_sheets(question.asked(), size, "")
        (out / "key.pdf").write_bytes(sheets_pdf(wall, wall[0].title))


def _write(out: Path, layout: Layout, drawing: Drawing) -> None:
    out.mkdir(parents=True, exist_ok=True)
    (out / "sheet.pdf").write_bytes(sheets_pdf([drawing], drawing.title))
    (out / "sheet.svg").write_text(sheet_svg(drawing), encoding="utf-8")
    (out / "layout.json").write_text(json.dumps(layout_to_json(layout), indent=1), encoding="utf-8")
