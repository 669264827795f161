"""Attempts from the store, summed up skill by skill for the courses."""

from collections.abc import Mapping, Sequence

from noema.core.judging.closeness import closeness
from noema.core.planning.unit import Unit
from noema.core.progress.seeing import Seen, seen
from noema.core.progress.skill_courses import Tried
from noema.formats.judgement_json import difficulty_from_json, tally_from_json
from noema.store.assignments import AssignmentRow
from noema.store.reviews import AttemptRow
from noema.store.revisions import difficulties_of
from noema.store.student_work import checks_of
from noema.web.frame.clock import here
from noema.web.frame.request import db


def tried_of(
    attempts: Sequence[AttemptRow], given: Mapping[int, AssignmentRow], units: Mapping[int, Unit]
) -> dict[int, list[Tried]]:
    """Sum attempts up by student, oldest first; `units` gives each class's."""
    asked = {number: difficulty_from_json(body) for number, body in _difficulties(attempts).items()}
    found: dict[int, list[Tried]] = {}
    for one in sorted(attempts, key=lambda a: (a.received_at, a.photograph_id)):
        tally = tally_from_json(one.tally, skills=True)
        close = closeness(tally.skills, asked.get(one.assignment_id, {}), one.review)
        week = units[one.class_id].week_on(here(one.received_at).date())
        found.setdefault(one.student_id, []).append(
            Tried(
                assignment=one.assignment_id,
                kind=given[one.assignment_id].kind,
                week=week,
                close=close,
            )
        )
    return found


def seen_by_eye(attempts: Sequence[AttemptRow]) -> list[Seen]:
    """Hold what a student thought of their sheets beside the readings, oldest first."""
    checks = checks_of(db(), [one.photograph_id for one in attempts])
    return [
        seen(check.thinks, tally_from_json(one.tally), one.review)
        for one in attempts
        if (check := checks.get(one.photograph_id)) is not None and check.thinks is not None
    ]


def _difficulties(attempts: Sequence[AttemptRow]) -> dict[int, dict[str, object]]:
    return difficulties_of(db(), {one.assignment_id for one in attempts})
