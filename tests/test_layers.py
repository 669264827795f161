"""Imports point downwards: the table of docs/architecture.md, enforced."""

import ast
from pathlib import Path

import pytest

PACKAGE = Path(__file__).parents[1] / "noema"

MAY_IMPORT = {
    "core": set(),
    "formats": {"core"},
    "store": {"core"},
    "devices": {"core", "formats"},
    "stand_ins": {"core", "formats", "devices"},
    "actions": {"core", "formats", "store", "devices"},
    "web": {"core", "formats", "store", "devices", "actions"},
    "jobs": {"core", "store", "devices", "actions"},
    "cli": {"core", "formats", "store", "devices", "actions", "stand_ins", "settings"},
    "settings": {"core"},
}
CORE_ORDER = [
    "errors",
    "language",
    "parameters",
    "statistics",
    "joining",
    "colour",
    "pigments",
    "exercises",
    "sheet",
    "photo",
    "judging",
    "coaching",
    "words",
    "progress",
    "planning",
    "bench",
    "seeing",
    "logbook",
    "pictures",
]
OUTSIDE_CORE = {"flask", "sqlalchemy", "PIL", "reportlab", "segno", "procrastinate", "click"}

FILES = sorted(PACKAGE.rglob("*.py"))


def imported(file: Path) -> list[ast.Import | ast.ImportFrom]:
    tree = ast.parse(file.read_text(encoding="utf-8"))
    return [node for node in ast.walk(tree) if isinstance(node, ast.Import | ast.ImportFrom)]


def names(node: ast.Import | ast.ImportFrom) -> list[str]:
    return [alias.name for alias in node.names] if isinstance(node, ast.Import) else [node.module]


@pytest.mark.parametrize("file", FILES, ids=lambda f: str(f.relative_to(PACKAGE)))
def test_imports_point_downwards(file):
    parts = file.relative_to(PACKAGE).with_suffix("").parts
    layer = parts[0]
    modules = [name for node in imported(file) for name in names(node)]
    if layer in MAY_IMPORT:
        inside = {name.split(".")[1] for name in modules if name.startswith("noema.")}
        assert inside <= MAY_IMPORT[layer] | {layer}
    if layer == "core" and len(parts) > 1:
        own = CORE_ORDER.index(parts[1]) if parts[1] in CORE_ORDER else -1
        used = [name.split(".")[2] for name in modules if name.startswith("noema.core.")]
        assert all(CORE_ORDER.index(name) <= own for name in used)
        assert not {name.split(".")[0] for name in modules} & OUTSIDE_CORE
        assert "cv2" not in modules or parts[1] == "photo"
        solves = any(name.split(".")[0] == "ortools" for name in modules)
        assert not solves or parts[1] == "planning"


@pytest.mark.parametrize("file", FILES, ids=lambda f: str(f.relative_to(PACKAGE)))
def test_imports_stand_at_the_top(file):
    body = ast.parse(file.read_text(encoding="utf-8")).body
    assert set(map(ast.unparse, imported(file))) == {
        ast.unparse(n) for n in body if isinstance(n, ast.Import | ast.ImportFrom)
    }
