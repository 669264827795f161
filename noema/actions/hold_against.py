"""A teacher holds an assignment against another key, at another level, with other paints.

A revision is written and the judging queued; until a sheet is judged anew it shows the judgement it
had. What a teacher decided stands.
"""

from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from noema.actions.work_out_exercise import Chosen, exercise_of, work_out
from noema.core.errors import Refused
from noema.core.exercises.catalogue import kind_of, usual_tolerance
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.tolerance import Tolerance
from noema.core.language import gettext
from noema.core.pigments.shelf import PaintSet
from noema.formats.asked_json import asked_to_json
from noema.formats.options_json import options_from_json
from noema.formats.set_json import set_to_body
from noema.store.assignments import AssignmentRow, assignment_of_school, lock_assignment
from noema.store.paints import hue_words
from noema.store.queue import queue_judging
from noema.store.revisions import NewRevision, add_revision, revision_of


@dataclass(frozen=True, kw_only=True)
class Holding:
    """What an assignment is to be held against."""

    key: Key
    level: Level
    own_tolerance: Tolerance | None = None  # None: as it was; a new level brings its usual ones
    paints: PaintSet | None = None  # None: as they were
    set_ref: str | None = None  # of those paints


def hold_against(
    session: Session, school_id: int, assignment_id: int, teacher_id: int, wanted: Holding
) -> None:
    """Write a revision of the key and queue the judging of all that was handed in."""
    assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    assignment = assignment_of_school(session, school_id, assignment_id)
    exercise, before = exercise_of(session, assignment), revision_of(session, assignment_id)
    if wanted.key is Key.OWN_ENDS and not any(cell.is_end for cell in exercise.asked.cells):
        raise Refused(gettext("This exercise has no ends of its own: choose another key."))
    if wanted.key is Key.PAINTS and exercise.paints is None and wanted.paints is None:
        raise Refused(gettext("This exercise is of no set of paints: choose another key."))
    new = NewRevision(
        key=wanted.key,
        level=wanted.level,
        tolerance=_tolerance(wanted, assignment),
        set_ref=before.set_ref,
        paints=before.paints,
        asked=before.asked,
        tubes=before.tubes,
        question=before.question,
        key_photograph_id=before.key_photograph_id,
        key_labs=before.key_labs,
        made_by=teacher_id,
    )
    if wanted.paints is not None:
        new = _with_paints(session, school_id, new, assignment, wanted)
    add_revision(session, assignment_id, new)
    queue_judging(session, assignment_id)


def _tolerance(wanted: Holding, assignment: AssignmentRow) -> Tolerance:
    if wanted.own_tolerance is not None:
        return wanted.own_tolerance
    if wanted.level is assignment.level:
        return assignment.tolerance  # a teacher's own survives a change of key
    return usual_tolerance(assignment.kind, wanted.level)


def _with_paints(
    session: Session,
    school_id: int,
    new: NewRevision,
    assignment: AssignmentRow,
    wanted: Holding,
) -> NewRevision:
    """Work the exercise out with other paints; refuses where its sheets would be others."""
    before = exercise_of(session, assignment).asked
    chosen = Chosen(
        kind=assignment.kind,
        options=options_from_json(kind_of(assignment.kind), assignment.options),
        paints=wanted.paints,
        set_ref=wanted.set_ref,
        medium=assignment.medium,
        key=wanted.key,
        paper=assignment.paper,
        own_tubes=assignment.own_tubes,
        table=hue_words(session, school_id).table,
    )
    asked = work_out(chosen)
    if [(c.id, c.label) for c in asked.on_paper] != [(c.id, c.label) for c in before.on_paper]:
        raise Refused(
            gettext(
                "With these paints the exercise has other cells than its printed "
                "sheets: give it anew instead."
            )
        )
    paints = chosen.in_medium
    assert paints is not None  # they were given
    return replace(
        new,
        set_ref=wanted.set_ref,
        paints=set_to_body(paints),
        asked=asked_to_json(asked),
        tubes=None,
        question=None,
    )
