"""What a kind of exercise is there to show: a wheel light at the top, clean pairs beside muted."""

from collections.abc import Iterator

import numpy as np

from noema.core.exercises.asked import CellRole, Even
from noema.core.exercises.catalogue import has
from noema.core.exercises.kind import Trait
from noema.core.judging.evidence import Evidence
from noema.core.judging.judgement import Finding, FindingKind, Manner

_SURE = 2.5  # own sigmas by which an order must be turned round
_CLEANER = 0.75  # of the best pair's chroma under which a pair counts as muted
_TURNED = 0.5  # chroma by which the muted must pass the clean


def find_points(evidence: Evidence) -> Iterator[Finding]:
    """Find where the point of the exercise is missed."""
    if has(evidence.asked.kind, Trait.LIGHT_AT_TOP):
        yield from _not_light_at_the_top(evidence)
    if has(evidence.asked.kind, Trait.CLEAN_BESIDE_MUTED):
        yield from _clean_not_told_from_muted(evidence)


def _not_light_at_the_top(evidence: Evidence) -> Iterator[Finding]:
    """Find a hue painted lighter than the one that should be lightest, beyond its tolerance."""
    for band in evidence.asked.bands:
        ring = evidence.in_band(band) if band.even is Even.HUE else ()
        top = max(ring, key=lambda stray: stray.cell.hvc.value, default=None)
        if top is None:
            continue
        other = max(ring, key=lambda stray: stray.hvc.value)
        by = other.hvc.value - top.hvc.value
        sigma = float(np.hypot(top.value_sigma, other.value_sigma))
        if by > evidence.tolerance.value and by > _SURE * sigma:
            yield Finding(
                kind=FindingKind.VALUES,
                cells=(top.cell.id, other.cell.id),
                amount=by / evidence.tolerance.value,
                manner=Manner.AT_THE_TOP,
            )


def _clean_not_told_from_muted(evidence: Evidence) -> Iterator[Finding]:
    """Find a secondary whose muted pair came out more intense than its clean one."""
    for band in evidence.asked.bands:
        mixed = [
            stray
            for stray in evidence.in_band(band)
            if stray.printed.role is CellRole.SECONDARY and not stray.printed.limit
        ]
        if not mixed:
            continue
        clean = max(mixed, key=lambda stray: stray.printed.hvc.chroma)
        muted = [s for s in mixed if s.printed.hvc.chroma < _CLEANER * clean.printed.hvc.chroma]
        loud = max(muted, key=lambda stray: stray.hvc.chroma, default=None)
        if loud is None:
            continue
        by = loud.hvc.chroma - clean.hvc.chroma
        sigma = float(np.hypot(loud.chroma_sigma, clean.chroma_sigma))
        if by > max(_TURNED, _SURE * sigma):
            yield Finding(
                kind=FindingKind.DULL,
                cells=(clean.cell.id,),
                amount=by,
                against=(loud.cell.id,),
                manner=Manner.LOUDER,
            )
