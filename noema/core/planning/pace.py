"""How much longer than usual a class takes, learned from how its lessons went.

A factor on usual minutes, kept as a Gaussian of its logarithm: what is known of classes in general
is the prior, each lesson a measurement. What is said afterwards about a lesson is rough, and so is
what is learned of it.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from math import exp, log

from noema.core.language import gettext
from noema.core.planning.factor import LearnedFactor, factor_from

_CLASSES_DIFFER = 0.3  # one sigma of the logarithm between classes, kinds and media
_LESSONS_DIFFER = 0.15  # between lessons of one class
_UNFINISHED_DIFFER = 0.25  # where it is only known how many weren't done
_HAND_INS_DIFFER = 0.4  # sheets are handed in late for other reasons too
_FEWEST_HANDED_IN = 0.5  # share of a class from which hand-in times tell anything
_USUALLY_AWAY = 0.1  # of a class, in any lesson
_SLOWEST_BEHIND = 0.6  # of the time again, that a class takes of which nobody was done
_SLOWEST, _QUICKEST = 3.0, 1 / 3
_NINE_IN_TEN = 1.645
_ROUND_TO_MIN = 5


@dataclass(frozen=True, kw_only=True)
class Went:
    """How the painting of a lesson went."""

    planned_min: float
    over_min: float = 0.0  # that it took more, or less where it is negative
    unfinished: float = 0.0  # share of sheets that weren't done
    by_hand_in: bool = False  # nobody said it: it is told by when sheets were handed in

    @property
    def log_factor(self) -> float:
        """How much longer it took than it was planned, as a logarithm."""
        took = (
            self.planned_min + self.over_min + _SLOWEST_BEHIND * self.unfinished * self.planned_min
        )
        return log(min(max(took / self.planned_min, _QUICKEST), _SLOWEST))

    @property
    def sigma(self) -> float:
        """How rough this is."""
        if self.by_hand_in:
            return _HAND_INS_DIFFER
        return _UNFINISHED_DIFFER if self.unfinished else _LESSONS_DIFFER


def handed_in(planned_min: float, in_time: int, count: int, people: int) -> Went | None:
    """Tell from hand-ins how an exercise went: of `count` sheets, `in_time` came by its day.

    None where too few of a class's people handed in at all.
    """
    if people < 1 or count < _FEWEST_HANDED_IN * people:
        return None
    late = min(max(1.0 - in_time / people - _USUALLY_AWAY, 0.0), 1.0)
    return Went(planned_min=planned_min, unfinished=late, by_hand_in=True)


@dataclass(frozen=True, kw_only=True)
class Pace(LearnedFactor):
    """A factor on usual minutes, with its doubt."""

    log_factor: float = 0.0
    sigma: float = _CLASSES_DIFFER
    count: int = 0  # lessons it was learned from

    def said(self, usual_min: float) -> str:
        """Say how long something of some usual minutes takes this class.

        >>> Pace(log_factor=0.0, sigma=0.1, count=3).said(30)
        '25 to 35 minutes'
        """
        little, much = (
            max(round(usual_min * exp(self.log_factor + way * _NINE_IN_TEN * self.sigma)
                      / _ROUND_TO_MIN), 1) * _ROUND_TO_MIN
            for way in (-1.0, 1.0)
        )  # fmt: skip
        if little == much:
            return gettext("about %(much)s minutes", much=much)
        return gettext("%(little)s to %(much)s minutes", little=little, much=much)


def learned(went: Iterable[tuple[Went, float]]) -> Pace:
    """Learn a pace from lessons, each with the factor it was planned with.

    >>> slow = [(Went(planned_min=20, over_min=10), 1.0)] * 3
    >>> 1.4 < learned(slow).factor < 1.5
    True
    """
    measured = ((one.log_factor + log(factor), one.sigma) for one, factor in went)
    found = factor_from(_CLASSES_DIFFER, measured)
    return Pace(log_factor=found.log_factor, sigma=found.sigma, count=found.count)
