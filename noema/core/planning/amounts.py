"""How much of each tube a class needs, as a range, and what that is when squeezed out.

A cell's paint is its area times the wet film times its coats. A mix needs a pile of some size to
be mixed at all, and part of what is mixed stays on palette, knife and brush. The two ends of a
row are laid out once and lend to every step; each step is a pile of its own.
"""

import csv
from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from math import exp, hypot, log
from pathlib import Path

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Asked, AskedCell
from noema.core.exercises.media import Medium
from noema.core.language import NN_, gettext, ngettext
from noema.core.sheet.layout import Polygon
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout

_TABLE = Path(__file__).parent / "data" / "film.csv"
_MM3_A_ML = 1000.0
_LEAST_DAB_ML = 0.1  # a tube is never squeezed for less
_ANY_CODE = "AAAA-01"


@dataclass(frozen=True, kw_only=True)
class Range:
    """A quantity with its doubt: nine in ten lie between little and much."""

    little: float
    usual: float
    much: float


@dataclass(frozen=True, kw_only=True)
class Habits:
    """How a class paints."""

    film_mm: Range
    coats: Range
    pile_ml: Range  # the smallest that is mixed
    left: Range = Range(little=1 / 3, usual=1 / 2, much=2 / 3)  # share of a mix never painted with
    again: Range = Range(little=0.0, usual=0.15, much=0.3)  # sheets painted again, a student


@dataclass(frozen=True, kw_only=True)
class Amounts:
    """Millilitres by tube."""

    tubes: Mapping[str, Range]  # for all
    per_person: Mapping[str, Range]
    labels: Mapping[str, str]  # what tubes are called
    people: int


def notes_of_amounts() -> tuple[str, ...]:
    """Say what is to be known about amounts."""
    return (
        gettext("Nine in ten classes use between the least and the most given."),
        gettext("One sheet more is counted, for showing it."),
        gettext(
            "Each row’s two ends are laid out once, enough for all its steps; a third to two "
            "thirds of what is mixed stays on palette, knife and brush."
        ),
        gettext("White and light yellow run out first: order them one size up."),
    )


def habits_of(medium: Medium) -> Habits:
    """Give how a class usually paints in a medium; refuses what isn't squeezed from a tube."""
    if medium not in _HABITS:
        raise BadExercise(
            gettext(
                "%(medium)s isn't squeezed from tubes: there is nothing to work out.",
                medium=gettext(medium.value).capitalize(),
            )
        )
    return _HABITS[medium]


def amounts_of(
    asked: Asked,
    medium: Medium,
    people: int,
    *,
    paper: Paper = Paper.A4,
    habits: Habits | None = None,
    cells: Collection[str] | None = None,
) -> Amounts:
    """Work out what some people need for an exercise, or for some of its cells."""
    how = habits or habits_of(medium)
    area_mm2 = _areas(asked, paper)
    painted = tuple(
        cell for cell in asked.on_paper if cell.parts and (cells is None or cell.id in cells)
    )
    usual = _usual_ml(painted, area_mm2, how)
    spread = {name: _spread(painted, area_mm2, how, name) for name in usual}
    per_person = {
        name: Range(little=ml / exp(spread[name][0]), usual=ml, much=ml * exp(spread[name][1]))
        for name, ml in usual.items()
    }
    return Amounts(
        tubes={name: times(one, people + 1) for name, one in per_person.items()},
        per_person=per_person,
        labels={part.tube.name: part.tube.label for cell in asked.on_paper for part in cell.parts},
        people=people,
    )


def squeezed(ml: float) -> str:
    """Say an amount as a painter squeezes it.

    >>> squeezed(3.1)
    'a hazelnut and 2 peas'
    >>> squeezed(0.06)
    'a grain'
    """
    first = next((n for n, (size, _, _) in enumerate(_SIZES) if ml >= _NEARLY * size), -1)
    count = max(int(ml / _SIZES[first][0] + 1.0 - _NEARLY + _ROUNDING), 1)
    said, rest = _counted(first, count), ml - count * _SIZES[first][0]
    if first < 0 or rest < _NEGLIGIBLE * ml:
        return said
    second = next((n for n, (size, _, _) in enumerate(_SIZES) if rest >= _NEARLY * size), -1)
    if second <= first:
        return said
    other = _counted(second, round(rest / _SIZES[second][0]))
    return gettext("%(one)s and %(other)s", one=said, other=other)


