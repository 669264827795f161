"""What somebody who works at a school may do there: rights by role, and nothing else grants any."""

from collections.abc import Mapping
from enum import Enum

from noema.core.language import N_


class Right(Enum):
    """Something a role allows."""

    RUN_SCHOOL = "run the school"  # people, days and rooms, records, what is kept and erased
    TEACH = "teach"  # plan, assign, judge, return, see progress
    HELP = "help"  # print, hand in photographs, lay out


class StaffRole(Enum):
    """What somebody is at a school."""

    ADMINISTRATOR = N_("administrator")
    TEACHER = N_("teacher")
    ASSISTANT = N_("assistant")

    @property
    def rights(self) -> frozenset[Right]:
        """Give what it allows."""
        return _RIGHTS[self]

    @property
    def sees_all_classes(self) -> bool:
        """Whether it sees classes besides those shared with it."""
        return Right.RUN_SCHOOL in self.rights


_RIGHTS: Mapping[StaffRole, frozenset[Right]] = {
    StaffRole.ADMINISTRATOR: frozenset(Right),
    StaffRole.TEACHER: frozenset({Right.TEACH, Right.HELP}),
    StaffRole.ASSISTANT: frozenset({Right.HELP}),
}
