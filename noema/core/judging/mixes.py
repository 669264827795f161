"""Mixes and tubes off their step: dirty tubes, another tube than asked, leans, dullness.

Only what surely lies beyond its tolerance is looked into; then the likeliest story of how the paint
came to be so is told.
"""

from collections.abc import Iterator, Mapping

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.exercises.asked import Asked, Even
from noema.core.exercises.catalogue import has
from noema.core.exercises.cells import is_wash
from noema.core.exercises.kind import Trait
from noema.core.judging.evidence import Evidence, Stray
from noema.core.judging.explain import Cause, Story, stories
from noema.core.judging.judgement import Finding, FindingKind, Manner
from noema.core.judging.neutrals import is_there_to_be_neutral
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.tube import Role, Tube

_SURE, _SURE_ALONE = 0.8, 2.8
"""Sigmas beyond its tolerance from which a cell is looked into, and from which that alone is
enough; a tolerance is two to four sigmas itself."""

_FAR, _FAR_OF_PAIRS = 3.6, 1.5
"""Own sigmas from which a cell is looked into as well: mud has no hue to miss, and a
sheet of pairs is there to show it."""

_TOGETHER_ENOUGH = 4.6  # of both added, on a wheel, whose hues are the point
_FAR_OF_WHITE = 4.0  # the same for white in a tube, which shine looks like
_HAS_A_HUE = 3.5  # chroma under which another tube than asked shows less

_EXPLAINS, _EXPLAINS_DIRT = 0.6, 0.25  # of the way, that a story must leave at most
_BETTER = 0.7  # of what the plainer story leaves, that another one must leave at most
_GAIN, _GAIN_OF_GREYISH, _GAIN_OF_PAIRS = 24.0, 48.0, 1.5
"""In squared sigmas: how much more another tube must explain than a mix's own; where pairs stand
beside each other to be compared, tubes are mixed up easily."""

_TWINS_APART = 3.0  # CIEDE2000 between a dirty tube's cell and the tube's other cells, at least
_FEWEST_WANDER, _WANDER_SHARE = 3, 0.3  # cells of a row or ring that stray to one side


def find_in_mixes(evidence: Evidence, passed_over: frozenset[str]) -> Iterator[Finding]:
    """Find what went into each mix, leaving out cells that another finding explains."""
    if evidence.paints is None:
        return
    leaning: dict[str, tuple[Stray, Story]] = {}
    dull: dict[str, tuple[Stray, Story]] = {}
    for stray in _astray(evidence, passed_over):
        parts = stray.printed.parts
        told = stories(stray.as_mixed, parts, evidence.paints.tubes, evidence.surface)
        if len(parts) == 1:
            yield from _contaminated(stray, told, evidence)
        elif (other := _other_tube(stray, told, evidence.asked)) is not None:
            yield other
        elif _leans(stray, told, evidence):
            leaning[stray.cell.id] = (stray, told[Cause.BALANCE])
        elif _is_dull(stray, told, evidence):
            dull[stray.cell.id] = (stray, told[Cause.ADDED])
    yield from _gathered(FindingKind.LEANS, leaning, evidence)
    yield from _gathered(FindingKind.DULL, dull, evidence)


def _astray(evidence: Evidence, passed_over: frozenset[str]) -> Iterator[Stray]:
    """Give the mixes and tubes that surely aren't what was asked."""
    pairs = has(evidence.asked.kind, Trait.CLEAN_BESIDE_MUTED)
    for stray in evidence.strays.values():
        cell = stray.printed
        if cell.id in passed_over | evidence.empty or not stray.colours:
            continue
        if cell.limit or cell.in_question:
            continue
        if is_there_to_be_neutral(cell):
            continue
        is_pair = pairs and len(cell.parts) > 1
        far = _FAR_OF_PAIRS if is_pair else _FAR
        astray = stray.beyond(evidence.tolerance) > _SURE or stray.sigmas_away > far
        if astray and not is_wash(cell, evidence.surface):
            yield stray


def _contaminated(
    stray: Stray, told: Mapping[Cause, Story], evidence: Evidence
) -> Iterator[Finding]:
    labs, added = _as_they_come(stray, evidence), told.get(Cause.ADDED)
    own, (nearest, away) = stray.printed.parts[0].tube, min(labs.items(), key=lambda one: one[1])
    dirt_away = np.inf if added is None else 2.0 * added.away + stray.own_sigma
    most = min(labs[own], _EXPLAINS * stray.away, dirt_away)
    if nearest.role is Role.COLOUR and away < most:
        yield Finding(
            kind=FindingKind.WRONG_TUBE,
            cells=(stray.cell.id,),
            amount=stray.away,
            tube=nearest.name,
            own=own.name,
            manner=Manner.ANOTHER,
        )
        return
    if added is None or added.away > _EXPLAINS_DIRT * stray.away:
        return
    if labs[added.tube] < labs[own]:
        return  # that is more than a little of it
    white = added.tube.role is Role.WHITE and stray.sigmas_away < _FAR_OF_WHITE
    if white or not _differs_from_twins(stray, evidence):
        return
    yield Finding(
        kind=FindingKind.CONTAMINATED,
        cells=(stray.cell.id,),
        amount=stray.away,
        tube=added.tube.name,
        own=stray.printed.parts[0].tube.name,
    )


