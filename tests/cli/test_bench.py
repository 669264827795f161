"""noema bench: acts in, a state a line out."""

import json
import subprocess
from pathlib import Path

import pytest

NOEMA = Path(__file__).parents[2] / ".venv/bin/noema"
ACTS = [
    ["squeeze", "lemon-yellow", 2],
    ["squeeze", "phthalo-blue", 1],
    ["pile", "green"],
    ["take", "lemon-yellow", 1.0, "green"],
    ["wipe"],
    ["take", "phthalo-blue", 0.1, "green"],
    ["mix", "green"],
    ["halve", "green", "aside"],
    ["let-down", "aside", "white", 0.5],
    ["let-down", "green", "water", 2],
    ["dry", "green"],
]


def bench(tmp_path, **told):
    file = tmp_path / "acts.json"
    usual = {"format": "noema-bench/1", "set": "split-six", "medium": "acrylic", "acts": ACTS}
    file.write_text(json.dumps({**usual, **told}), encoding="utf-8")
    return subprocess.run(
        [NOEMA, "bench", file, "--json"], capture_output=True, text=True, check=False
    )


def test_every_act_gives_its_state(tmp_path):
    done = bench(tmp_path)
    assert done.returncode == 0, done.stderr
    states = [json.loads(line) for line in done.stdout.splitlines()]
    assert [state["act"] for state in states] == list(range(1, len(ACTS) + 1))
    last = states[-1]
    assert set(last["piles"]) == {"green", "aside"}
    for pile in last["piles"].values():
        assert {"ml", "parts", "lab", "hvc", "wet_lab"} <= set(pile)
        assert pile["ml"] == pytest.approx(sum(pile["parts"].values()), abs=1e-5)
    squeezed = {"lemon-yellow": 2.0, "phthalo-blue": 1.0}
    for tube, ml in squeezed.items():
        everywhere = [last["dabs"], last["knife"], last["waste"]]
        everywhere += [pile["parts"] for pile in last["piles"].values()]
        assert sum(one.get(tube, 0.0) for one in everywhere) == pytest.approx(ml, abs=1e-4)
    hue = states[6]["piles"]["green"]["hvc"]["hue"]
    assert hue.endswith("G") or hue.endswith("GY")
    assert states[2]["piles"]["green"]["lab"] is None
    assert last["piles"]["aside"]["lab"][0] > states[7]["piles"]["aside"]["lab"][0]


@pytest.mark.parametrize(
    ("told", "sentence"),
    [
        ({"acts": [["squeeze", "gold", 1]]}, "Act 1: There is no “gold”"),
        ({"acts": [["wipe"], ["stir", "a"]]}, "Act 2: there is no such act"),
        ({"acts": [["squeeze", "scarlet"]]}, "Act 1: “squeeze” needs "),
        ({"acts": [["squeeze", "scarlet", True]]}, "needs "),
        ({"acts": [["pile", "a"], ["let-down", "a", "oil", 1]]}, "white|water"),
        ({"acts": "all"}, "must be a list"),
        ({"format": "another"}, "noema-bench/1"),
        ({"medium": "syrup"}, "The medium must be one of"),
        ({"set": "nothing"}, "nothing"),
    ],
)
def test_what_cant_be_played_is_one_sentence(tmp_path, told, sentence):
    done = bench(tmp_path, **told)
    assert done.returncode == 2
    assert len(done.stderr.splitlines()) == 1
    assert sentence in done.stderr
