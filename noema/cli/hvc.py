"""noema hvc: L,a,b lines in, hue,hue100,value,chroma lines out, in order."""

import sys

import click
import numpy as np

from noema.core.colour.hvc import hvcs_of
from noema.core.errors import BadFile

_BATCH = 200_000
_NAMES = ("L*", "a*", "b*")


@click.command("hvc")
def command() -> None:
    """Convert Lab (D50) on standard input."""
    start = 1
    while lines := sys.stdin.readlines(_BATCH * 20):
        rows = [_numbers(line, start + n) for n, line in enumerate(lines)]
        start += len(lines)
        given = np.array([row for row in rows if row is not None], dtype=float).reshape(-1, 3)
        out = [
            f"{hvc.notation},{'' if hvc.hue100 is None else format(hvc.hue100, '.3f')},"
            f"{hvc.value:.4f},{hvc.chroma:.3f}"
            for hvc in hvcs_of(given)
        ]
        if out:
            sys.stdout.write("\n".join(out) + "\n")


def _numbers(line: str, number: int) -> list[float] | None:
    parts = line.strip().split(",")
    if parts == [""]:
        return None
    if len(parts) != 3:
        raise BadFile(f"line {number}: {len(parts)} columns where L,a,b are three")
    values = []
    for name, part in zip(_NAMES, parts, strict=True):
        try:
            value = float(part)
        except ValueError as wrong:
            raise BadFile(f"line {number}: {name} is not a number") from wrong
        if not np.isfinite(value) or abs(value) > 1000:
            raise BadFile(f"line {number}: {name} is not a colour's number")
        values.append(value)
    if not 0.0 <= values[0] <= 100.0:
        raise BadFile(f"line {number}: L* lies outside 0 to 100")
    return values