def _as_they_come(stray: Stray, evidence: Evidence) -> dict[Tube, float]:
    """Give how far a cell lies from each of the set's tubes as it comes, CIEDE2000."""
    assert evidence.paints is not None
    tubes = evidence.paints.tubes
    labs = [lab_of_parts([Part(tube=tube, amount=1.0)], evidence.surface) for tube in tubes]
    return dict(zip(tubes, ciede2000(np.array(labs), stray.as_mixed).tolist(), strict=True))


def _differs_from_twins(stray: Stray, evidence: Evidence) -> bool:
    """Say whether a tube's cell strays from the other cells of that tube, where there are any."""
    twins = [
        other.lab
        for other in evidence.strays.values()
        if other.printed.parts == stray.printed.parts and other is not stray
    ]
    if not twins:
        return True
    apart = float(ciede2000(np.median(twins, axis=0), stray.lab))
    return apart > max(_TWINS_APART, 0.5 * stray.away)


def _other_tube(stray: Stray, told: Mapping[Cause, Story], asked: Asked) -> Finding | None:
    """Find a mix made with another tube than asked."""
    other, own = told.get(Cause.REPLACED), told[Cause.BALANCE]
    if other is None or other.instead_of is None or other.away > _EXPLAINS * stray.away:
        return None
    pairs = has(asked.kind, Trait.CLEAN_BESIDE_MUTED)
    greyish = stray.printed.hvc.chroma < _HAS_A_HUE
    gain = (own.away**2 - other.away**2) / stray.own_sigma**2
    if gain < (_GAIN_OF_PAIRS if pairs else _GAIN_OF_GREYISH if greyish else _GAIN):
        return None
    return Finding(
        kind=FindingKind.WRONG_TUBE,
        cells=(stray.cell.id,),
        amount=stray.away,
        tube=other.tube.name,
        own=other.instead_of.name,
    )


def _leans(stray: Stray, told: Mapping[Cause, Story], evidence: Evidence) -> bool:
    tolerance, own = evidence.tolerance.hue, told[Cause.BALANCE]
    if tolerance is None or len(stray.colours) < 2 or own.tube.role is not Role.COLOUR:
        return False
    if stray.cell.id in evidence.steps or not _is_plain(stray, evidence):
        return False  # in a row of steps a lean is a matter of the step
    # A mix gone so far that it has no hue left leans all the more.
    strays = stray.hue is None or abs(stray.hue) > tolerance
    return strays and own.away < _EXPLAINS * stray.away


def _is_plain(stray: Stray, evidence: Evidence) -> bool:
    far, sure = stray.sigmas_away, stray.beyond(evidence.tolerance)
    on_wheel = stray.cell.id in evidence.ring and far + sure > _TOGETHER_ENOUGH
    return far > _FAR or sure > _SURE_ALONE or on_wheel


def _is_dull(stray: Stray, told: Mapping[Cause, Story], evidence: Evidence) -> bool:
    tolerance, added = evidence.tolerance.chroma, told.get(Cause.ADDED)
    if tolerance is None or added is None or stray.printed.role.stands_apart:
        return False
    explained = added.away < _BETTER * told[Cause.BALANCE].away
    dull = -stray.chroma > tolerance and _is_plain(stray, evidence)
    return dull and explained and added.tube.role is Role.COLOUR


def _gathered(
    kind: FindingKind, found: Mapping[str, tuple[Stray, Story]], evidence: Evidence
) -> Iterator[Finding]:
    """Make one finding of all cells that stray alike, the farthest first."""
    if not found:
        return
    far = sorted(found.values(), key=lambda one: -one[0].away)
    yield Finding(
        kind=kind,
        cells=tuple(stray.cell.id for stray, _ in far),
        amount=far[0][0].away,
        tube=far[0][1].tube.name,
        each=tuple(story.tube.name for _, story in far),
    )


def find_wandering(evidence: Evidence, passed_over: frozenset[str]) -> Iterator[Finding]:
    """Find rows and rings whose hue turns more than the paint's own, all to one side."""
    tolerance = evidence.tolerance.hue
    if tolerance is None or has(evidence.asked.kind, Trait.UNLIKE_NEIGHBOURS):
        return
    for band in evidence.asked.bands:
        if band.even is Even.HUE:
            continue
        hues = [
            (stray, stray.hue)
            for stray in evidence.in_band(band)
            if stray.hue is not None
            and stray.cell.id not in passed_over
            and abs(stray.hue) > tolerance
            and stray.beyond(evidence.tolerance) >= _SURE
        ]
        one_way = [s for s, hue in hues if hue > 0], [s for s, hue in hues if hue < 0]
        off = max(one_way, key=len)
        if len(off) < max(_FEWEST_WANDER, _WANDER_SHARE * len(band.cells)):
            continue
        farthest = max(off, key=lambda stray: abs(stray.hue or 0.0))
        lean = evidence.table.lean(farthest.hvc)
        yield Finding(
            kind=FindingKind.WANDERS,
            cells=tuple(stray.cell.id for stray in off),
            amount=abs(farthest.hue or 0.0) / tolerance,
            row=band.label,
            towards=lean.towards or lean.hue or "",
        )
