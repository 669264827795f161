"""Changes of a class's unit, each giving the class as it would be; nothing is planned here."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date, datetime

from noema.core.exercises.catalogue import kind_of
from noema.core.planning.frame import MOST_GOES, ClassFrame, Wish
from noema.core.planning.unit import monday_of

Change = Callable[[ClassFrame], ClassFrame]


def pinned(wish_id: str, day: date | None) -> Change:
    """Let a wish begin on a day, or whenever it fits."""
    return _wishes(lambda wish: replace(wish, pinned=day) if wish.id == wish_id else wish)


def redone(wish_id: str, *, redo: bool) -> Change:
    """Keep room for painting a wish again, or not."""
    return _wishes(lambda wish: replace(wish, redo=redo) if wish.id == wish_id else wish)


def without(wish_id: str) -> Change:
    """Leave a wish out; what came after it comes after what it came after."""

    def change(one: ClassFrame) -> ClassFrame:
        gone = next((wish for wish in one.unit if wish.id == wish_id), None)
        before = () if gone is None else gone.after
        unit = tuple(
            replace(
                wish,
                after=tuple(
                    dict.fromkeys(
                        name for a in wish.after for name in (before if a == wish_id else (a,))
                    )
                ),
            )
            for wish in one.unit
            if wish.id != wish_id
        )
        return replace(one, unit=unit)

    return change


def moved(wish_id: str, by: int) -> Change:
    """Move a wish up or down; each comes after the one before it."""

    def change(one: ClassFrame) -> ClassFrame:
        unit = list(one.unit)
        place = next((n for n, wish in enumerate(unit) if wish.id == wish_id), None)
        if place is None or not 0 <= place + by < len(unit):
            return one
        unit.insert(place + by, unit.pop(place))
        return replace(one, unit=in_order(unit))

    return change


def with_wish(wish: Wish) -> Change:
    """Add a wish after the last one; it is numbered where its name is taken."""

    def change(one: ClassFrame) -> ClassFrame:
        taken = {other.id for other in one.unit}
        names = (wish.id, *(f"{wish.id}-{n}" for n in range(2, len(taken) + 3)))
        own = next(name for name in names if name not in taken)
        return replace(one, unit=in_order([*one.unit, replace(wish, id=own)]))

    return change


def in_order(unit: list[Wish]) -> tuple[Wish, ...]:
    """Let each wish come after the one before it."""
    before = [(), *((wish.id,) for wish in unit)]
    return tuple(replace(wish, after=after) for wish, after in zip(unit, before, strict=False))


def cancelled(at: datetime, *, is_held: bool) -> Change:
    """Let a lesson be held after all, or not."""

    def change(one: ClassFrame) -> ClassFrame:
        others = tuple(other for other in one.cancelled if other != at)
        return replace(one, cancelled=others if is_held else (*others, at))

    return change


def _wishes(change: Callable[[Wish], Wish]) -> Change:
    return lambda one: replace(one, unit=tuple(change(wish) for wish in one.unit))


def split(wish_id: str, goes: int) -> Change:
    """Cut a wish into so many goes at least, where a painter may stop; later pins end."""
    fair = min(max(goes, 1), MOST_GOES)
    return _wishes(lambda w: replace(w, goes=fair, pins={}) if w.id == wish_id else w)


def step_pinned(wish_id: str, number: int, day: date | None) -> Change:
    """Let a step of a wish be on a day, or whenever it fits."""
    if number == 0:
        return pinned(wish_id, day)

    def change(wish: Wish) -> Wish:
        others = {n: other for n, other in wish.pins.items() if n != number}
        return replace(wish, pins=others if day is None else {**others, number: day})

    return _wishes(lambda wish: change(wish) if wish.id == wish_id else wish)


def with_test(day: date, *, is_kept: bool) -> Change:
    """Keep the week of a day free for a test, or not."""
    monday = monday_of(day)

    def change(one: ClassFrame) -> ClassFrame:
        others = {other for other in one.tests if other != monday}
        return replace(one, tests=tuple(sorted(others | {monday} if is_kept else others)))

    return change


def instead(wish: Wish) -> Change:
    """Put a wish in place of the one with its name; it comes after what stands before it."""

    def change(one: ClassFrame) -> ClassFrame:
        names = [other.id for other in one.unit]
        before = set(names[: names.index(wish.id)]) if wish.id in names else set()
        after = tuple(name for name in wish.after if name in before)
        own = replace(wish, after=after)
        return replace(one, unit=tuple(own if w.id == wish.id else w for w in one.unit))

    return change


def ordered(one: ClassFrame) -> ClassFrame:
    """Put a unit in the order the craft builds on; like exercises stay as they stand."""
    unit = sorted(one.unit, key=lambda wish: kind_of(wish.kind).teaching.place)
    return replace(one, unit=in_order(unit))


def besides(at: datetime, minutes: int) -> Change:
    """Hold a lesson besides those of the timetable; one of no minutes is taken back."""

    def change(one: ClassFrame) -> ClassFrame:
        others = tuple(extra for extra in one.extra if extra[0] != at)
        again = tuple(other for other in one.cancelled if other != at)
        extra = (*others, (at, minutes)) if minutes else others
        return replace(one, extra=extra, cancelled=again)

    return change
