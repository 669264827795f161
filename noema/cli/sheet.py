"""noema sheet KIND: write sheet.pdf, sheet.svg and layout.json."""

import json
from pathlib import Path

import click

from noema.core.errors import BadExercise
from noema.core.exercises.media import Medium
from noema.core.exercises.value_scale import KIND, ValueScale
from noema.core.sheet.code import checked_code
from noema.core.sheet.paper import Paper
from noema.core.sheet.value_scale_sheet import SheetWords, draw_value_scale, value_scale_layout
from noema.formats.layout_json import layout_to_json
from noema.formats.sheet_pdf import sheets_pdf
from noema.formats.sheet_svg import sheet_svg


@click.command("sheet")
@click.argument("kind")
@click.option("--steps", type=int, default=9, help="Cells, 5 to 11.")
@click.option("--hue", default="neutral", help="Of the scale; neutral is the only one yet.")
@click.option("--key", type=click.Choice(["even", "named", "own-ends"]), default="even")
@click.option("--medium", type=click.Choice([m.value for m in Medium]), default="acrylic")
@click.option("--code", required=True, help="The sheet's code, such as K7Q2-04.")
@click.option("--paper", type=click.Choice([p.value for p in Paper]), default="a4")
@click.option("--student", default="", help="A name to print.")
@click.option("--out", type=click.Path(path_type=Path), required=True, help="A folder.")
def command(
    kind: str,
    steps: int,
    hue: str,
    key: str,
    medium: str,
    code: str,
    paper: str,
    student: str,
    out: Path,
) -> None:
    """Write the worksheet of an exercise; its targets are the same under every key."""
    if kind != KIND:
        raise BadExercise(f"There is no exercise “{kind}” yet: use {KIND}.")
    if hue != "neutral":
        raise BadExercise(f"A value scale of {hue} can't be made yet: use neutral.")
    scale = ValueScale(steps=steps, medium=Medium(medium))
    layout = value_scale_layout(scale, Paper(paper), checked_code(code))
    drawing = draw_value_scale(layout, scale, SheetWords(student=student, school_class="", due=""))
    out.mkdir(parents=True, exist_ok=True)
    (out / "sheet.pdf").write_bytes(sheets_pdf([drawing], drawing.title))
    (out / "sheet.svg").write_text(sheet_svg(drawing), encoding="utf-8")
    (out / "layout.json").write_text(json.dumps(layout_to_json(layout), indent=1), encoding="utf-8")
