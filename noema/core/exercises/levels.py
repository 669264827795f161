"""How closely a step must be met, and against what."""

from enum import Enum


class Level(Enum):
    """How strictly a sheet is looked at."""

    BEGINNER = "beginner"  # within 0.7 of a value step
    INTERMEDIATE = "intermediate"  # within 0.5
    ADVANCED = "advanced"  # within 0.3

    @property
    def value_tolerance(self) -> float:
        """How far, in value, a cell may lie from its step and still hold."""
        return _VALUE_TOLERANCE[self]


_VALUE_TOLERANCE = {Level.BEGINNER: 0.7, Level.INTERMEDIATE: 0.5, Level.ADVANCED: 0.3}


class Key(Enum):
    """What the painted steps are compared with."""

    EVEN = "even"  # equal value steps between the medium's fixed ends
    OWN_ENDS = "own-ends"  # equal value steps between the student's own two ends
