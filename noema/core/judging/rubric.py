"""What counts for which kind of exercise, and what the levels are called; a school edits it."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from noema.core.errors import Refused
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.skills import Skill
from noema.core.language import N_, gettext

HEAVIEST = 5.0
MOST_OUT_OF = 1000
_LONGEST_NAME = 24

LEVELS = 5
"""Levels of a skill, 0 to 4."""


@dataclass(frozen=True, kw_only=True)
class Rubric:
    """A school's way of summing up."""

    names: tuple[str, ...]  # of the levels 0 to 4
    weights: Mapping[str, Mapping[Skill, float]]  # by kind; 0: the skill doesn't count
    out_of: int | None = None  # of a mark for the grade book; None: no mark is worked out

    def __post_init__(self) -> None:
        if len(self.names) != LEVELS or not all(
            0 < len(name.strip()) <= _LONGEST_NAME for name in self.names
        ):
            raise Refused(
                gettext(
                    "Give all five levels a name of at most %(longest_name)s letters.",
                    longest_name=_LONGEST_NAME,
                )
            )
        for kind, of_kind in self.weights.items():
            if not all(0.0 <= weight <= HEAVIEST for weight in of_kind.values()):
                raise Refused(
                    gettext(
                        "A weight lies between 0 and %(heaviest)s: look at %(kind)s.",
                        heaviest=format(HEAVIEST, "g"),
                        kind=kind,
                    )
                )
            if not any(of_kind.values()):
                raise Refused(gettext("Let at least one skill count for %(kind)s.", kind=kind))
        if self.out_of is not None and not 1 <= self.out_of <= MOST_OUT_OF:
            raise Refused(
                gettext(
                    "A mark is out of 1 to %(most_out_of)s; leave it empty for no mark.",
                    most_out_of=MOST_OUT_OF,
                )
            )

    def of_kind(self, kind: str) -> Mapping[Skill, float]:
        """Give the weights of the skills that count for a kind."""
        weights = self.weights.get(kind) or kind_of(kind).weights
        return {skill: weight for skill, weight in weights.items() if weight > 0.0}


USUAL_RUBRIC = Rubric(
    names=(
        N_("not yet"),
        N_("just beginning"),
        N_("getting there"),
        N_("secure"),
        N_("strong"),
    ),
    weights=MappingProxyType({name: kind.weights for name, kind in KINDS.items()}),
)
