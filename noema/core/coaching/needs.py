"""What helps one student: set once, and held to in everything they are given."""

from dataclasses import dataclass

from noema.core.coaching.audience import Audience
from noema.core.exercises.levels import Level


@dataclass(frozen=True, kw_only=True)
class Needs:
    """A student's own terms; teachers alone see them."""

    larger_cells: bool = False  # on their sheets
    fewer_steps: bool = False
    gentler: bool = False  # judged a level more gently than the class
    audience: Audience | None = None  # whom sentences are for; None: as the class is spoken to


NO_NEEDS = Needs()


def gentler_than(level: Level) -> Level:
    """Give the level before; a beginner's is as gentle as it gets.

    >>> gentler_than(Level.ADVANCED)
    <Level.INTERMEDIATE: 'intermediate'>
    """
    levels = tuple(Level)
    return levels[max(levels.index(level) - 1, 0)]
