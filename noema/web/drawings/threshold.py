"""The smallest difference somebody sees, series by series: lower is finer."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log

from noema.core.language import gettext, written
from noema.core.statistics.adaptive import Found

_WIDTH, _HEIGHT, _EDGE = 220.0, 72.0, 8.0


@dataclass(frozen=True, kw_only=True)
class ThresholdDot:
    """One series."""

    x: float
    y: float
    low_y: float
    high_y: float
    said: str


@dataclass(frozen=True, kw_only=True)
class ThresholdCurve:
    """Series in time, on a scale of equal ratios."""

    dots: tuple[ThresholdDot, ...]
    line: str  # SVG path
    said: str
    width: float = _WIDTH
    height: float = _HEIGHT


def draw_thresholds(said: str, course: Sequence[tuple[str, Found]]) -> ThresholdCurve:
    """Draw what each series found, with its day and doubt."""
    least = log(min(found.low for _, found in course))
    most = log(max(found.high for _, found in course))
    span = max(most - least, 0.1)

    def place(level: float) -> float:
        share = (log(level) - least) / span
        return round(_HEIGHT - _EDGE - share * (_HEIGHT - 2.0 * _EDGE), 1)

    stride = (_WIDTH - 2.0 * _EDGE) / max(len(course) - 1, 1)
    dots = tuple(
        ThresholdDot(
            x=round(_EDGE + number * stride, 1),
            y=place(found.threshold),
            low_y=place(found.low),
            high_y=place(found.high),
            said=gettext("%(day)s: %(size)s", day=day, size=written(found.threshold, ".2f")),
        )
        for number, (day, found) in enumerate(course)
    )
    line = "M" + "L".join(f"{dot.x} {dot.y}" for dot in dots)
    return ThresholdCurve(dots=dots, line=line, said=said)
