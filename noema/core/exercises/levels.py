"""How closely a step must be met, and against what."""

from enum import Enum

from noema.core.language import N_


class Level(Enum):
    """How strictly a sheet is looked at."""

    BEGINNER = N_("beginner")  # a first try holds when it is near
    INTERMEDIATE = N_("intermediate")
    ADVANCED = N_("advanced")  # as near as a practised eye sees


class Key(Enum):
    """What painted cells are held against."""

    PAINTS = "paints"  # what these tubes give, in even steps along the real way of mixing
    OWN_ENDS = "own-ends"  # the same way between the ends the student painted
    TEACHER = "teacher"  # the sheet the teacher painted
    NAMED = "named"  # fixed steps: named hues, or a medium's usual ends of value

    @property
    def label(self) -> str:
        """Its name for people."""
        return _KEY_LABELS[self]


_KEY_LABELS = {
    Key.PAINTS: N_("paints"),
    Key.OWN_ENDS: N_("own ends"),
    Key.TEACHER: N_("teacher"),
    Key.NAMED: N_("named"),
}
