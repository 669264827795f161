"""A class's tubes are learned from its sheets, and the keys that rest on them follow.

What was learned is kept with what it came from, and worked out again when half as many sheets more
have been read. A teacher may refuse it: then keys are as the paints are written. Each change of a
key is a revision, and the sheets are judged by it again; what a teacher decided stands.
"""

from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.exercises.painted_keys import as_tubes_are
from noema.core.exercises.part import part_of
from noema.core.judging.class_tubes import SheetOfClass, tubes_of_class
from noema.core.language import gettext
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.core.pigments.shelf import PaintSet
from noema.formats.asked_json import asked_from_json, asked_to_json
from noema.formats.known_tubes_json import known_tubes_from_json, known_tubes_to_json
from noema.formats.reading_json import reading_from_json
from noema.formats.set_json import set_of_body
from noema.store.assignments import assignment_of_school, lock_assignment
from noema.store.base import Json
from noema.store.class_tubes import (
    TubesOfSet,
    assignments_of_set,
    keep_tubes,
    set_of_assignment,
    sheets_counted,
    sheets_of_set,
    tubes_of_set,
)
from noema.store.queue import queue_judging, queue_learning_tubes
from noema.store.revisions import (
    NewRevision,
    RevisionRow,
    add_revision,
    plain_revision_of,
    revision_of,
)

_FEWEST = 6
_GROWTH = 1.5


def ask_to_learn_tubes(session: Session, assignment_id: int) -> None:
    """After a photograph was read: learn the tubes of its set, once the pile is through."""
    found = set_of_assignment(session, assignment_id)
    if found is not None:
        queue_learning_tubes(session, *found)


def learn_tubes(session: Session, class_id: int, set_ref: str) -> None:
    """Learn a class's tubes anew where there is enough that is new; its keys follow."""
    before = tubes_of_set(session, class_id, set_ref, lock=True)
    count = sheets_counted(session, class_id, set_ref)
    if count < max(_FEWEST, _GROWTH * before.counted):
        return
    known = _learned(session, class_id, set_ref)
    if known is None:
        return
    learned = known_tubes_to_json(known)
    keep_tubes(session, class_id, set_ref, replace(before, learned=learned, counted=count))
    if not before.refused:
        _follow(session, class_id, set_ref, known)


def follow_tubes(
    session: Session, school_id: int, assignment_id: int, teacher_id: int, *, follow: bool
) -> None:
    """Let the keys of an assignment's class and set follow what was learned, or not."""
    assignment_of_school(session, school_id, assignment_id)
    found = set_of_assignment(session, assignment_id)
    tubes = TubesOfSet() if found is None else tubes_of_set(session, *found, lock=True)
    if found is None or tubes.learned is None:
        raise Refused(
            gettext("Nothing is known of these tubes yet: hand in six sheets painted with them.")
        )
    keep_tubes(session, *found, replace(tubes, refused=not follow))
    known = known_tubes_from_json(tubes.learned) if follow else UNKNOWN
    _follow(session, *found, known, teacher_id)


@dataclass(frozen=True, kw_only=True)
class TubesKnown:
    """What a class's sheets show of the tubes of an assignment's set."""

    known: KnownTubes
    paints: PaintSet  # as they are described
    followed: bool  # by the keys


def tubes_known(session: Session, assignment_id: int) -> TubesKnown | None:
    """What is known of an assignment's tubes? None: nothing yet."""
    found = set_of_assignment(session, assignment_id)
    tubes = TubesOfSet() if found is None else tubes_of_set(session, *found)
    if tubes.learned is None:
        return None
    plain = plain_revision_of(session, assignment_id)
    if plain.paints is None:
        return None
    return TubesKnown(
        known=known_tubes_from_json(tubes.learned),
        paints=set_of_body(plain.paints),
        followed=not tubes.refused,
    )


def _learned(session: Session, class_id: int, set_ref: str) -> KnownTubes | None:
    sheets, paints = [], None
    plain: dict[int, RevisionRow] = {}
    for one in sheets_of_set(session, class_id, set_ref):
        if one.assignment_id not in plain:
            plain[one.assignment_id] = plain_revision_of(session, one.assignment_id)
        kept = plain[one.assignment_id]
        if kept.asked is None or kept.paints is None:
            continue
        paints = set_of_body(kept.paints)
        asked = asked_from_json(kept.asked, paints)
        asked = asked if one.cells is None else part_of(asked, one.cells)
        sheets.append(SheetOfClass(asked=asked, cells=reading_from_json(one.body).cells))
    return None if paints is None else tubes_of_class(sheets, paints.binder.dry)


def _follow(
    session: Session, class_id: int, set_ref: str, known: KnownTubes, made_by: int | None = None
) -> None:
    """Write each key anew by what is known, and queue the judging."""
    for assignment_id in assignments_of_set(session, class_id, set_ref):
        lock_assignment(session, assignment_id)
        plain, now = plain_revision_of(session, assignment_id), revision_of(session, assignment_id)
        if plain.asked is None or plain.paints is None or plain.set_ref != set_ref:
            continue
        if known is UNKNOWN and now.tubes is None:
            continue
        held = {name: getattr(now, name) for name in NewRevision.__dataclass_fields__}
        moved: dict[str, Json | None] = {"asked": plain.asked, "tubes": None}
        if known is not UNKNOWN:
            moved = _moved(plain.asked, set_of_body(plain.paints), known)
        add_revision(session, assignment_id, NewRevision(**held | moved | {"made_by": made_by}))
        queue_judging(session, assignment_id)


def _moved(asked: Json, paints: PaintSet, known: KnownTubes) -> dict[str, Json | None]:
    expected = as_tubes_are(asked_from_json(asked, paints), known, paints.binder.dry)
    return {"asked": asked_to_json(expected), "tubes": known_tubes_to_json(known)}
