"""Writes what each kind of exercise lets one choose into the public schema of key files.

Run: .venv/bin/python -m tools.make_schemas
"""

import json
from pathlib import Path
from typing import Any

from noema.core.exercises.catalogue import KINDS
from noema.formats.options_json import options_schema

KEY_SCHEMA = Path(__file__).parents[1] / "docs/schemas/noema-key-1.json"


def with_options(schema: dict[str, Any]) -> dict[str, Any]:
    """Give the schema of key files with the options of every kind there is."""
    schema["properties"]["kind"] = {"enum": sorted(KINDS)}
    schema["allOf"] = [
        {
            "if": {"properties": {"kind": {"const": name}}},
            "then": {"properties": {"options": options_schema(kind)}},
        }
        for name, kind in sorted(KINDS.items())
    ]
    return schema


def main() -> None:
    schema = with_options(json.loads(KEY_SCHEMA.read_text(encoding="utf-8")))
    KEY_SCHEMA.write_text(json.dumps(schema, indent=2) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
