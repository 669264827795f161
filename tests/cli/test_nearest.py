"""noema nearest: the ten nearest entries, by CIEDE2000."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from noema.core.colour.difference import ciede2000

NOEMA = Path(sys.executable).with_name("noema")
HEAD = "kind,title,L,a,b,parts,words,made_on\n"


def nearest(path, lab):
    return subprocess.run(
        [NOEMA, "nearest", path, lab, "--json"], capture_output=True, text=True, check=False
    )


@pytest.fixture
def logbook(tmp_path):
    """Twelve greys and a red."""
    rows = [f'note,grey {n},{30 + 4 * n},0,0,"white:{n + 1}, black:1",,' for n in range(12)]
    path = tmp_path / "logbook.csv"
    path.write_text(HEAD + "\n".join([*rows, 'mix,red,45,60,40,"scarlet:3, rose",,2026-11-02']))
    return path


def test_ten_are_given_nearest_first(logbook):
    done = nearest(logbook, "47,1,0")
    assert done.returncode == 0
    found = [json.loads(line) for line in done.stdout.splitlines()]
    assert len(found) == 10
    assert found[0]["title"] == "grey 4"
    away = [float(ciede2000(one["lab"], [47, 1, 0])) for one in found]
    assert away == sorted(away)
    assert [one["de"] for one in found] == pytest.approx(away, abs=1e-3)


def test_parts_come_along(logbook):
    first = json.loads(nearest(logbook, "44,58,38").stdout.splitlines()[0])
    assert first["title"] == "red"
    assert first["parts"] == {"scarlet": 3.0, "rose": 1.0}
    assert first["made_on"] == "2026-11-02"


def test_measured_samples_do_as_well(tmp_path):
    path = tmp_path / "samples.csv"
    path.write_text("name,L*,a*,b*\nA,50,0,0\nB,60,10,0\n")
    assert json.loads(nearest(path, "59,9,0").stdout.splitlines()[0])["title"] == "B"


@pytest.mark.parametrize(
    ("content", "lab", "sentence"),
    [
        ("L,a,b\n1,2,x\n", "50,0,0", "Line 2"),
        ("L,a,b\n50,0,0\n", "50,0", "three numbers"),
        ("L,a,b,parts\n50,0,0,rose:many\n", "50,0,0", "is no part"),
        ("L,a,b,kind\n50,0,0,dream\n", "50,0,0", "no kind"),
    ],
)
def test_what_cant_be_used_is_one_sentence(tmp_path, content, lab, sentence):
    path = tmp_path / "logbook.csv"
    path.write_text(content)
    done = nearest(path, lab)
    assert done.returncode == 2
    assert len(done.stderr.splitlines()) == 1
    assert sentence in done.stderr
