"""The commands of the contract, from a shell."""

import json
import subprocess
import sys
from pathlib import Path

import pytest
from PIL import Image

from noema.actions.log_in import log_in

NOEMA = Path(sys.executable).with_name("noema")


def noema(*arguments, given: str = "") -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [NOEMA, *map(str, arguments)], input=given, capture_output=True, text=True, check=False
    )


@pytest.fixture(scope="module")
def painted(tmp_path_factory):
    """A folder with a sheet, its layout, a photograph and the truth."""
    folder = tmp_path_factory.mktemp("sheet")
    made = noema("sheet", "value-scale", "--steps", 7, "--code", "K7Q2-04", "--out", folder)
    assert made.returncode == 0, made.stderr
    shot = noema(
        "picture",
        folder / "layout.json",
        "--pdf",
        folder / "sheet.pdf",
        "--seed",
        5,
        "--preset",
        "easy",
        "--known-print",
        "--out",
        folder,
    )
    assert shot.returncode == 0, shot.stderr
    return folder


def test_sheet_picture_read_judge(painted):
    read = noema("read", painted / "photo.jpg", "--layout", painted / "layout.json", "--json")
    assert read.returncode == 0, read.stderr
    reading = json.loads(read.stdout)
    truth = json.loads((painted / "truth.json").read_text())
    assert reading["found"]
    assert reading["sheet"] == "K7Q2-04"
    assert [c["id"] for c in reading["cells"]] == [c["id"] for c in truth["cells"]]
    for cell, true in zip(reading["cells"], truth["cells"], strict=True):
        assert cell["hvc"]["value"] == pytest.approx(true["hvc"]["value"], abs=0.3)
        assert set(cell) >= {"id", "lab", "hvc", "sigma", "flags"}
    (painted / "reading.json").write_text(read.stdout)
    judged = noema(
        "judge",
        painted / "reading.json",
        "--exercise",
        "value-scale",
        "--key",
        "own-ends",
        "--level",
        "advanced",
        "--json",
    )
    assert judged.returncode == 0, judged.stderr
    answer = json.loads(judged.stdout)
    assert len(answer["cells"]) == 7
    assert answer["advice"]
    _judged_by_a_teachers_sheet(painted / "reading.json", reading)


def test_two_photographs_of_a_sheet_are_read_as_one(painted, tmp_path):
    first, second = painted / "photo.jpg", tmp_path / "again.jpg"
    second.write_bytes(first.read_bytes())
    layout = ("--layout", painted / "layout.json", "--json")
    alone = json.loads(noema("read", first, *layout).stdout)
    read = noema("read", first, second, *layout, "--together")
    assert read.returncode == 0, read.stderr
    (line,) = read.stdout.splitlines()
    both = json.loads(line)
    assert both["photos"] == [str(first), str(second)]
    assert [cell["lab"] for cell in both["cells"]] == [cell["lab"] for cell in alone["cells"]]
    for cell, one in zip(both["cells"], alone["cells"], strict=True):
        assert cell["sigma"] < one["sigma"]


def test_read_with_what_is_known_beside(painted):
    known = noema("read", painted / "photo.jpg", "--layout", painted / "known-layout.json")
    assert "printer" in json.loads(known.stdout)["knowledge"]
    card = painted / "card.csv"
    card.write_text("name,L,a,b\ngrey,50,0,0\n")
    photo = [painted / "photo.jpg", "--layout", painted / "layout.json"]
    read = noema("read", *photo, "--card", card, "--card-columns", 1)
    assert "card" not in json.loads(read.stdout)["knowledge"]
    outline = painted / "outline.json"
    outline.write_text('{"corners": [[0.1, 0.1], [0.9, 0.9], [0.9, 0.1], [0.1, 0.9]]}')
    crossed = noema("read", *photo, "--outline", outline)
    assert crossed.returncode != 0
    assert "cross" in crossed.stderr


