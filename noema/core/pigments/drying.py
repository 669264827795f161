"""How a medium's wet colour differs from its dry one.

The tubes are described as dry acrylic. Wet acrylic is milky, so it scatters more and dries darker,
by up to half a value; gouache and watercolour lose their water and dry lighter and matter; oil
stays as it was laid. The gains are chosen to give the shifts painters report, not measured.
"""

from enum import Enum

from noema.core.language import N_, gettext
from noema.core.pigments.film import DRY_ACRYLIC, Surface


class Binder(Enum):
    """What holds the pigment."""

    ACRYLIC = N_("acrylic")  # dries darker by up to half a value; lightened with white
    GOUACHE = N_("gouache")  # dries lighter; lightened with white
    WATERCOLOUR = N_("watercolour")  # dries lighter; lightened with water, the paper is the white
    OIL = N_("oil")  # dries as it was laid, in days

    @property
    def dry(self) -> Surface:
        """The surface once dry."""
        return _DRY[self]

    @property
    def wet(self) -> Surface:
        """The surface as the brush leaves it."""
        return _WET[self]

    @property
    def drying(self) -> str:
        """What drying does, in a sentence."""
        return gettext(_SENTENCES[self])


_DRY = {
    Binder.ACRYLIC: DRY_ACRYLIC,
    Binder.GOUACHE: Surface(sheen=0.032),
    Binder.WATERCOLOUR: Surface(sheen=0.030),
    Binder.OIL: Surface(sheen=0.014),
}
_WET = {
    Binder.ACRYLIC: Surface(sheen=0.022, scatter_gain=1.5),
    Binder.GOUACHE: Surface(sheen=0.024, scatter_gain=0.8),
    Binder.WATERCOLOUR: Surface(sheen=0.022, scatter_gain=0.8),
    Binder.OIL: Surface(sheen=0.014),
}
_SENTENCES = {
    Binder.ACRYLIC: N_("Acrylic dries darker, by up to half a value: judge dry swatches only."),
    Binder.GOUACHE: N_("Gouache dries lighter and matter: judge dry swatches only."),
    Binder.WATERCOLOUR: N_("Watercolour dries lighter and paler: judge dry swatches only."),
    Binder.OIL: N_("Oil dries much as it was laid, but takes days."),
}
