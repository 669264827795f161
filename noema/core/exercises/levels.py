"""How closely a step must be met, and against what."""

from enum import Enum


class Level(Enum):
    """How strictly a sheet is looked at."""

    BEGINNER = "beginner"  # a first try holds when it is near
    INTERMEDIATE = "intermediate"
    ADVANCED = "advanced"  # as near as a practised eye sees


class Key(Enum):
    """What painted cells are held against."""

    PAINTS = "paints"  # what these tubes give, in even steps along the real way of mixing
    OWN_ENDS = "own-ends"  # the same way between the ends the student painted
    TEACHER = "teacher"  # the sheet the teacher painted
    NAMED = "named"  # fixed steps: named hues, or a medium's usual ends of value
