"""What a teacher chose is worked out into what every cell expects; and found again later."""

from collections.abc import Collection
from dataclasses import dataclass, replace
from typing import cast

from sqlalchemy.orm import Session

from noema.core.colour.names import USUAL_HUES, HueTable
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Asked, Ground, Lab
from noema.core.exercises.catalogue import kind_of, usual_tolerance
from noema.core.exercises.class_question import ClassQuestion
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.options import Options
from noema.core.exercises.own_tubes import with_own_tubes
from noema.core.exercises.painted_keys import as_painted
from noema.core.exercises.part import part_of
from noema.core.exercises.tolerance import Tolerance
from noema.core.language import gettext
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.core.pigments.shelf import PaintSet
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import plan_of
from noema.formats.asked_json import asked_from_json
from noema.formats.class_question_json import question_from_json
from noema.formats.known_tubes_json import known_tubes_from_json
from noema.formats.options_json import options_from_json
from noema.formats.set_json import set_of_body
from noema.store.assignments import AssignmentRow
from noema.store.revisions import RevisionRow, revision_of


@dataclass(frozen=True, kw_only=True)
class Chosen:
    """Everything a teacher chooses of an exercise, before it is anybody's."""

    kind: str
    options: Options
    paints: PaintSet | None = None  # None for an exercise of no paints in particular
    set_ref: str | None = None  # by which the set is found again
    medium: Medium = Medium.ACRYLIC
    level: Level = Level.BEGINNER
    own_tolerance: Tolerance | None = None  # where the level's usual one isn't wanted
    key: Key = Key.PAINTS
    paper: Paper = Paper.A4
    grey_only: bool = False  # for a black-and-white printer
    shows_parts: bool = False  # a beginner's help: the volumes beside each cell
    own_tubes: bool = False  # a row of tubes as they come beside it
    table: HueTable = USUAL_HUES

    @property
    def tolerance(self) -> Tolerance:
        """How far a cell may drift and still hold."""
        return self.own_tolerance or usual_tolerance(self.kind, self.level)

    @property
    def in_medium(self) -> PaintSet | None:
        """The set, bound as the medium says."""
        if self.paints is None:
            return None
        if self.medium.binder is None:
            raise BadExercise(
                gettext(
                    "%(value)s has no tubes: choose a painting medium, or a value "
                    "scale without a set.",
                    value=self.medium.value.capitalize(),
                )
            )
        return replace(self.paints, binder=self.medium.binder)


@dataclass(frozen=True, kw_only=True)
class Exercise:
    """An assignment's exercise, found again."""

    asked: Asked  # as it was printed
    expected: Asked  # as it is held against: a teacher's painted sheet where there is one
    key: Key  # which of the four that is now
    key_photograph_id: int | None  # of the teacher's sheet
    paints: PaintSet | None  # as the class has them, where that was learned
    known: KnownTubes = UNKNOWN  # what was learned of them
    question: ClassQuestion | None = None  # what the whole class painted alike


def work_out(chosen: Chosen) -> Asked:
    """Work out what is expected of every cell; refuses what can't be painted or printed."""
    kind, paints = kind_of(chosen.kind), chosen.in_medium
    if paints is None:
        asked = kind.asked_plainly(chosen.options, chosen.medium)
    else:
        ground = Ground(paints=paints, table=chosen.table, key=chosen.key)
        asked = kind.asked(chosen.options, ground)
        asked = with_own_tubes(asked, ground) if chosen.own_tubes else asked
    plan_of(asked, chosen.paper)
    if chosen.key is Key.OWN_ENDS and not any(cell.is_end for cell in asked.cells):
        raise BadExercise(
            gettext(
                "A %(label)s has no ends of its own: choose another key, such as "
                "what these paints give.",
                label=gettext(kind.label).lower(),
            )
        )
    return asked


def exercise_of(session: Session, assignment: AssignmentRow) -> Exercise:
    """Find an assignment's exercise as it was worked out when it was given."""
    kept = revision_of(session, assignment.id)
    known = known_tubes_from_json(kept.tubes)
    paints = None if kept.paints is None else known.in_set(set_of_body(kept.paints))
    if kept.asked is None:  # as plain value scales were kept at first
        kind = kind_of(assignment.kind)
        options = options_from_json(kind, assignment.options)
        asked = kind.asked_plainly(options, assignment.medium)
    else:
        asked = asked_from_json(kept.asked, paints)
    labs = _key_labs(kept) if assignment.key is Key.TEACHER else {}
    waits = assignment.key is Key.TEACHER and not labs
    expected = as_painted(asked, labs) if labs else asked
    question = question_from_json(kept.question)
    if assignment.key is not Key.PAINTS:
        question = None  # of another key nothing is asked
    if question is not None:
        asked, expected = question.marked(asked), question.expected(asked)
    return Exercise(
        asked=asked,
        expected=expected,
        key=(Key.NAMED if paints is None else Key.PAINTS) if waits else assignment.key,
        key_photograph_id=kept.key_photograph_id,
        paints=paints,
        known=known,
        question=question,
    )


def for_sheet(exercise: Exercise, cells: Collection[str] | None) -> Exercise:
    """Give the exercise as it stands on a sheet of only some of its cells; None: of all."""
    if cells is None:
        return exercise
    return replace(
        exercise,
        asked=part_of(exercise.asked, cells),
        expected=part_of(exercise.expected, cells),
    )


def _key_labs(kept: RevisionRow) -> dict[str, Lab]:
    """Give the colours of a teacher's approved sheet by cell; empty without one."""
    labs = cast(dict[str, list[float]], kept.key_labs or {})
    return {name: (lab[0], lab[1], lab[2]) for name, lab in labs.items()}
