"""Judge any exercise: each cell against its step, then what the sheet as a whole shows."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from math import inf

from noema.core.colour.names import USUAL_HUES, HueTable
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Asked, AskedCell, Even
from noema.core.exercises.catalogue import has, usual_tolerance
from noema.core.exercises.kind import Trait
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.naming import cell_names
from noema.core.exercises.painted_keys import between_own_ends
from noema.core.exercises.tolerance import Tolerance
from noema.core.judging.craft import craft_of
from noema.core.judging.drift import chroma_drift, has_hue, hue_drift, reason_of, worst_of
from noema.core.judging.evidence import Evidence, Stray, sigmas_of, strays_of
from noema.core.judging.findings import find_patterns
from noema.core.judging.judgement import CellJudgement, Drift, Evenness, Judgement, Reason, Why
from noema.core.judging.neutrals import (
    COLOURED_FROM,
    LEAN_TOLERANCE,
    chroma_tolerance,
    is_coloured,
    is_grey,
)
from noema.core.judging.skills import uneven
from noema.core.judging.steps import jumps_of
from noema.core.judging.verdict import Verdict
from noema.core.language import gettext
from noema.core.photo.reading import CellFlag, CellReading, Reading
from noema.core.pigments.film import DRY_ACRYLIC
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.core.pigments.shelf import TUBES, PaintSet
from noema.core.sheet.layout import Triple

NEAR_PAPER = 0.6
"""Value by which a step's expected value may lie below blank paper and be left as paper."""

_PALE = 4.0  # chroma over which a step can't be left as paper, nor look like it
_BLINDING = (CellFlag.OUTSIDE, CellFlag.GLARE, CellFlag.SHADOW, CellFlag.CLIPPED)
"""Flags of a cell that can't be judged, the one to name first."""


def judge(
    reading: Reading,
    asked: Asked,
    key: Key,
    level: Level,
    *,
    tolerance: Tolerance | None = None,
    table: HueTable = USUAL_HUES,
    paints: PaintSet | None = None,
    printed: Asked | None = None,
    known: KnownTubes = UNKNOWN,
) -> Judgement:
    """Judge a reading of an exercise, as its key has worked it out; its cells must be these.

    Between own ends the exercise is moved here, since only the reading knows them. Without a
    tolerance the level's usual one for the kind is taken. With the set of paints, findings say
    what went into a mix; `printed` is what these paints give, where a teacher's sheet is the key.
    `known` is what is known of the tubes beyond their names, by which all of these were moved.
    """
    if [cell.id for cell in reading.cells] != [cell.id for cell in asked.on_paper]:
        raise BadExercise(
            gettext(
                "The reading has %(read)s cells, which are not those of "
                "“%(title)s”, %(asked)s steps or cells: judge it as the exercise "
                "it was printed for.",
                read=len(reading.cells),
                title=asked.title,
                asked=len(asked.on_paper),
            )
        )
    read = reading.cells[: len(asked.cells)]  # what follows are tubes as they come
    empty = _empty_cells(read, asked)
    printed = printed or asked
    if key is Key.OWN_ENDS:
        painted = {cell.id: cell.lab for cell in read if cell.id not in empty}
        asked = between_own_ends(asked, painted)
    tolerance = tolerance or usual_tolerance(asked.kind, level)
    stride, names = _stride(asked), cell_names(asked)
    surface = paints.binder.dry if paints else DRY_ACRYLIC
    strays = strays_of(asked, printed, reading.cells, surface, known)
    cells = tuple(
        _judge_cell(
            seen,
            cell,
            strays.get(seen.id),
            names,
            stride,
            key,
            tolerance,
            table,
            empty=seen.id in empty,
            value_first=has(asked.kind, Trait.VALUE_FIRST),
        )
        for seen, cell in zip(read, asked.cells, strict=True)
    )
    evidence = Evidence(
        asked=asked,
        printed=printed,
        read=read,
        names=names,
        empty=empty,
        strays=strays,
        tolerance=tolerance,
        table=table,
        paints=paints,
        known=known,
    )
    jumps = jumps_of(evidence)
    return Judgement(
        key=key,
        level=level,
        exercise=asked.kind,
        stride=1.0 if stride is None else stride,
        cells=tuple(
            _with_skill(cell, seen, evidence, jumps) for cell, seen in zip(cells, read, strict=True)
        ),
        evenness=None if stride is None else _evenness(cells, empty, stride),
        findings=find_patterns(evidence),
        own_tubes={t.name: t.label for t in paints.tubes if t.name not in TUBES} if paints else {},
    )


def _is_scale(asked: Asked) -> bool:
    return len(asked.bands) == 1 and asked.bands[0].even is Even.VALUE


def _stride(asked: Asked) -> float | None:
    """Give the value from one step to the next; None where cells aren't steps of value."""
    if not _is_scale(asked):
        return None
    cells = asked.cells
    return (cells[-1].hvc.value - cells[0].hvc.value) / (len(cells) - 1)


