"""What to train next, at the bench or with the eye, and why."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum

from noema.core.colour.axis import Axis
from noema.core.language import N_, gettext
from noema.core.seeing.series import SeriesKind
from noema.core.statistics.adaptive import Found

FEW_FORESEEN = 8
"""Changes that must have been foretold before their share says anything."""

_FORESEES = 0.7  # share from which changes are foreseen well
_TELLS = 0.75  # share of steps seen as they were read, from which the eye is sure
_COARSE: Mapping[Axis, float] = {
    Axis.VALUE: 0.6,
    Axis.HUE: 4.0,
    Axis.CHROMA: 1.6,
}
"""Smallest differences above which the eye is trained first: about a cell's tolerance for a
beginner, so that what strays can be seen at all."""


class TrainedAt(Enum):
    """Where something is trained."""

    BENCH = "bench"
    EYE = "eye"


@dataclass(frozen=True, kw_only=True)
class KnownEye:
    """What is known of how somebody sees."""

    found: Mapping[Axis, Found]
    foreseen: tuple[int, int]  # came true, of so many that were foretold
    agreed: float | None  # share of own steps seen as they were read; None: never said
    drifted: bool  # cells of the last sheet strayed
    one_line: bool = False  # hues are mixed up along one line


@dataclass(frozen=True, kw_only=True)
class Training:
    """What to train next."""

    place: TrainedAt
    series: SeriesKind | None  # for the eye
    reason: str


def next_training(seeing: KnownEye) -> Training:
    """Choose what to train next: seeing before mixing, value before hue."""
    for quantity in (Axis.VALUE, Axis.CHROMA, Axis.HUE):
        known = seeing.found.get(quantity)
        if quantity is Axis.HUE and seeing.one_line:
            continue  # value and intensity tell more
        if known is not None and known.low > _COARSE[quantity]:
            return _eye(SeriesKind(quantity.value), _COARSER[quantity])
    right, count = seeing.foreseen
    if seeing.agreed is not None and seeing.agreed < _TELLS:
        return _eye(SeriesKind.ROWS, N_("since you saw some steps otherwise than they were read"))
    if seeing.drifted:
        return _bench(N_("since cells of your last sheet strayed: mix them here first"))
    if count >= FEW_FORESEEN and right < _FORESEES * count:
        return _bench(N_("and say first what will happen: you foresaw fewer than most changes"))
    for quantity in (Axis.VALUE, Axis.CHROMA, Axis.HUE):
        if quantity not in seeing.found:
            return _eye(SeriesKind(quantity.value), N_("since you haven’t tried it yet"))
    return _bench(N_("a task you haven’t done, since your eye is ready for it"))


_COARSER = {
    Axis.VALUE: N_("since values near each other still look alike to you"),
    Axis.CHROMA: N_("since intensities near each other still look alike to you"),
    Axis.HUE: N_("since hues near each other still look alike to you"),
}


def _eye(series: SeriesKind, reason: str) -> Training:
    return Training(place=TrainedAt.EYE, series=series, reason=gettext(reason))


def _bench(reason: str) -> Training:
    return Training(place=TrainedAt.BENCH, series=None, reason=gettext(reason))
