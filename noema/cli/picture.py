"""noema picture LAYOUT.json: the stand-in for paint and camera, with the truth beside it."""

import json
from collections.abc import Mapping
from pathlib import Path

import click

from noema.core.colour.hvc import hvc_of
from noema.core.photo.knowledge import PRINTED_SOURCES, Known, with_known_print
from noema.core.photo.print_colours import LEAST_SIGMA
from noema.core.sheet.layout import Layout, Triple
from noema.formats.hvc_json import hvc_to_json
from noema.formats.layout_json import layout_from_text, layout_to_json
from noema.stand_ins.painter import PaintedCell
from noema.stand_ins.shot import PRESETS
from noema.stand_ins.studio import take_picture


@click.command("picture")
@click.argument("layout_file", type=click.Path(path_type=Path))
@click.option("--pdf", required=True, type=click.Path(path_type=Path))
@click.option("--seed", type=int, default=1)
@click.option("--preset", type=click.Choice(list(PRESETS)), default="easy")
@click.option("--out", type=click.Path(path_type=Path), required=True, help="A folder.")
@click.option("--known-print", is_flag=True, help="Also write the layout as after a calibration.")
def command(
    layout_file: Path, pdf: Path, seed: int, preset: str, out: Path, known_print: bool
) -> None:
    """Paint and photograph a sheet."""
    layout = layout_from_text(layout_file.read_text(encoding="utf-8"))
    picture = take_picture(layout, pdf.read_bytes(), seed=seed, preset=preset)
    out.mkdir(parents=True, exist_ok=True)
    (out / "photo.jpg").write_bytes(picture.jpeg)
    if known_print:
        known = json.dumps(layout_to_json(_calibrated(layout, picture.patches)), indent=1)
        (out / "known-layout.json").write_text(known, encoding="utf-8")
    truth = {
        "sheet": layout.sheet,
        "seed": seed,
        "preset": preset,
        "cells": [_truth(cell) for cell in picture.truth],
    }
    (out / "truth.json").write_text(json.dumps(truth, indent=1), encoding="utf-8")


def _calibrated(layout: Layout, labs: Mapping[str, Triple]) -> Layout:
    known = {
        patch.nominal_srgb: Known(lab=labs[patch.id], sigma=LEAST_SIGMA)
        for patch in layout.reference
    }
    return with_known_print(layout, known, PRINTED_SOURCES[0])


def _truth(cell: PaintedCell) -> dict[str, object]:
    if cell.lab is None:
        return {"id": cell.id, "lab": None, "hvc": None}
    lab = [round(part, 3) for part in cell.lab]
    return {"id": cell.id, "lab": lab, "hvc": hvc_to_json(hvc_of(lab))}
