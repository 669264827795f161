"""Checks everything: format, lint, types, tests. `make test` and CI call it."""

import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
BIN = ROOT / ".venv/bin"

CHECKS = (
    ["ruff", "format", "--check", "--quiet", "."],
    ["ruff", "check", "--quiet", "."],
    ["mypy"],
    ["pytest"],
)


def main() -> None:
    for name, *arguments in CHECKS:
        print(f"— {name} {' '.join(arguments)}", flush=True)
        done = subprocess.run([BIN / name, *arguments], cwd=ROOT, check=False)
        if done.returncode != 0:
            sys.exit(f"noema: {name} found something to mend, above.")


if __name__ == "__main__":
    main()
