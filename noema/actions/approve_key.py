"""A teacher's own painted sheet becomes what a class is held against."""

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.exercises.levels import Key
from noema.core.language import gettext
from noema.core.photo.reading import CellFlag
from noema.formats.reading_json import reading_from_json
from noema.store.assignments import assignment_of_school, lock_assignment
from noema.store.queue import queue_judging
from noema.store.readings import teachers_readings
from noema.store.revisions import NewRevision, add_revision, revision_of

_UNSEEN = frozenset({CellFlag.UNPAINTED, CellFlag.OUTSIDE, CellFlag.GLARE, CellFlag.CLIPPED})


def approve_key(
    session: Session, school_id: int, assignment_id: int, teacher_id: int, photograph_id: int
) -> None:
    """Take a photographed sheet of the teacher's as key and queue the judging of all work.

    Cells that couldn't be seen keep what the paints give.
    """
    assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    before = revision_of(session, assignment_id)
    if before.key is not Key.TEACHER:
        raise Refused(
            gettext("This assignment isn't held against a sheet of yours: assign it that way.")
        )
    bodies = {one.photograph_id: one.body for one in teachers_readings(session, assignment_id)}
    if photograph_id not in bodies:
        raise Refused(
            gettext("That photograph isn't of your own sheet for this assignment: choose one.")
        )
    reading = reading_from_json(bodies[photograph_id])
    labs = {cell.id: list(cell.lab) for cell in reading.cells if not _UNSEEN & set(cell.flags)}
    if not labs:
        raise Refused(gettext("None of your cells could be read: photograph your sheet again."))
    new = {name: getattr(before, name) for name in NewRevision.__dataclass_fields__}
    changed = {"key_photograph_id": photograph_id, "key_labs": labs, "made_by": teacher_id}
    add_revision(session, assignment_id, NewRevision(**new | changed))
    queue_judging(session, assignment_id)
