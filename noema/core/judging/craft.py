"""How a sheet was painted and photographed: wet, bare, thin, over the line."""

from collections.abc import Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.lab import lab_to_xyz
from noema.core.judging.evidence import THIN_COVERAGE, Evidence
from noema.core.judging.judgement import Finding, FindingKind
from noema.core.judging.words import cells_words, opening
from noema.core.photo.reading import CellFlag, CellReading

Floats = NDArray[np.float64]

_WET_SHARE, _FEWEST_WET = 0.25, 3  # painted cells that shine, from which a sheet is called wet
_GLARE_SHARE = 0.3  # of painted cells, from which flagged shine counts as well
_LIT_UP = 0.04  # of white's light that shine adds to a cell, at the least
_PLAINLY = 0.06  # the same, where no glare was flagged
_DARK_ENOUGH = 0.35  # of white's light, expected, under which added light shows
_DEEPEST = 2  # cells, one of which must be lit up
_UPPER = 0.6  # quantile of the deep cells' gain that must show light
_COLOURED = 3.0  # chroma that some cell must be asked for
_GAPS_INSTEAD = 0.3  # of painted cells with paper showing through
_STREAKY_SHARE = 0.3  # of painted cells that are uneven, from which streaks are said
_SPILT, _SPILT_SHARE = 0.3, 0.34  # of the paper round a cell; of the cells


def find_in_craft(evidence: Evidence) -> Iterator[Finding]:
    """Find what craft says of the sheet."""
    painted = [seen for seen in evidence.read if CellFlag.UNPAINTED not in seen.flags]
    yield from _bare(evidence)
    if painted:
        wet = tuple(_wet(evidence, painted))
        yield from wet
        yield from _thin(evidence, painted, may_streak=not wet)
        yield from _over_line(evidence, painted)


def _bare(evidence: Evidence) -> Iterator[Finding]:
    bare = [cell.id for cell in evidence.judged if cell.id in evidence.empty]
    if bare:
        are = "is" if len(bare) == 1 else "are"
        words = opening(f"{cells_words(evidence.labels(bare))} {are} still bare.")
        yield Finding(kind=FindingKind.EMPTY, cells=tuple(bare), amount=len(bare), words=words)


def _wet(evidence: Evidence, painted: Sequence[CellReading]) -> Iterator[Finding]:
    """Find light thrown back by so many cells that the paint can't have been dry."""
    gaps = sum(_is_patchy(seen) for seen in painted)
    if gaps > _GAPS_INSTEAD * len(painted):
        return  # specks of paper light thin paint up, too
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
        words=f"{len(shiny)} of {len(painted)} cells shine: it looks photographed wet, "
        "or under a lamp.",
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
    glare = float(np.mean([CellFlag.GLARE in one.flags for one in painted]))
    greys = max(cell.hvc.chroma for cell in evidence.asked.cells) < _COLOURED
    by_glare = glare > _GLARE_SHARE and float(np.median(gained[deep])) > _LIT_UP
    upper = float(np.quantile(gained[deep], _UPPER))
    by_deepest = not greys and min(float(np.max(gained[deepest])), upper) > _PLAINLY
    if not by_glare and not by_deepest:
        return set()
    return {painted[n].id for n in deep.tolist() if gained[n] > _LIT_UP}


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
    names = opening(cells_words(evidence.labels(ids)))
    how = "patchy inside the outline" if bare else "streaky"
    yield Finding(
        kind=FindingKind.THIN,
        cells=ids,
        amount=1.0 - min(seen.coverage for seen in painted),
        words=f"{names} {'is' if len(ids) == 1 else 'are'} {how}.",
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
            words=f"Paint runs over the line at {cells_words(evidence.labels(over))}.",
        )
