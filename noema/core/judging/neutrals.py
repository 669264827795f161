"""Neutrals and darks: do they lean, do they meet, are they dark enough?"""

from collections.abc import Iterator

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC
from noema.core.exercises.asked import AskedCell, CellRole
from noema.core.judging.evidence import Evidence, Stray
from noema.core.judging.judgement import Finding, FindingKind
from noema.core.photo.reading import CellReading

NEUTRAL_BELOW = 1.5
"""Expected chroma under which a cell is there to be neutral."""

LEAN_TOLERANCE = 1.5
"""Chroma a grey may lean where a kind gives no tolerance for chroma."""

COLOURED_FROM = 3.0
"""Chroma from which a grey is a colour to anybody who looks."""

_SEEN_LEAN = 1.0  # chroma at which a grey visibly leans: six of CIEDE2000 at any value
_OF_ITSELF = 0.6  # of a colour's chroma, that it may be off at most
_COLOURED_SURE = 2.0  # sigmas beyond it
_SURE = 1.0  # sigmas past its tolerance
_MEET_SURE = 2.6  # sigmas by which two neutrals must differ
_MEET = 7.0  # CIEDE2000 that the two sides of a row may lie apart
_CAST, _CAST_SURE = 1.2, 2.5  # chroma a row of greys may lean, and sigmas beyond it
_FEWEST_GREYS = 4
_PLAIN = 0.5  # expected chroma of a grey of black and white
_DARK_TOLERANCES = 1.0  # of a value, past its tolerance, from which a mixed dark isn't dark


def find_in_neutrals(evidence: Evidence, passed_over: frozenset[str]) -> Iterator[Finding]:
    """Find neutrals that lean, sides that don't meet, and darks that aren't dark."""
    neutrals = [
        stray
        for stray in evidence.strays.values()
        if is_there_to_be_neutral(stray.printed)
        and stray.cell.id not in passed_over | evidence.empty
    ]
    leaning = [stray for stray in neutrals if _leans(stray, evidence)]
    if leaning:
        leaning.sort(key=lambda stray: -stray.cast)
        yield Finding(
            kind=FindingKind.NOT_NEUTRAL,
            cells=tuple(stray.cell.id for stray in leaning),
            amount=leaning[0].cast,
            towards=_towards(leaning[0].hvc, evidence),
            each=tuple(_towards(stray.hvc, evidence) for stray in leaning),
        )
    yield from _not_meeting(evidence, frozenset(s.cell.id for s in leaning))
    yield from _not_dark(neutrals, evidence)


def is_there_to_be_neutral(cell: AskedCell) -> bool:
    """Say whether a cell stands for the neutral or the dark that its tubes cancel to."""
    return cell.role.cancels and cell.hvc.chroma < NEUTRAL_BELOW


def chroma_tolerance(cell: AskedCell, tolerance: float) -> float:
    """Give how far a cell may stray in chroma: never so far that it could be something else.

    A neutral may lean no farther than the eye lets it pass for one; a colour may not go grey.
    """
    if is_there_to_be_neutral(cell):
        return min(tolerance, _SEEN_LEAN)
    if cell.hvc.chroma >= NEUTRAL_BELOW:
        return min(tolerance, max(_OF_ITSELF * cell.hvc.chroma, _SEEN_LEAN))
    return tolerance


def is_grey(stray: Stray) -> bool:
    """Say whether a cell is asked to be neutral, or the greyest its tubes mix to."""
    return stray.printed.hvc.chroma < NEUTRAL_BELOW


def _leans(stray: Stray, evidence: Evidence) -> bool:
    if evidence.tolerance.chroma is None:
        return False
    tolerance = chroma_tolerance(stray.printed, evidence.tolerance.chroma)
    return (stray.cast - tolerance) / stray.chroma_sigma > _SURE


def _towards(hvc: HVC, evidence: Evidence) -> str:
    lean = evidence.table.lean(hvc)
    return lean.hue or ""


def _not_meeting(evidence: Evidence, leaning: frozenset[str]) -> Iterator[Finding]:
    """Find rows whose neutral differs by the side it was mixed from."""
    for band in evidence.asked.bands:
        own = {stray.cell.id: stray for stray in evidence.in_band(band)}
        other = next((s for s in own.values() if s.printed.role is CellRole.TWIN), None)
        one = None if other is None else own.get(other.printed.of)
        if one is None or other is None:
            continue
        if leaning & {one.cell.id, other.cell.id}:
            continue  # said already, with where it leans
        apart = float(ciede2000(one.lab, other.lab))
        sure = _MEET_SURE * float(np.hypot(one.own_sigma, other.own_sigma))
        if apart > max(_MEET, sure):
            yield Finding(
                kind=FindingKind.TWO_NEUTRALS,
                cells=(one.cell.id, other.cell.id),
                amount=apart,
                row=band.label,
            )


def _not_dark(neutrals: list[Stray], evidence: Evidence) -> Iterator[Finding]:
    tolerance = evidence.tolerance.value
    light = [
        stray
        for stray in neutrals
        if stray.printed.role is CellRole.DARK
        and stray.value - stray.value_sigma > tolerance + _DARK_TOLERANCES * tolerance
    ]
    if light:
        yield Finding(
            kind=FindingKind.VALUES,
            cells=tuple(stray.cell.id for stray in light),
            amount=max(stray.value for stray in light) / tolerance,
            towards="dark",
        )


def is_coloured(seen: CellReading, cell: AskedCell) -> bool:
    """Say whether a colour stands where plain grey was asked, beyond any doubt."""
    plain = cell.hvc.chroma < _PLAIN and not cell.role.cancels
    return plain and seen.hvc.chroma - _COLOURED_SURE * seen.sigma_chroma > COLOURED_FROM


def find_colour(evidence: Evidence) -> Iterator[Finding]:
    """Find cells that are of a colour where grey was asked, whatever a kind's tolerances."""
    coloured = [
        stray
        for stray in evidence.strays.values()
        if stray.cell.id not in evidence.empty and is_coloured(stray.seen, stray.cell)
    ]
    if coloured:
        coloured.sort(key=lambda stray: -stray.seen.hvc.chroma)
        yield Finding(
            kind=FindingKind.COLOURED,
            cells=tuple(stray.cell.id for stray in coloured),
            amount=coloured[0].seen.hvc.chroma,
            towards=_towards(coloured[0].seen.hvc, evidence),
            each=tuple(_towards(stray.seen.hvc, evidence) for stray in coloured),
        )


def find_cast(evidence: Evidence, passed_over: frozenset[str]) -> Iterator[Finding]:
    """Find a whole row of greys that leans one way, beyond what a lamp could do."""
    greys = [
        stray
        for stray in evidence.strays.values()
        if stray.cell.hvc.chroma < _PLAIN and stray.cell.id not in evidence.empty | passed_over
    ]
    if len(greys) < max(_FEWEST_GREYS, len(evidence.asked.cells) // 2):
        return
    # What all cells share is the point here: it stays in, with the whole doubt.
    plane = np.median([stray.seen.lab[1:] for stray in greys], axis=0)
    middle = min(greys, key=lambda s: float(np.hypot(*(np.array(s.seen.lab[1:]) - plane))))
    sigma = float(np.median([stray.seen.sigma_chroma for stray in greys]))
    chroma = middle.seen.hvc.chroma
    if chroma - _CAST_SURE * sigma > _CAST:
        towards = _towards(middle.seen.hvc, evidence)
        yield Finding(
            kind=FindingKind.CAST,
            cells=tuple(stray.cell.id for stray in greys),
            amount=chroma,
            towards=towards,
        )
