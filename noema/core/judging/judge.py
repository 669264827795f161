"""Judge a value scale: each cell against its step, then what the sheet as a whole shows."""

from collections.abc import Sequence
from itertools import pairwise

from noema.core.colour.value import value_to_lab
from noema.core.errors import BadExercise
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.value_scale import ValueScale, expected_values, fixed_values
from noema.core.judging.findings import find_patterns
from noema.core.judging.judgement import CellJudgement, Evenness, Judgement
from noema.core.judging.verdict import Verdict, verdict_of
from noema.core.judging.words import opening, step_words
from noema.core.photo.reading import CellFlag, CellReading, Reading

NEAR_PAPER = 0.6
"""Value by which a step's expected value may lie below blank paper and be left as paper."""

_BLINDING = {
    CellFlag.OUTSIDE: "Part of this step lies outside the photograph.",
    CellFlag.GLARE: "A shine lies over this step.",
    CellFlag.SHADOW: "A shadow lies over this step.",
    CellFlag.CLIPPED: "The camera burnt this step out.",
}


def judge(reading: Reading, scale: ValueScale, key: Key, level: Level) -> Judgement:
    """Judge a reading of a value scale; the reading's cells must be the scale's."""
    if tuple(cell.id for cell in reading.cells) != scale.cell_ids:
        raise BadExercise(
            f"The reading has {len(reading.cells)} cells, which is no value scale of "
            f"{scale.steps} steps: judge it as the exercise it was printed for."
        )
    empty = _empty_cells(reading.cells, scale)
    painted = [None if cell.id in empty else cell.hvc.value for cell in reading.cells]
    expected = expected_values(scale, key, painted)
    stride = (expected[-1] - expected[0]) / (scale.steps - 1)
    cells = tuple(
        _judge_cell(cell, expected[n], stride, key, level, cell.id in empty)
        for n, cell in enumerate(reading.cells)
    )
    return Judgement(
        key=key,
        level=level,
        stride=stride,
        cells=cells,
        evenness=_evenness(cells, empty, stride),
        findings=find_patterns(reading.cells, cells, empty, scale, stride),
    )


def _empty_cells(cells: Sequence[CellReading], scale: ValueScale) -> frozenset[str]:
    """Name the cells left bare where paint was asked; the lightest step may be the paper."""
    return frozenset(
        cell.id
        for cell, asked in zip(cells, fixed_values(scale), strict=True)
        if CellFlag.UNPAINTED in cell.flags and cell.hvc.value - asked > NEAR_PAPER
    )


def _judge_cell(
    cell: CellReading, expected: float, stride: float, key: Key, level: Level, empty: bool
) -> CellJudgement:
    drift = cell.hvc.value - expected
    # Against the student's own ends the doubt that all cells share falls out.
    sigma = cell.sigma_step if key is Key.OWN_ENDS else cell.sigma_value
    blinded = next((why for flag, why in _BLINDING.items() if flag in cell.flags), None)
    verdict = verdict_of(drift, sigma, level.value_tolerance)
    reason = _reason(verdict, drift / stride)
    if empty or blinded:
        verdict = Verdict.LOOK
        reason = "Nothing painted here yet." if empty else str(blinded)
    lightness, a, b = (float(part) for part in value_to_lab(expected))
    return CellJudgement(
        id=cell.id,
        label=cell.id.removeprefix("c"),
        expected_value=expected,
        expected_lab=(lightness, a, b),
        painted_value=cell.hvc.value,
        painted_lab=cell.lab,
        drift=drift,
        sigma=sigma,
        steps=drift / stride,
        verdict=verdict,
        reason=reason,
    )


def _reason(verdict: Verdict, steps: float) -> str:
    side = "too dark" if steps < 0 else "too light"
    if verdict is Verdict.HOLDS:
        return "Holds its step."
    if verdict is Verdict.LOOK:
        return f"Seems {step_words(steps)} {side}, but the reading isn't sure enough."
    return opening(f"{step_words(steps)} {side}.")


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
