"""The chosen cell's numbers as a small table: asked, painted, apart, within, and the doubt."""

from collections.abc import Iterator
from dataclasses import dataclass

from noema.core.colour.hvc import hvc_of
from noema.core.judging.judgement import CellJudgement, Drift
from noema.core.language import gettext, written

SIGMAS = 2.0
"""Sigmas that a doubt is shown with: it holds 19 of 20 readings."""


@dataclass(frozen=True, kw_only=True)
class NumberLine:
    """One quantity of a cell."""

    name: str
    asked: str
    painted: str
    apart: str  # painted less asked, where it may drift
    within: str
    doubt: str  # of what is apart, at two sigmas
    is_hue: bool


def number_lines(cell: CellJudgement) -> tuple[NumberLine, ...]:
    """Give value, then hue and chroma where they are asked for."""
    return tuple(_lines(cell))


def _lines(cell: CellJudgement) -> Iterator[NumberLine]:
    asked, painted = hvc_of(cell.expected_lab), hvc_of(cell.painted_lab)
    value = Drift(amount=cell.drift, sigma=cell.sigma, tolerance=cell.tolerance)
    values = written(cell.expected_value, ".1f"), written(cell.painted_value, ".1f")
    yield _line(gettext("value"), *values, value, 2)
    if cell.hue is not None:
        yield _line(gettext("hue"), asked.notation, painted.notation, cell.hue, 1, is_hue=True)
    if cell.chroma is not None:
        chromas = written(asked.chroma, ".1f"), written(painted.chroma, ".1f")
        yield _line(gettext("chroma"), *chromas, cell.chroma, 1)


def _line(
    name: str, asked: str, painted: str, drift: Drift, places: int, *, is_hue: bool = False
) -> NumberLine:
    return NumberLine(
        name=name,
        asked=asked,
        painted=painted,
        apart=written(drift.amount, f"+.{places}f"),
        within=written(drift.tolerance),
        doubt=written(SIGMAS * drift.sigma, f".{places}f"),
        is_hue=is_hue,
    )
