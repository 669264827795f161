"""How a sheet was painted and photographed: wet, bare, thin, over the line."""

from collections.abc import Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.lab import lab_to_xyz
from noema.core.judging.evidence import THIN_COVERAGE, Evidence
from noema.core.judging.judgement import Finding, FindingKind, Manner
from noema.core.photo.reading import CellFlag, CellReading

Floats = NDArray[np.float64]

_WET_SHARE, _FEWEST_WET = 0.25, 3  # painted cells that shine, from which a sheet is called wet
_RESTLESS_SHARE = 0.25  # of painted cells that shine or are uneven, from which that counts as well
_LIT_UP = 0.04  # of white's light that shine adds to a cell, at the least
_PLAINLY = 0.06  # the same, where no glare was flagged
_DARK_ENOUGH = 0.35  # of white's light, expected, under which added light shows
_DEEPEST = 2  # cells, one of which must be lit up
_GAPS_SHARE, _BEYOND_GAPS = 0.3, 0.15
"""Painted cells with paper showing through, from which so much light must be added."""

_COLOURED = 3.0  # chroma that some cell must be asked for
_STREAKY_SHARE = 0.3  # of painted cells that are uneven, from which streaks are said
_SPILT, _SPILT_SHARE = 0.3, 0.34  # of the paper round a cell; of the cells

_BARE_AT_WORST, _EVEN, _STREAKY_AT_WORST, _WITHIN, _SPILT_AT_WORST = 0.4, 0.06, 0.16, 0.15, 0.9
"""Bare share that takes all points of craft; unevenness that takes none, and by how much more it
takes all; the same of paint over the line."""


def find_in_craft(evidence: Evidence) -> Iterator[Finding]:
    """Find what craft says of the sheet."""
    painted = [seen for seen in evidence.read if CellFlag.UNPAINTED not in seen.flags]
    yield from _bare(evidence)
    if painted:
        wet = tuple(_wet(evidence, painted))
        yield from wet
        yield from _thin(evidence, painted, may_streak=not wet)
        yield from _over_line(evidence, painted)


def craft_of(seen: CellReading) -> float | None:
    """Say how well a cell is painted, 0..1: covered, evenly, within its line; None under glare."""
    if {CellFlag.GLARE, CellFlag.OUTSIDE, CellFlag.UNPAINTED} & set(seen.flags):
        return None
    lost = (
        (1.0 - seen.coverage) / _BARE_AT_WORST
        + max(0.0, seen.unevenness - _EVEN) / _STREAKY_AT_WORST
        + max(0.0, seen.spill - _WITHIN) / _SPILT_AT_WORST
    )
    return max(0.0, 1.0 - lost)


def _bare(evidence: Evidence) -> Iterator[Finding]:
    bare = [cell.id for cell in evidence.asked.cells if cell.id in evidence.empty]
    if bare:
        yield Finding(kind=FindingKind.EMPTY, cells=tuple(bare), amount=len(bare))


def _wet(evidence: Evidence, painted: Sequence[CellReading]) -> Iterator[Finding]:
    """Find light thrown back by so many cells that the paint can't have been dry."""
    lit = _lit_up(evidence, painted)
    glare = {seen.id for seen in painted if CellFlag.GLARE in seen.flags}
    enough = max(_FEWEST_WET, _WET_SHARE * len(painted))
    if not lit or len(lit | glare) < enough:
        return
    shiny = tuple(seen.id for seen in painted if seen.id in lit | glare)
    yield Finding(
        kind=FindingKind.WET,
        cells=shiny,
        amount=len(shiny) / len(painted),
        among=len(painted),
    )


def _lit_up(evidence: Evidence, painted: Sequence[CellReading]) -> set[str]:
    """Name the deep colours to which X, Y and Z gained alike: light laid over paint.

    The deepest must have gained as well, which bunching and bleaching leave alone; of greys only
    the glare itself tells.
    """
    expected = {cell.id: cell.lab for cell in evidence.asked.cells}
    white = lab_to_xyz(np.array([100.0, 0.0, 0.0]))
    asked = lab_to_xyz(np.array([expected[seen.id] for seen in painted])) / white
    seen = lab_to_xyz(np.array([one.lab for one in painted])) / white
    least = asked.min(axis=1)
    deep = np.flatnonzero(least < _DARK_ENOUGH)
    if len(deep) < _FEWEST_WET:
        return set()
    gained = (seen - asked).min(axis=1)
    deepest = deep[np.argsort(least[deep])[:_DEEPEST]]
    restless = float(np.mean([_is_restless(one) for one in painted]))
    greys = max(cell.hvc.chroma for cell in evidence.asked.cells) < _COLOURED
    usual, dark = float(np.median(gained[deep])), float(np.max(gained[deepest]))
    by_glare = restless > _RESTLESS_SHARE and usual > _LIT_UP and (not greys or dark > _LIT_UP)
    by_deepest = not greys and min(dark, usual) > _PLAINLY
    if np.mean([_is_patchy(one) for one in painted]) > _GAPS_SHARE and usual < _BEYOND_GAPS:
        return set()  # specks of paper light thin paint up, too
    if not by_glare and not by_deepest:
        return set()
    return {painted[n].id for n in deep.tolist() if gained[n] > _LIT_UP}


def _is_restless(seen: CellReading) -> bool:
    return bool({CellFlag.GLARE, CellFlag.UNEVEN} & set(seen.flags)) or _is_patchy(seen)


def _thin(
    evidence: Evidence, painted: Sequence[CellReading], *, may_streak: bool
) -> Iterator[Finding]:
    bare = [seen for seen in painted if _is_patchy(seen)]
    streaky = [s for s in painted if CellFlag.UNEVEN in s.flags and CellFlag.GLARE not in s.flags]
    if not may_streak or len(streaky) < _STREAKY_SHARE * len(painted):
        streaky = []
    thin = {seen.id for seen in (*bare, *streaky)} - evidence.empty
    if not thin:
        return
    ids = tuple(seen.id for seen in painted if seen.id in thin)
    yield Finding(
        kind=FindingKind.THIN,
        cells=ids,
        amount=1.0 - min(seen.coverage for seen in painted),
        manner=Manner.PATCHY if bare else Manner.STREAKY,
    )


def _is_patchy(seen: CellReading) -> bool:
    return seen.coverage < THIN_COVERAGE


def _over_line(evidence: Evidence, painted: Sequence[CellReading]) -> Iterator[Finding]:
    over = [seen.id for seen in painted if seen.spill > _SPILT]
    if len(over) > _SPILT_SHARE * len(painted):
        yield Finding(
            kind=FindingKind.OVER_LINE,
            cells=tuple(over),
            amount=len(over) / len(painted),
        )
