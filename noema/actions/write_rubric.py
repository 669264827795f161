"""A school writes its own rubric, or goes back to the usual one."""

from sqlalchemy.orm import Session

from noema.core.judging.rubric import Rubric
from noema.formats.rubric_json import rubric_from_json, rubric_to_json
from noema.store.rubrics import rubric_body, set_rubric


def write_rubric(session: Session, school_id: int, rubric: Rubric | None) -> None:
    """Keep a rubric; sheets are summed up by it from now on, the record stays as it is."""
    set_rubric(session, school_id, None if rubric is None else rubric_to_json(rubric))


def rubric_of(session: Session, school_id: int) -> Rubric:
    """Give the rubric a school sums up by."""
    return rubric_from_json(rubric_body(session, school_id))
