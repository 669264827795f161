"""Patterns a whole sheet shows: bare cells and thin paint on any; on a value scale also order,
steps that sit together, jumps and ends that stop early.

A pattern is named only when the reader's doubt leaves little room for it to be an accident.
"""

from collections.abc import Iterator, Sequence
from itertools import pairwise

import numpy as np

from noema.core.exercises.asked import Asked
from noema.core.exercises.value_scale import KIND
from noema.core.judging.judgement import CellJudgement, Finding, FindingKind
from noema.core.judging.words import cells_words, opening, step_words
from noema.core.photo.reading import CellFlag, CellReading

SURE = 1.3
"""Sigmas by which a pattern must stand clear: about nine in ten for a one-sided Gaussian."""

TOGETHER_UNDER = 0.45  # of a step: neighbours closer than this read as one
JUMP_OVER = 1.6  # steps: a jump this large makes its neighbours look crowded
SHORT_BY = 0.6  # value by which an end may stop early before it is said
_THIN_COVERAGE = 0.88

_ORDER = list(FindingKind)


def find_patterns(
    read: Sequence[CellReading],
    cells: Sequence[CellJudgement],
    empty: frozenset[str],
    asked: Asked,
    stride: float,
) -> tuple[Finding, ...]:
    """Find every pattern on a sheet, the most useful first."""
    found = [*_empty(cells, empty), *_thin(read, cells, empty)]
    if asked.kind == KIND:
        found += _between_neighbours(read, cells, empty, stride)
        found += _ends(read, cells, empty, asked, stride)
    return tuple(sorted(found, key=lambda f: (_ORDER.index(f.kind), -abs(f.amount))))


def _empty(cells: Sequence[CellJudgement], empty: frozenset[str]) -> Iterator[Finding]:
    bare = [cell for cell in cells if cell.id in empty]
    if bare:
        are = "is" if len(bare) == 1 else "are"
        words = opening(f"{cells_words([cell.label for cell in bare])} {are} still bare.")
        yield Finding(
            kind=FindingKind.EMPTY, cells=tuple(c.id for c in bare), amount=len(bare), words=words
        )


def _between_neighbours(
    read: Sequence[CellReading],
    cells: Sequence[CellJudgement],
    empty: frozenset[str],
    stride: float,
) -> Iterator[Finding]:
    for (one, two), (seen_one, seen_two) in zip(pairwise(cells), pairwise(read), strict=True):
        if one.id in empty or two.id in empty:
            continue
        jump = (two.painted_value - one.painted_value) / stride
        room = SURE * float(np.hypot(seen_one.sigma_step, seen_two.sigma_step)) / stride
        both = (one.id, two.id)
        names = opening(cells_words([one.label, two.label]))
        if jump < -room:
            words = f"{names} stand the wrong way round: {two.label} is darker than {one.label}."
            yield Finding(kind=FindingKind.ORDER, cells=both, amount=jump, words=words)
        elif jump + room < TOGETHER_UNDER + room / 2.0 and jump < TOGETHER_UNDER:
            words = f"{names} sit together."
            yield Finding(kind=FindingKind.TOGETHER, cells=both, amount=1.0 - jump, words=words)
        elif jump - room > JUMP_OVER - room / 2.0:
            words = f"A wide jump between {names.lower().removeprefix('steps ')}."
            yield Finding(kind=FindingKind.JUMP, cells=both, amount=jump, words=words)


def _ends(
    read: Sequence[CellReading],
    cells: Sequence[CellJudgement],
    empty: frozenset[str],
    asked: Asked,
    stride: float,
) -> Iterator[Finding]:
    dark, light = cells[0], cells[-1]
    short = dark.painted_value - asked.cells[0].hvc.value
    if dark.id not in empty and short - SURE * read[0].sigma_value > SHORT_BY:
        words = f"The dark end stops early: it could go {step_words(short / stride)} darker."
        yield Finding(
            kind=FindingKind.SHORT_DARK, cells=(dark.id,), amount=short / stride, words=words
        )
    short = asked.cells[-1].hvc.value - light.painted_value
    if light.id not in empty and short - SURE * read[-1].sigma_value > SHORT_BY:
        words = f"The light end stops early: it could go {step_words(short / stride)} lighter."
        yield Finding(
            kind=FindingKind.SHORT_LIGHT, cells=(light.id,), amount=short / stride, words=words
        )


def _thin(
    read: Sequence[CellReading], cells: Sequence[CellJudgement], empty: frozenset[str]
) -> Iterator[Finding]:
    thin = [
        (cell, seen)
        for cell, seen in zip(cells, read, strict=True)
        if cell.id not in empty and (_is_patchy(seen) or CellFlag.UNEVEN in seen.flags)
    ]
    if thin:
        names = opening(cells_words([cell.label for cell, _ in thin]))
        worst = 1.0 - min(seen.coverage for _, seen in thin)
        words = f"{names} {'is' if len(thin) == 1 else 'are'} patchy inside the outline."
        yield Finding(
            kind=FindingKind.THIN,
            cells=tuple(cell.id for cell, _ in thin),
            amount=worst,
            words=words,
        )


def _is_patchy(seen: CellReading) -> bool:
    return CellFlag.UNPAINTED not in seen.flags and seen.coverage < _THIN_COVERAGE
