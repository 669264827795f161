"""An assignment is held against what its class's sheets tell of tubes and of what all have alike.

What most painted alike in a mix, away from what their tubes should give, is put to the teacher as a
question, and counts against nobody until it is answered. Each change is a revision of the key, and
the sheets are judged by it again; what a teacher decided stands.
"""

from collections.abc import Sequence
from dataclasses import replace

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.exercises.asked import Asked
from noema.core.exercises.class_question import ClassAnswer, ClassQuestion
from noema.core.exercises.levels import Key
from noema.core.exercises.painted_keys import as_tubes_are
from noema.core.exercises.part import part_of
from noema.core.judging.class_shares import shared_by_class
from noema.core.judging.class_tubes import SheetOfClass
from noema.core.judging.evidence import Stray, strays_of
from noema.core.language import gettext
from noema.core.pigments.film import Surface
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.formats.asked_json import asked_from_json, asked_to_json
from noema.formats.class_question_json import question_from_json, question_to_json
from noema.formats.known_tubes_json import known_tubes_to_json
from noema.formats.set_json import set_of_body
from noema.store.assignments import assignment_of_school, lock_assignment
from noema.store.base import Json
from noema.store.queue import queue_judging
from noema.store.revisions import NewRevision, add_revision, plain_revision_of, revision_of


def hold_by_class(
    session: Session,
    assignment_id: int,
    known: KnownTubes,
    sheets: Sequence[SheetOfClass] | None = None,
    made_by: int | None = None,
) -> None:
    """Write an assignment's key anew by what is known of its tubes, and queue the judging.

    With the class's sheets, what they have in question is worked out anew too.
    """
    lock_assignment(session, assignment_id)
    plain, now = plain_revision_of(session, assignment_id), revision_of(session, assignment_id)
    if plain.asked is None or plain.paints is None or plain.set_ref != now.set_ref:
        return
    paints = set_of_body(plain.paints)
    asked, moved = asked_from_json(plain.asked, paints), {"asked": plain.asked, "tubes": None}
    if known is not UNKNOWN:
        asked = as_tubes_are(asked, known, paints.binder.dry)
        moved = {"asked": asked_to_json(asked), "tubes": known_tubes_to_json(known)}
    question = question_from_json(now.question)
    if sheets is not None and now.key is Key.PAINTS:
        question = _asked_anew(question, asked, sheets, known, paints.binder.dry)
    told: dict[str, Json | None] = moved | {
        "question": None if question is None else question_to_json(question)
    }
    if any(getattr(now, name) != value for name, value in told.items()):
        _hold(session, assignment_id, told, made_by)


def answer_for_class(
    session: Session, school_id: int, assignment_id: int, teacher_id: int, answer: ClassAnswer
) -> None:
    """Settle what a whole class painted alike; it may be answered otherwise later."""
    assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    question = question_from_json(revision_of(session, assignment_id).question)
    if question is None:
        raise Refused(gettext("Nothing of this exercise is in question: see what the class shows."))
    if question.answer is not answer:
        answered = question_to_json(replace(question, answer=answer))
        _hold(session, assignment_id, {"question": answered}, teacher_id)


def _hold(
    session: Session, assignment_id: int, changed: dict[str, Json | None], made_by: int | None
) -> None:
    now = revision_of(session, assignment_id)
    held = {name: getattr(now, name) for name in NewRevision.__dataclass_fields__}
    add_revision(session, assignment_id, NewRevision(**held | changed | {"made_by": made_by}))
    queue_judging(session, assignment_id)


def _asked_anew(
    before: ClassQuestion | None,
    asked: Asked,
    sheets: Sequence[SheetOfClass],
    known: KnownTubes,
    surface: Surface,
) -> ClassQuestion | None:
    """Give what is in question now; of what was answered only how far it lies is told anew."""
    if before is not None and before.answer is ClassAnswer.TAUGHT:
        return before
    shared = shared_by_class([_strays(one, asked, known, surface) for one in sheets])
    if before is None or before.answer is None:
        return ClassQuestion(cells=shared) if shared else None
    return replace(before, cells={name: shared[name] for name in before.cells if name in shared})


def _strays(
    sheet: SheetOfClass, asked: Asked, known: KnownTubes, surface: Surface
) -> dict[str, Stray]:
    own = [cell.id for cell in sheet.asked.cells]
    held = asked if len(own) == len(asked.cells) else part_of(asked, own)
    return strays_of(held, held, sheet.cells, surface, known)
