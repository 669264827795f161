"""Who wasn't there for all of a lesson."""

from enum import Enum

from noema.core.language import N_


class RegisterMark(Enum):
    """What is noted of a student in a lesson; nothing where they were there."""

    AWAY = N_("away")
    LATE = N_("late")
    LEFT = N_("left early")
