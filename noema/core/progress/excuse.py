"""Why somebody need not hand in what their class was given."""

from enum import Enum

from noema.core.language import N_


class Excuse(Enum):
    """A teacher's reason."""

    EXCUSED = N_("excused")
    AWAY = N_("was away")
