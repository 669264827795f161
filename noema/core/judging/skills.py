"""A sheet summed up skill by skill, 0 to 4, in the student's favour where the reading doubts.

What a teacher left out doesn't count, what a teacher said counts as said, and what couldn't be read
or can't be painted counts for nothing. A mark is only worked out where a school wants one.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from noema.core.exercises.skills import Skill
from noema.core.judging.judgement import CellJudgement, Drift, Judgement
from noema.core.judging.review import Review
from noema.core.judging.rubric import LEVELS, Rubric
from noema.core.judging.verdict import Verdict
from noema.core.language import gettext

TOP = float(LEVELS - 1)

_FULL, _NONE = 0.5, 2.5
"""Tolerances, beyond doubt, up to which a cell has full points, and from which it has none."""

_SAID = {Verdict.HOLDS: 0.0, Verdict.DRIFTS: 1.5, Verdict.OFF: 2.5}  # tolerances, by a teacher
_FEWEST, _LEAST_SHARE = 3, 1 / 3  # cells, and of those that ask for a skill, that must be seen
_UNEVEN_ROOM = 0.5  # of a step


@dataclass(frozen=True, kw_only=True)
class SkillMark:
    """How far one skill has come on one sheet."""

    skill: Skill
    points: float | None  # 0 to 4; None where too little could be read
    name: str  # of its level, or that it can't be said
    weight: float

    @property
    def level(self) -> int | None:
        """The level, 0 to 4."""
        return None if self.points is None else round(self.points)


def skill_marks(judgement: Judgement, review: Review, rubric: Rubric) -> tuple[SkillMark, ...]:
    """Sum a sheet up by the skills that count for its kind."""
    marks = []
    for skill, weight in rubric.of_kind(judgement.exercise).items():
        points = _points(skill, judgement.cells, review)
        name = gettext("can't be said") if points is None else gettext(rubric.names[round(points)])
        marks.append(SkillMark(skill=skill, points=points, name=name, weight=weight))
    return tuple(marks)


def mark_of(marks: Iterable[SkillMark], rubric: Rubric) -> float | None:
    """Give the mark for the grade book; None where none is wanted or nothing could be read."""
    known = [(mark.points, mark.weight) for mark in marks if mark.points is not None]
    if rubric.out_of is None or not known:
        return None
    mean = sum(points * weight for points, weight in known) / sum(weight for _, weight in known)
    return round(rubric.out_of * mean / TOP, 1)


def _counts(cell: CellJudgement, review: Review) -> bool:
    verdict = review.overruled.get(cell.id, cell.verdict)
    return cell.id not in review.left_out and verdict is not Verdict.LOOK


def _points(skill: Skill, cells: Sequence[CellJudgement], review: Review) -> float | None:
    """Average the points of the cells that count; None where those are too few to sum up from."""
    asked = [cell for cell in cells if _shows(skill, cell)]
    gained = [
        points
        for cell in asked
        if _counts(cell, review)
        and (points := _points_of(skill, cell, review.overruled.get(cell.id))) is not None
    ]
    wanted = [cell for cell in asked if cell.id not in review.left_out]
    enough = max(min(_FEWEST, len(wanted)), _LEAST_SHARE * len(wanted))
    return sum(gained) / len(gained) if gained and len(gained) >= enough else None


def _shows(skill: Skill, cell: CellJudgement) -> bool:
    """Say whether a cell is one by which a skill is summed up, had it been painted and seen."""
    unseen = not cell.measured and skill is not Skill.NEUTRAL
    return skill is Skill.CRAFT or unseen or _off(skill, cell) is not None


def _points_of(skill: Skill, cell: CellJudgement, said: Verdict | None) -> float | None:
    if skill is Skill.CRAFT:
        return None if cell.craft is None else TOP * cell.craft
    off = _off(skill, cell)
    if off is None:
        return None
    if said is not None:
        # A teacher's word is about the whole cell: it betters what strays, or worsens the worst.
        off = min(off, _SAID[said]) if said is Verdict.HOLDS else max(off, _SAID[said])
    share = (off - _FULL) / (_NONE - _FULL)
    return TOP * (1.0 - min(1.0, max(0.0, share)))


def _off(skill: Skill, cell: CellJudgement) -> float | None:
    """Say how far a cell is off in a skill, in tolerances, its doubt taken off."""
    value = Drift(amount=cell.drift, sigma=cell.sigma, tolerance=cell.tolerance)
    drift = {
        Skill.HUE: cell.hue,
        Skill.VALUE: value,
        Skill.INTENSITY: None if cell.lean else cell.chroma,
        Skill.EVENNESS: cell.jump,
        Skill.NEUTRAL: cell.lean,
    }[skill]
    if drift is None:
        return None
    return max(0.0, abs(drift.amount) - drift.sigma) / drift.tolerance


def uneven(jump: float, sigma: float) -> Drift:
    """Give how far a jump between neighbours is from the one asked for, in steps."""
    return Drift(amount=jump - 1.0, sigma=sigma, tolerance=_UNEVEN_ROOM)
