"""A class's tubes are learned from its sheets, and the keys that rest on them follow.

What was learned is kept with what it came from, and worked out again when half as many sheets more
have been read. A teacher may refuse it: then keys are as the paints are written. Each change of a
key is a revision, and the sheets are judged by it again; what a teacher decided stands.
"""

from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from noema.actions.hold_by_class import hold_by_class
from noema.core.errors import Refused
from noema.core.exercises.part import part_of
from noema.core.judging.class_tubes import SheetOfClass, tubes_of_class
from noema.core.language import gettext
from noema.core.pigments.film import Surface
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.core.pigments.shelf import PaintSet
from noema.formats.asked_json import asked_from_json
from noema.formats.known_tubes_json import known_tubes_from_json, known_tubes_to_json
from noema.formats.reading_json import reading_from_json
from noema.formats.set_json import set_of_body
from noema.store.assignments import assignment_of_school
from noema.store.class_tubes import (
    TubesOfSet,
    assignments_of_set,
    keep_tubes,
    set_of_assignment,
    sheets_counted,
    sheets_of_set,
    tubes_of_set,
)
from noema.store.queue import queue_following_tubes, queue_learning_tubes
from noema.store.revisions import RevisionRow, plain_revision_of

FEWEST = 6
"""Sheets that are handed in before anything is learned."""

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
    if count < max(FEWEST, _GROWTH * before.counted):
        return
    sheets = _sheets(session, class_id, set_ref)
    found = tubes_of_class([one for own in sheets.sheets.values() for one in own], sheets.surface)
    learned = before.learned if found is None else known_tubes_to_json(found)
    tubes = replace(before, learned=learned, counted=count)
    keep_tubes(session, class_id, set_ref, tubes)
    for assignment_id in assignments_of_set(session, class_id, set_ref):
        hold_by_class(session, assignment_id, _followed(tubes), sheets.sheets.get(assignment_id))


def follow_tubes(
    session: Session, school_id: int, assignment_id: int, teacher_id: int, *, follow: bool
) -> None:
    """Choose whether the keys of an assignment's class and set follow what was learned."""
    assignment_of_school(session, school_id, assignment_id)
    found = set_of_assignment(session, assignment_id)
    tubes = TubesOfSet() if found is None else tubes_of_set(session, *found, lock=True)
    if found is None or tubes.learned is None:
        raise Refused(
            gettext(
                "Nothing is known of these tubes yet: hand in %(count)s sheets painted with them.",
                count=FEWEST,
            )
        )
    keep_tubes(session, *found, replace(tubes, refused=not follow))
    queue_following_tubes(session, *found, teacher_id)


def hold_by_tubes(session: Session, class_id: int, set_ref: str, teacher_id: int) -> None:
    """Let the keys of a class's set follow its tubes, or not, as a teacher chose."""
    known = _followed(tubes_of_set(session, class_id, set_ref, lock=True))
    for assignment_id in assignments_of_set(session, class_id, set_ref):
        hold_by_class(session, assignment_id, known, made_by=teacher_id)


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


@dataclass(frozen=True, kw_only=True)
class _Sheets:
    """The read sheets of a set, by assignment."""

    sheets: dict[int, list[SheetOfClass]]
    surface: Surface


def _followed(tubes: TubesOfSet) -> KnownTubes:
    """Give what the keys go by."""
    return UNKNOWN if tubes.refused else known_tubes_from_json(tubes.learned)


def _sheets(session: Session, class_id: int, set_ref: str) -> _Sheets:
    sheets: dict[int, list[SheetOfClass]] = {}
    surface = Surface()
    plain: dict[int, RevisionRow] = {}
    for one in sheets_of_set(session, class_id, set_ref):
        if one.assignment_id not in plain:
            plain[one.assignment_id] = plain_revision_of(session, one.assignment_id)
        kept = plain[one.assignment_id]
        if kept.asked is None or kept.paints is None:
            continue
        paints = set_of_body(kept.paints)
        surface = paints.binder.dry
        asked = asked_from_json(kept.asked, paints)
        asked = asked if one.cells is None else part_of(asked, one.cells)
        cells = reading_from_json(one.body).cells
        sheets.setdefault(one.assignment_id, []).append(SheetOfClass(asked=asked, cells=cells))
    return _Sheets(sheets=sheets, surface=surface)
