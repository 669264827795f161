"""A class's plan as it is kept: when each step is, what lies on the rack, what isn't met."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.frame import SchoolFrame
from noema.core.planning.saying import LackFact, RemedyFact
from noema.core.planning.ways import Unmet


@dataclass(frozen=True, kw_only=True)
class KeptWay:
    """A way out, with what it makes of the class and the school's days."""

    fact: RemedyFact
    frame: SchoolFrame


@dataclass(frozen=True, kw_only=True)
class KeptLack:
    """A wish that isn't met."""

    lack: LackFact
    ways: tuple[KeptWay, ...]


@dataclass(frozen=True, kw_only=True)
class KeptPlan:
    """When each step of each wish is, at the school's clock, and what isn't met."""

    times: Mapping[str, tuple[datetime, ...]]
    lacks: tuple[KeptLack, ...]
    moved: tuple[str, ...] = ()  # wishes whose steps lie elsewhere than in the plan before


def kept_of(found: ClassPlan, unmet: tuple[Unmet, ...], before: "KeptPlan | None") -> KeptPlan:
    """Boil a plan down."""
    times = {
        wish: tuple(found.lessons[n].lesson.at.replace(tzinfo=None) for n in at)
        for wish, at in found.at.items()
    }
    was = before.times if before else {}
    return KeptPlan(
        times=times,
        lacks=tuple(
            KeptLack(
                lack=one.lack,
                ways=tuple(KeptWay(fact=way.fact, frame=way.frame) for way in one.ways),
            )
            for one in unmet
        ),
        moved=tuple(wish for wish, some in times.items() if was.get(wish, some) != some),
    )
