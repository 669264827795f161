"""The three ways in which colours differ."""

from enum import Enum

from noema.core.language import N_, gettext


class Axis(Enum):
    """A way in which colours differ."""

    VALUE = "value"
    HUE = "hue"
    CHROMA = "chroma"

    @property
    def words(self) -> str:
        """What people call it."""
        return gettext(_WORDS[self])


_WORDS = {Axis.VALUE: N_("value"), Axis.HUE: N_("hue"), Axis.CHROMA: N_("intensity")}
