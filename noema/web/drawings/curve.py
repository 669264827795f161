"""A skill over weeks: dots for attempts, a band that holds nine in ten, the level behind them."""

from dataclasses import dataclass

from noema.core.language import gettext, written
from noema.core.progress.skill_courses import SkillCourse

WIDTH, HEIGHT = 200.0, 64.0
_LEFT, _RIGHT, _TOP, _BOTTOM = 6.0, 6.0, 5.0, 5.0
_MOST = 4.0  # points


@dataclass(frozen=True, kw_only=True)
class Curve:
    """One skill's course, small enough to stand among many."""

    name: str
    words: str
    band: str  # SVG path
    line: str
    dots: tuple[tuple[float, float, str], ...]  # x, y and what it says
    lines: tuple[float, ...]  # y of 1, 2 and 3 points
    width: float = WIDTH
    height: float = HEIGHT


def make_curve(found: SkillCourse, weeks: int) -> Curve:
    """Draw a course over a unit of some weeks."""
    xs = _places([point.week for point in found.points], weeks)
    low, high, level = found.course.low, found.course.high, found.course.curve
    upper = [f"{x:.1f} {_y(y):.1f}" for x, y in zip(xs, high, strict=True)]
    lower = [f"{x:.1f} {_y(y):.1f}" for x, y in zip(xs, low, strict=True)]
    return Curve(
        name=found.name,
        words=found.words[:1].upper() + found.words[1:],
        band="M" + "L".join([*upper, *reversed(lower)]) + "Z" if len(xs) > 1 else "",
        line="M" + "L".join(f"{x:.1f} {_y(y):.1f}" for x, y in zip(xs, level, strict=True)),
        dots=tuple(
            (
                round(x, 1),
                round(_y(point.points), 1),
                gettext(
                    "week %(week)s: %(points)s of 4, give or take %(sigma)s",
                    week=point.week,
                    points=written(point.points, ".1f"),
                    sigma=written(point.sigma, ".1f"),
                ),
            )
            for x, point in zip(xs, found.points, strict=True)
        ),
        lines=tuple(_y(float(points)) for points in (1, 2, 3)),
    )


def _places(weeks: list[int], unit: int) -> list[float]:
    """Place attempts by their week, side by side where several fall into one."""
    stride = (WIDTH - _LEFT - _RIGHT) / max(unit, *weeks, 1)
    places = []
    for n, week in enumerate(weeks):
        same = weeks.count(week)
        nth = weeks[:n].count(week)
        places.append(_LEFT + (max(week, 1) - 1 + (nth + 0.5) / same) * stride)
    return places


def _y(points: float) -> float:
    share = min(max(points, 0.0), _MOST) / _MOST
    return round(HEIGHT - _BOTTOM - share * (HEIGHT - _TOP - _BOTTOM), 1)