def _judged_by_a_teachers_sheet(file, reading):
    """Held against itself every cell lies where it should; another exercise's sheet won't do."""
    held = noema("judge", file, "--key", "teacher", "--teacher", file)
    assert {cell["drift"]["value"] for cell in json.loads(held.stdout)["cells"]} == {0.0}
    short = file.with_name("short.json")
    short.write_text(json.dumps({**reading, "cells": reading["cells"][:5]}))
    for call in (["--teacher", short], []):
        refused = noema("judge", file, "--key", "teacher", *call)
        assert refused.returncode == 2
        assert "teacher" in refused.stderr


def test_the_same_seed_gives_the_same_photograph(painted, tmp_path):
    noema(
        "picture",
        painted / "layout.json",
        "--pdf",
        painted / "sheet.pdf",
        "--seed",
        5,
        "--out",
        tmp_path,
    )
    assert (tmp_path / "photo.jpg").read_bytes() == (painted / "photo.jpg").read_bytes()


def test_no_sheet_is_an_answer(painted, tmp_path):
    Image.new("RGB", (800, 600), "grey").save(tmp_path / "desk.png")
    read = noema("read", tmp_path / "desk.png", "--layout", painted / "layout.json", "--json")
    assert read.returncode == 0
    assert json.loads(read.stdout)["found"] is False
    assert "no-sheet" in json.loads(read.stdout)["flags"]


def test_hvc_converts_lines_in_order():
    done = noema("hvc", given="50,0,0\n51.42,44.43,22.82\n")
    first, second = done.stdout.splitlines()
    assert first.startswith("N,,4.9")
    assert second.startswith("5.0R,")


BAD_CALLS = {
    "no command": ([], "", "Usage"),
    "unknown command": (["paint"], "", "No such command"),
    "unknown kind": (
        ["sheet", "wheelbarrow", "--code", "K7Q2-04", "--out", "x"],
        "",
        "value-scale",
    ),
    "steps": (
        ["sheet", "value-scale", "--steps", "0", "--code", "K7Q2-04", "--out", "x"],
        "",
        "5 to 11",
    ),
    "code": (["sheet", "value-scale", "--code", "OOPS", "--out", "x"], "", "K7Q2-04"),
    "no photo": (["read", "nowhere.jpg", "--layout", "nowhere.json"], "", "nowhere"),
    "hvc word": (["hvc"], "50,0,0\n50,0,zero\n", "line 2: b* is not a number"),
    "hvc columns": (["hvc"], "50,0\n", "line 1: 2 columns"),
    "no database": (["migrate"], "", "NOEMA_DATABASE_URL"),
}


@pytest.mark.parametrize("call", BAD_CALLS)
def test_bad_calls_get_one_clear_line_and_status_2(call):
    arguments, given, reason = BAD_CALLS[call]
    done = noema(*arguments, given=given)
    assert done.returncode == 2
    assert reason in done.stderr + done.stdout
    assert "Traceback" not in done.stderr
    assert len(done.stderr.strip().splitlines()) <= 1


def test_a_text_file_is_no_photograph(painted, tmp_path):
    (tmp_path / "photo.jpg").write_text("not a picture")
    done = noema("read", tmp_path / "photo.jpg", "--layout", painted / "layout.json")
    assert done.returncode == 2
    assert "photo.jpg" in done.stderr


def test_a_school_and_its_first_teacher_are_made(settings, sessions, monkeypatch):
    monkeypatch.setenv("NOEMA_DATABASE_URL", settings.database_url)
    call = [
        "school",
        "--name",
        "Hill School",
        "--email",
        "Kit@Hill.example",
        "--teacher",
        "Kit",
        "--password",
        "a long enough one",
    ]
    assert noema(*call).returncode == 0
    with sessions() as session:
        assert log_in(session, "kit@hill.example", "a long enough one").school_name == "Hill School"
    again = noema(*call)
    assert again.returncode == 2
    assert "already a school" in again.stderr
    elsewhere = [*call, "--time-zone", "Europe/Saltmarsh"]
    elsewhere[2], elsewhere[4] = "Dale School", "kit@dale.example"
    refused = noema(*elsewhere)
    assert refused.returncode == 2
    assert "is no time zone" in refused.stderr
    elsewhere[-1] = "Europe/London"
    assert noema(*elsewhere).returncode == 0
    with sessions() as session:
        teacher = log_in(session, "kit@dale.example", "a long enough one")
        assert teacher.time_zone == "Europe/London"
