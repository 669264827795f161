"""How far a cell may lie from its step and still hold."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from noema.core.errors import BadExercise
from noema.core.exercises.levels import Level
from noema.core.language import gettext, written

Levels = tuple[float, float, float]

_WIDEST = {"hue": 25.0, "value": 5.0, "chroma": 12.0}


@dataclass(frozen=True, kw_only=True)
class Tolerance:
    """How far each quantity may drift; None where a kind doesn't ask for it."""

    hue: float | None  # steps of the hundred-step circle
    value: float
    chroma: float | None

    def __post_init__(self) -> None:
        for name, widest in _WIDEST.items():
            limit = getattr(self, name)
            if limit is not None and not 0.05 <= limit <= widest:
                raise BadExercise(
                    gettext(
                        "A tolerance of %(limit)s in %(name)s makes no sense: choose one "
                        "between 0.05 and %(widest)s.",
                        limit=written(limit),
                        name=name,
                        widest=written(widest),
                    )
                )

    def no_less_than(self, other: "Tolerance") -> "Tolerance":
        """Give the wider of two tolerances of each quantity that is asked for."""
        return Tolerance(
            hue=_wider(self.hue, other.hue),
            value=max(self.value, other.value),
            chroma=_wider(self.chroma, other.chroma),
        )

    @property
    def said(self) -> str:
        """The tolerances in words.

        >>> Tolerance(hue=4.0, value=0.8, chroma=None).said
        'hue within 4, value within 0.8'
        """
        limits = ((name, getattr(self, name)) for name in _WIDEST)
        return ", ".join(
            gettext("%(name)s within %(limit)s", name=gettext(name), limit=written(limit))
            for name, limit in limits
            if limit is not None
        )


def _wider(own: float | None, other: float | None) -> float | None:
    return None if own is None else max(own, other or own)


def by_level(
    *, hue: Levels | None = None, value: Levels, chroma: Levels | None = None
) -> Mapping[Level, Tolerance]:
    """Give a kind's tolerances for beginner, intermediate and advanced; None: not asked of it.

    >>> by_level(value=(0.7, 0.5, 0.3))[Level.ADVANCED]
    Tolerance(hue=None, value=0.3, chroma=None)
    """
    return MappingProxyType(
        {
            level: Tolerance(
                hue=None if hue is None else hue[n],
                value=value[n],
                chroma=None if chroma is None else chroma[n],
            )
            for n, level in enumerate(Level)
        }
    )


USUAL_TOLERANCES = by_level(hue=(4.0, 3.0, 2.0), value=(0.8, 0.6, 0.4), chroma=(2.4, 1.7, 1.1))
"""The choice is ours: 0.7, 0.5 and 0.3 of a value are what teachers call near, close and exact on
a nine-step scale; a hue of twelve is 8.3 steps from its neighbour, so 4 is half-way to it; a chroma
step of 2 is one a beginner sees."""
