"""The stair: painted values against the even stair, value up, steps along."""

from dataclasses import dataclass

from noema.core.colour.srgb import lab_to_hex
from noema.core.judging.judgement import Judgement
from noema.core.language import gettext, written
from noema.web.drawings.strip import BRACKET_SIGMAS

WIDTH, HEIGHT = 540.0, 280.0
LEFT, TOP, BOTTOM = 34.0, 10.0, 26.0
_TOP_VALUE = 10.0


@dataclass(frozen=True, kw_only=True)
class Tread:
    """One painted step on the stair."""

    id: str
    label: str
    left: float
    middle: float
    width: float
    y: float
    high: float  # end of the doubt, upwards
    low: float
    fill: str
    said: str


@dataclass(frozen=True, kw_only=True)
class Stair:
    """The whole plot."""

    even: str  # SVG path of the stair that was asked for
    treads: tuple[Tread, ...]
    lines: tuple[tuple[int, float], ...]  # value, y
    width: float = WIDTH
    height: float = HEIGHT
    left: float = LEFT


def make_stair(judgement: Judgement) -> Stair:
    """Lay out the stair of a judged sheet."""
    fills = lab_to_hex([cell.painted_lab for cell in judgement.cells])
    width = (WIDTH - LEFT) / len(judgement.cells)
    treads = tuple(
        Tread(
            id=cell.id,
            label=cell.label,
            left=round(LEFT + n * width + width * 0.12, 1),
            middle=round(LEFT + (n + 0.5) * width, 1),
            width=round(width * 0.76, 1),
            y=_y(cell.painted_value),
            high=_y(cell.painted_value + BRACKET_SIGMAS * cell.sigma),
            low=_y(cell.painted_value - BRACKET_SIGMAS * cell.sigma),
            fill=fills[n],
            said=gettext(
                "Step %(label)s: value %(painted_value)s, asked %(expected_value)s",
                label=cell.label,
                painted_value=written(cell.painted_value, ".1f"),
                expected_value=written(cell.expected_value, ".1f"),
            ),
        )
        for n, cell in enumerate(judgement.cells)
    )
    return Stair(
        even=even_path([cell.expected_value for cell in judgement.cells]),
        treads=treads,
        lines=tuple((value, _y(value)) for value in range(0, 11, 2)),
    )


def even_path(values: list[float]) -> str:
    """Draw the stair through expected values as an SVG path."""
    width = (WIDTH - LEFT) / len(values)
    corners = [
        f"{LEFT + (n + side) * width:.1f} {_y(value):.1f}"
        for n, value in enumerate(values)
        for side in (0, 1)
    ]
    return "M" + "L".join(corners)


def _y(value: float) -> float:
    room = HEIGHT - TOP - BOTTOM
    return round(TOP + room * (1.0 - max(0.0, min(_TOP_VALUE, value)) / _TOP_VALUE), 1)
