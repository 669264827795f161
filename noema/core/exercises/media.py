"""What a student paints or draws with, and how far it reaches from dark to light."""

import csv
from dataclasses import dataclass
from enum import Enum
from pathlib import Path

from noema.core.language import N_, gettext
from noema.core.pigments.cautions import FIRST, TO_STUDENT, binder_cautions
from noema.core.pigments.drying import Binder

_TABLE = Path(__file__).parent / "data" / "media.csv"


class Medium(Enum):
    """A painting or drawing medium."""

    ACRYLIC = N_("acrylic")  # dries darker by up to half a value; touch dry in 20 to 60 minutes
    GOUACHE = N_("gouache")  # dries lighter
    WATERCOLOUR = N_("watercolour")  # dries lighter; paper is the white
    OIL = N_("oil")  # dries in days
    PENCIL = N_("pencil")  # paper is the white; layers make it darker
    CHARCOAL = N_("charcoal")  # paper is the white; dusty

    @property
    def is_dry(self) -> bool:
        """Whether it is drawn with: the paper itself is the lightest step."""
        return self in (Medium.PENCIL, Medium.CHARCOAL)

    @property
    def binder(self) -> Binder | None:
        """What holds its pigment; none for what is drawn with."""
        return None if self.is_dry else Binder(self.value)


@dataclass(frozen=True, kw_only=True)
class Reach:
    """The values a medium usually spans."""

    darkest: float  # value, 0..10
    lightest: float  # value, 0..10


def _load() -> dict[Medium, Reach]:
    with _TABLE.open(encoding="utf-8", newline="") as file:
        rows = csv.DictReader(line for line in file if not line.startswith("#"))
        return {
            Medium(row["medium"]): Reach(
                darkest=float(row["darkest_value"]), lightest=float(row["lightest_value"])
            )
            for row in rows
        }


REACH = _load()
"""A model from usual materials, not a measurement of a particular tube or stick."""


def cautions(medium: Medium, *, to_student: bool = False) -> tuple[str, ...]:
    """Give the usual cautions where this medium is assigned, or painted with."""
    dust = _DUST if medium is Medium.CHARCOAL else ()
    said = tuple(gettext(one) for one in dust)
    if medium.binder is not None:
        said = binder_cautions(medium.binder)
    return (*said, gettext(TO_STUDENT)) if to_student else (gettext(FIRST), *said)


_DUST = (
    N_("Don't blow the dust: wipe wet and air the room."),
    N_("Fixative only by an adult, outdoors or in extraction."),
)
