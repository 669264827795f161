"""Planning: three classes of a unit of fourteen exercises, and twenty that share two rooms."""

import time
from collections.abc import Sequence
from datetime import date, timedelta
from datetime import time as clock
from functools import cache

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.media import Medium
from noema.core.pigments.shelf import builtin_set
from noema.core.planning.frame import ClassFrame, Room, SchoolFrame, WeeklyLesson, Wish
from noema.core.planning.pieces import WishWork, work_of
from noema.core.planning.plan import plan

_MONDAY, _WEEKS = date(2027, 1, 11), 24
_LONG_S, _MANY_S = 2.0, 20.0


@cache
def _asked(kind: str) -> Asked:
    ground = Ground(paints=builtin_set("split-six+black"), table=USUAL_HUES)
    return kind_of(kind).asked(kind_of(kind).chosen({}), ground)


def _work(_class: ClassFrame, wish: Wish, most_min: float) -> WishWork:
    return work_of(_asked(wish.kind), wish.medium, most_min)


def _unit() -> tuple[Wish, ...]:
    needs_no_targets = [name for name in KINDS if name != "colour-match"]
    names = [*needs_no_targets, needs_no_targets[-1]]
    ids = [f"{n}-{name}" for n, name in enumerate(names)]
    return tuple(
        Wish(
            id=ids[n],
            kind=name,
            medium=Medium.ACRYLIC,
            after=(ids[n - 1],) if n else (),
            redo=n < 4,
        )
        for n, name in enumerate(names)
    )


def _frame(classes: int, names: Sequence[str]) -> SchoolFrame:
    def lessons(number: int) -> Sequence[WeeklyLesson]:
        hour = 8 + number // 5
        return [
            WeeklyLesson(day=day % 5, start=clock(hour + later, 40), minutes=50)
            for day, later in ((number, 0), (number + 2, 4))
        ]

    return SchoolFrame(
        time_zone="Europe/Berlin",
        begins=_MONDAY,
        ends=_MONDAY + timedelta(weeks=_WEEKS),
        rooms=tuple(Room(name=name, rack=50) for name in names),
        classes=tuple(
            ClassFrame(
                id=f"c{n}",
                people=24,
                lessons=tuple(lessons(n)),
                unit=_unit(),
                room=names[n % len(names)],
            )
            for n in range(classes)
        ),
    )


def bench_planning() -> None:
    """Time both; exercises are worked out before, as pages do once."""
    for wish in _unit():
        _asked(wish.kind)
    for classes, names, limit_s in ((3, ("a",), _LONG_S), (20, ("a", "b"), _MANY_S)):
        begun = time.perf_counter()
        found = plan(_frame(classes, names), _work)
        taken = time.perf_counter() - begun
        unmet = sum(len(one.unmet) for one in found.values())
        print(
            f"{classes} classes of 14 exercises in {_WEEKS} weeks / {limit_s:.0f} s:"
            f" {taken / limit_s:.2f} (at most 1), {unmet} without a place"
        )


if __name__ == "__main__":
    bench_planning()
