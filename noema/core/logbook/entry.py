"""What stands in a logbook, and which entries come nearest to a colour."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum

import numpy as np

from noema.core.bench.seen import Lab
from noema.core.bench.task import Amount
from noema.core.colour.difference import ciede2000

MOST_NEAR = 10
"""Entries that are named for a colour."""


class EntryKind(Enum):
    """Where a colour comes from."""

    CELL = "cell"  # of a sheet that was painted and read
    TUBE = "tube"  # a school's own, swatched
    MIX = "mix"  # at the bench
    NOTE = "note"  # written down by somebody
    SPOT = "spot"  # of a picture, with what these tubes would need for it


@dataclass(frozen=True, kw_only=True)
class Entry:
    """One colour, with what is known of how it came about."""

    kind: EntryKind
    title: str
    lab: Lab  # dry, D50
    parts: tuple[Amount, ...] = ()  # of what it was mixed, or was to be mixed; may be unknown
    asked: Lab | None = None  # what was asked for, of a cell
    words: str = ""  # somebody's own
    made_on: str = ""  # a day, as 2026-11-29; empty where it isn't known


@dataclass(frozen=True, kw_only=True)
class Near:
    """How near one entry is."""

    place: int  # in the sequence that was given
    away: float  # CIEDE2000


def nearest(labs: Sequence[Lab], lab: Lab, most: int = MOST_NEAR) -> tuple[Near, ...]:
    """Find the colours nearest to another, nearest first, by CIEDE2000.

    >>> [near.place for near in nearest([(50.0, 0.0, 0.0), (60.0, 0.0, 0.0)], (58.0, 0.0, 0.0))]
    [1, 0]
    """
    if not labs:
        return ()
    away = ciede2000(np.asarray(labs, dtype=float), lab)
    order = np.argsort(away, kind="stable")[:most]
    return tuple(Near(place=int(n), away=float(away[n])) for n in order)
