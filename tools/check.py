"""Checks everything: format, lint, types, tests. `make test` and CI call it."""

import os
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
BIN = ROOT / ".venv/bin"

CHECKS = (
    ["ruff", "format", "--check", "--quiet", "."],
    ["ruff", "check", "--quiet", "."],
    ["mypy"],
    ["pytest", "--numprocesses=auto", "--dist=worksteal"],
)
_ONE_THREAD = {"OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}
"""There is a process for every core already."""


def main() -> None:
    for name, *arguments in CHECKS:
        print(f"— {name} {' '.join(arguments)}", flush=True)
        done = subprocess.run(
            [BIN / name, *arguments], cwd=ROOT, env=os.environ | _ONE_THREAD, check=False
        )
        if done.returncode != 0:
            sys.exit(f"noema: {name} found something to mend, above.")


if __name__ == "__main__":
    main()
