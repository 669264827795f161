"""A stand-in eye: sees differences from some size on, guesses below, and slips now and then."""

from dataclasses import dataclass, replace
from math import exp

from numpy.random import Generator

from noema.core.colour.axis import Axis
from noema.core.seeing.question import EyeQuestion

_MIDDLE = {Axis.VALUE: 0.35, Axis.HUE: 2.5, Axis.CHROMA: 1.0}
_SPREAD, _SLOPE, _LAPSES = 0.45, 2.0, 0.03
_FINER = 0.92  # of a threshold, from series to series
_KNOWS = 0.65  # where nothing is measured: how often the right place is named


@dataclass(frozen=True, kw_only=True)
class Eye:
    """Somebody's smallest differences, in steps."""

    value: float
    hue: float
    chroma: float

    @classmethod
    def drawn(cls, rng: Generator) -> "Eye":
        """Draw somebody's eye by chance."""
        sizes = {axis: _MIDDLE[axis] * exp(_SPREAD * float(rng.normal())) for axis in Axis}
        return cls(value=sizes[Axis.VALUE], hue=sizes[Axis.HUE], chroma=sizes[Axis.CHROMA])

    def answers(self, asked: EyeQuestion, rng: Generator, placed: tuple[int, ...] = ()) -> int:
        """Choose an answer; of an order, what comes after what is placed."""
        if asked.order:
            left = [place for place in asked.order if place not in placed]
            return left[0] if rng.random() < _KNOWS or len(left) == 1 else left[1]
        if rng.random() < self._sees(asked):
            return asked.right
        return int(rng.integers(asked.answers))

    def finer(self) -> "Eye":
        """Give the same eye after a series: a little finer."""
        return replace(
            self, value=_FINER * self.value, hue=_FINER * self.hue, chroma=_FINER * self.chroma
        )

    def _sees(self, asked: EyeQuestion) -> float:
        axis = asked.ask.quantity
        if axis is None:
            return _KNOWS
        threshold = {Axis.VALUE: self.value, Axis.HUE: self.hue, Axis.CHROMA: self.chroma}[axis]
        return (1.0 - _LAPSES) * (1.0 - exp(-((asked.level / threshold) ** _SLOPE)))
