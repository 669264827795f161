"""A kind's name stands in its own file alone: everything else goes by its traits."""

import ast
from collections.abc import Iterator
from pathlib import Path

import noema
from noema.core.exercises.catalogue import KINDS

ROOT = Path(noema.__file__).parent
TELLS_A_STORY = {"stand_ins/saltmarsh.py"}  # what a made-up school was given
HISTORY = "store/migrations/"


def names_in(path: Path) -> Iterator[str]:
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Constant) and node.value in KINDS:
            yield node.value


def test_no_kind_is_named_outside_its_own_file():
    named = {}
    for path in ROOT.rglob("*.py"):
        place = path.relative_to(ROOT).as_posix()
        if place in TELLS_A_STORY or place.startswith(HISTORY):
            continue
        own = f"core/exercises/kinds/{path.name}" == place and path.stem.replace("_", "-")
        if found := [name for name in names_in(path) if name != own]:
            named[place] = found
    assert named == {}


def test_every_kind_has_a_file_of_its_name():
    files = {path.stem for path in (ROOT / "core/exercises/kinds").glob("*.py")} - {"__init__"}
    assert {name.replace("-", "_") for name in KINDS} == files
