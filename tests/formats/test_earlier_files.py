"""What earlier versions wrote is still read: assignments, printed layouts, key files."""

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Asked, CellRole, Ground
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Key, Level
from noema.core.judging.judge import judge
from noema.core.photo.read import read_photo
from noema.core.pigments.shelf import builtin_set
from noema.core.sheet.drawing import Shape
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.paper import Paper
from noema.formats.asked_json import asked_from_json, asked_to_json
from noema.formats.key_json import key_from_json
from noema.formats.layout_json import layout_from_text
from noema.formats.options_json import options_from_json
from noema.formats.photo_file import open_photo
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.painter import Hand
from noema.stand_ins.studio import take_picture
from tests.core.exercises.grounds import plain

EARLIER = Path(__file__).parent / "earlier"
KEPT = json.loads((EARLIER / "assignments.json").read_text())
OF_PAINTS = [row for row in KEPT if row["set"]]
LAYOUT = layout_from_text((EARLIER / "value-scale-layout.json").read_text())


def worked_out(row: dict) -> Asked:
    kind = kind_of(row["kind"])
    ground = Ground(paints=builtin_set(row["set"]), table=USUAL_HUES)
    return kind.asked(options_from_json(kind, row["options"]), ground)


@pytest.mark.parametrize("row", OF_PAINTS, ids=lambda row: row["kind"])
def test_a_kept_assignment_opens_as_it_was_and_has_todays_cells(row):
    """Its colours are those of its own day: what tubes are known to be may have changed since."""
    kept = asked_from_json(row["asked"], builtin_set(row["set"]))
    today = asked_to_json(worked_out(row))
    bodies = {body["id"]: body for body in row["asked"]["cells"]}
    for cell, same in zip(asked_to_json(kept)["cells"], today["cells"], strict=True):
        assert (cell["id"], cell["role"]) == (same["id"], same["role"])
        assert cell["lab"] == pytest.approx(bodies[cell["id"]]["lab"], abs=0.01)
        if cell["of"]:
            assert cell["of"] == same["of"]


def test_roles_of_kept_cells_are_told_from_their_names():
    roles = {
        row["kind"]: {c.id: c for c in asked_from_json(row["asked"], None).cells}
        for row in OF_PAINTS
    }
    chart = roles["intensity-chart"]
    assert chart["r1c3"].role is CellRole.NEUTRAL
    assert (chart["r1n2"].role, chart["r1n2"].of) == (CellRole.TWIN, "r1c3")
    assert (chart["t1c4"].role, chart["t1c4"].of) == (CellRole.TINT, "r1n2")
    assert roles["mixed-darks"]["r1dark"].role is CellRole.DARK
    assert roles["secondary-pairs"]["r1p1m"].role is CellRole.SECONDARY
    assert roles["tube-swatches"]["s1c"].of == "s1a"
    assert roles["colour-wheel"]["tint-in-2"].of == "h2"


def test_a_scale_kept_without_what_it_expects_is_worked_out_from_its_steps():
    [row] = [row for row in KEPT if row["set"] is None]
    assert row["asked"] is None
    scale = kind_of(row["kind"])
    assert options_from_json(scale, row["options"]) == scale.chosen({"steps": 7})


def test_a_scale_printed_earlier_is_drawn_read_and_judged():
    asked = plain(7)
    drawing = draw_worksheet(LAYOUT, asked, Paper.A4, Printed(student="Ada"))
    drawn = {i.name: i.polygon_mm for i in drawing.items if isinstance(i, Shape) and i.name}
    assert drawn == {cell.id: cell.polygon_mm for cell in LAYOUT.cells}
    pdf = sheets_pdf([drawing], "sheet")
    hand = Hand(step_noise=0.0, bunching=0.0)
    picture = take_picture(LAYOUT, pdf, seed=3, preset="easy", hand=hand, size_px=(2000, 1500))
    reading = read_photo(open_photo(picture.jpeg), LAYOUT).reading
    assert reading.found
    judged = judge(replace(reading), asked, Key.NAMED, Level.BEGINNER)
    drifts = np.abs([cell.drift for cell in judged.cells])
    assert np.median(drifts) < 0.5


def test_a_key_file_comes_in():
    kept = key_from_json((EARLIER / "key.json").read_bytes())
    assert (kept.kind, kept.options) == ("tint-ladder", {"steps": 3, "tubes": ["rose"]})