def _counted(size: int, count: int) -> str:
    _, one, many = _SIZES[size]
    return ngettext(one, many, count)


def rounded_ml(ml: float) -> float:
    """Round to two figures: more would be false.

    >>> [rounded_ml(ml) for ml in (0.0537, 3.14, 127.0)]
    [0.05, 3.1, 130.0]
    """
    if ml < 0.1:
        return round(ml, 2)
    return float(f"{ml:.2g}")


_SIZES = (
    (8.0, *NN_("a walnut", "%(count)s walnuts")),
    (2.0, *NN_("a hazelnut", "%(count)s hazelnuts")),
    (0.5, *NN_("a pea", "%(count)s peas")),
    (0.1, *NN_("a touch", "%(count)s touches")),
    (0.05, *NN_("a grain", "%(count)s grains")),
)
"""What is squeezed from a tube, in ml, by the names painters give it."""

_NEARLY, _NEGLIGIBLE, _ROUNDING = 0.9, 0.15, 1e-6


def _areas(asked: Asked, paper: Paper) -> dict[str, float]:
    layout = worksheet_layout(asked, paper, _ANY_CODE, grey_only=True)
    return {cell.id: _area(cell.polygon_mm) for cell in layout.cells}


def _area(polygon: Polygon) -> float:
    turned = (*polygon[1:], polygon[0])
    return abs(sum(x * v - u * y for (x, y), (u, v) in zip(polygon, turned, strict=True))) / 2.0


def _usual_ml(
    painted: Sequence[AskedCell], area_mm2: Mapping[str, float], how: Habits
) -> dict[str, float]:
    """Give one person's millilitres by tube, painting again included."""
    used: dict[str, float] = defaultdict(float)
    for cell in painted:
        whole = sum(part.amount for part in cell.parts)
        for part in cell.parts:
            used[part.tube.name] += _mixed_ml(cell, area_mm2[cell.id], how) * part.amount / whole
    times = 1.0 + how.again.usual
    return {name: max(ml * times, _LEAST_DAB_ML) for name, ml in used.items()}


def _mixed_ml(cell: AskedCell, area_mm2: float, how: Habits) -> float:
    painted = area_mm2 * how.film_mm.usual * how.coats.usual / _MM3_A_ML
    laid_out = painted / (1.0 - how.left.usual)
    is_mix = len(cell.parts) > 1
    return max(laid_out, how.pile_ml.usual) if is_mix else laid_out


_VARIES = ("film_mm", "coats", "pile_ml", "left", "again")


def _spread(
    painted: Sequence[AskedCell], area_mm2: Mapping[str, float], how: Habits, name: str
) -> tuple[float, float]:
    """Give the logarithms of what little and much are beside the usual, each habit by itself."""
    usual = _usual_ml(painted, area_mm2, how)[name]
    below, above = list[float](), list[float]()
    for habit in _VARIES:
        one: Range = getattr(how, habit)
        for end, found in ((one.little, below), (one.much, above)):
            other = replace(how, **{habit: replace(one, usual=end)})
            found.append(abs(log(_usual_ml(painted, area_mm2, other)[name] / usual)))
    return hypot(*below), hypot(*above)


def times(one: Range, count: int) -> Range:
    """Multiply a quantity; a class that uses much uses much of every sheet."""
    return Range(little=one.little * count, usual=one.usual * count, much=one.much * count)


def _load() -> dict[Medium, Habits]:
    with _TABLE.open(encoding="utf-8", newline="") as file:
        rows = list(csv.DictReader(line for line in file if not line.startswith("#")))
    return {
        Medium(row["medium"]): Habits(
            film_mm=_range(row, "film"), coats=_range(row, "coats"), pile_ml=_range(row, "pile")
        )
        for row in rows
    }


def _range(row: Mapping[str, str], name: str) -> Range:
    return Range(
        little=float(row[f"{name}_little"]),
        usual=float(row[f"{name}_usual"]),
        much=float(row[f"{name}_much"]),
    )


_HABITS = _load()