def _empty_cells(cells: Sequence[CellReading], asked: Asked) -> frozenset[str]:
    """Name the cells left bare where paint was asked; a pale step may be the paper."""
    return frozenset(
        seen.id
        for seen, cell in zip(cells, asked.cells, strict=True)
        if CellFlag.UNPAINTED in seen.flags
        and (seen.hvc.value - cell.hvc.value > NEAR_PAPER or cell.hvc.chroma > _PALE)
    )


def _judge_cell(
    seen: CellReading,
    cell: AskedCell,
    stray: Stray | None,
    names: Mapping[str, str],
    stride: float | None,
    key: Key,
    tolerance: Tolerance,
    table: HueTable,
    *,
    empty: bool,
    value_first: bool,
) -> CellJudgement:
    """Judge one cell by what it strays alone; as it was read, where too little of it was seen."""
    if stray is None:
        lab, painted = seen.lab, seen.hvc
        # Against the student's own ends the doubt that all cells share falls out.
        sigma = seen.sigma_step if key is Key.OWN_ENDS else seen.sigma_value
        hue_sigma, chroma_sigma = seen.sigma_hue, seen.sigma_chroma
    else:
        lab, painted, sigma = stray.lab, stray.hvc, stray.value_sigma
        hue_sigma, chroma_sigma = stray.hue_sigma, stray.chroma_sigma
    expected = cell.hvc
    value = Drift(amount=painted.value - expected.value, sigma=sigma, tolerance=tolerance.value)
    hue = chroma = None
    if tolerance.hue is not None:
        hue = hue_drift(painted, expected, hue_sigma, tolerance.hue)
    if tolerance.chroma is not None or is_coloured(seen, cell):
        chroma = chroma_drift(
            painted,
            expected,
            chroma_sigma,
            chroma_tolerance(cell, tolerance.chroma) if tolerance.chroma else COLOURED_FROM,
            has_hue=tolerance.chroma is not None and has_hue(painted, expected),
        )
    steps = None if stride is None else value.amount / stride
    verdict = worst_of([drift for drift in (value, hue, chroma) if drift is not None])
    reason = reason_of(
        verdict, value, steps, hue, chroma, painted, expected, table, value_first=value_first
    )
    unseen = next((flag for flag in _BLINDING if flag in seen.flags), None)
    measured = not (empty or unseen)
    if empty:
        verdict, reason = Verdict.LOOK, Reason(why=Why.EMPTY)
    elif unseen:
        verdict, reason = Verdict.LOOK, Reason(why=Why.UNSEEN, flag=unseen.value)
    elif cell.limit and verdict is not Verdict.HOLDS:
        verdict, measured = Verdict.LOOK, False
        reason = Reason(why=Why.NOT_COUNTED, limit=cell.limit)
    elif cell.in_question and verdict is not Verdict.HOLDS:
        verdict, measured = Verdict.LOOK, False
        reason = Reason(why=Why.IN_QUESTION)
    return CellJudgement(
        id=seen.id,
        label=names[seen.id],
        expected_value=expected.value,
        expected_lab=cell.lab,
        painted_value=painted.value,
        painted_lab=lab,
        drift=value.amount,
        sigma=sigma,
        steps=value.amount if steps is None else steps,
        tolerance=tolerance.value,
        hue=hue,
        chroma=chroma,
        verdict=verdict,
        reason=reason,
        measured=measured,
        doubt=_as_read(seen) if stray is None else stray.doubt,
        beyond_hand=inf if stray is None else stray.sigmas_away,
    )


def _as_read(seen: CellReading) -> Triple:
    lightness, colour = sigmas_of([seen])
    return (float(lightness[0]), float(colour[0]), float(colour[0]))


def _with_skill(
    cell: CellJudgement,
    seen: CellReading,
    evidence: Evidence,
    jumps: Mapping[str, tuple[float, float]],
) -> CellJudgement:
    """Add what skills are summed up from."""
    stray, jump = evidence.strays.get(cell.id), jumps.get(cell.id)
    lean = None
    if stray is not None and is_grey(stray):
        lean = Drift(
            amount=stray.cast,
            sigma=stray.chroma_sigma,
            tolerance=chroma_tolerance(stray.printed, evidence.tolerance.chroma or LEAN_TOLERANCE),
        )
    return replace(
        cell,
        jump=None if jump is None else uneven(*jump),
        lean=lean,
        craft=None if cell.id in evidence.empty else craft_of(seen),
    )


def _evenness(
    cells: Sequence[CellJudgement], empty: frozenset[str], stride: float
) -> Evenness | None:
    jumps = [
        ((after.painted_value - before.painted_value) / stride, before.id)
        for before, after in pairwise(cells)
        if before.id not in empty and after.id not in empty
    ]
    if not jumps:
        return None
    (largest, largest_after), (smallest, smallest_after) = max(jumps), min(jumps)
    return Evenness(
        largest=largest,
        largest_after=largest_after,
        smallest=smallest,
        smallest_after=smallest_after,
    )
