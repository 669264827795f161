"""A teacher gives a class an exercise."""

from random import Random

from sqlalchemy.orm import Session

from noema.actions.work_out_exercise import Chosen, work_out
from noema.core.errors import Refused
from noema.core.language import gettext, source_of
from noema.core.sheet.code import draw_stem
from noema.formats.asked_json import asked_to_json
from noema.formats.options_json import options_to_json
from noema.formats.set_json import set_to_body
from noema.store.assignments import NewAssignment, add_assignment, stem_taken
from noema.store.classes import class_of_school
from noema.store.printers import add_printer, usual_printer
from noema.store.reach import seeing_all
from noema.store.revisions import NewRevision, add_revision


def assign_exercise(
    session: Session,
    chosen: Chosen,
    *,
    school_id: int,
    class_id: int,
    teacher_id: int,
    due_week: int,
    rng: Random,
    wish: str | None = None,
) -> int:
    """Work an exercise out and assign it, with its paints and expectations as they are now.

    Gives the assignment's number. A set that is changed later changes nothing that was given.
    `wish` is that of the class's unit which it is.
    """
    school_class = class_of_school(session, school_id, class_id)
    if not school_class.unit.holds(due_week):
        raise Refused(
            gettext(
                "The unit has weeks 1 to %(weeks)s: choose one of them as due.",
                weeks=school_class.unit.weeks,
            )
        )
    asked = work_out(chosen)
    paints = chosen.in_medium
    stem = draw_stem(rng)
    with seeing_all(session):
        while stem_taken(session, stem):
            stem = draw_stem(rng)
    new = NewAssignment(
        class_id=class_id,
        stem=stem,
        kind=chosen.kind,
        title=asked.title[:120],
        title_source=source_of(asked.title),
        options=options_to_json(chosen.options),
        medium=chosen.medium.value,
        paper=chosen.paper.value,
        grey_only=chosen.grey_only,
        shows_parts=chosen.shows_parts,
        own_tubes=chosen.own_tubes,
        due_week=due_week,
        wish=wish,
        assigned_by=teacher_id,
        printer_id=usual_printer(session, school_id)
        or add_printer(session, school_id, gettext("Our printer")),
    )
    assignment_id = add_assignment(session, new)
    held = NewRevision(
        key=chosen.key,
        level=chosen.level,
        tolerance=chosen.tolerance,
        set_ref=chosen.set_ref if paints else None,
        paints=set_to_body(paints) if paints else None,
        asked=asked_to_json(asked),
        made_by=teacher_id,
    )
    add_revision(session, assignment_id, held)
    return assignment_id
