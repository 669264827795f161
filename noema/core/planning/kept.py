"""A class's plan as it is kept: when each step is, what lies on the rack, what isn't met."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime

from noema.core.exercises.media import Medium
from noema.core.planning.amounts import Range
from noema.core.planning.class_plan import ClassPlan, planned_before
from noema.core.planning.frame import SchoolFrame
from noema.core.planning.pieces import Piece, WishWork
from noema.core.planning.saying import Unmet


@dataclass(frozen=True, kw_only=True)
class TubeNeed:
    """What one student needs of a tube for a piece, in ml."""

    tube: str
    label: str
    each: Range


@dataclass(frozen=True, kw_only=True)
class KeptWork:
    """What a wish asks, as it was planned, with its colours, so that pages needn't work it out."""

    title: str
    pieces: tuple[Piece, ...]
    medium: Medium
    dry_min: int
    fills: tuple[str, ...]  # sRGB, such as #c08040
    paint: tuple[tuple[TubeNeed, ...], ...] = ()  # by piece; nothing where nothing is squeezed
    pace: float = 1.0  # the factor on usual minutes it was planned with

    @property
    def work(self) -> WishWork:
        """Give it as it is planned with."""
        return WishWork(
            title=self.title, pieces=self.pieces, medium=self.medium, dry_min=self.dry_min
        )


@dataclass(frozen=True, kw_only=True)
class KeptPlan:
    """When each step of each wish is, at the school's clock, and what isn't met."""

    works: Mapping[str, KeptWork]

    times: Mapping[str, tuple[datetime, ...]]
    unmet: tuple[Unmet, ...]
    moved: tuple[str, ...] = ()  # wishes whose steps lie elsewhere than in the plan before


def kept_of(
    found: ClassPlan,
    works: Mapping[str, KeptWork],
    unmet: tuple[Unmet, ...],
    before: "KeptPlan | None",
) -> KeptPlan:
    """Boil a plan down."""
    times = {
        wish: tuple(found.lessons[n].lesson.at.replace(tzinfo=None) for n in at)
        for wish, at in found.at.items()
    }
    was = before.times if before else {}
    return KeptPlan(
        works=works,
        times=times,
        unmet=unmet,
        moved=tuple(wish for wish, some in times.items() if was.get(wish, some) != some),
    )


def as_kept(frame: SchoolFrame, kept: KeptPlan) -> ClassPlan:
    """Give a class's plan as it is kept: `frame` has the class alone.

    What was wished for since isn't in it.
    """
    one = frame.classes[0]
    known = tuple(wish for wish in one.unit if wish.id in kept.works)
    return planned_before(
        frame,
        replace(one, unit=known),
        lambda _class, wish, _most: kept.works[wish.id].work,
        kept.times,
    )
