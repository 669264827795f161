"""Attempts from the store, summed up skill by skill for the courses."""

from collections.abc import Mapping, Sequence
from functools import lru_cache

import orjson

from noema.core.exercises.skills import Skill
from noema.core.judging.closeness import Closeness, closeness
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict
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
    asked = {number: orjson.dumps(body) for number, body in _difficulties(attempts).items()}
    found: dict[int, list[Tried]] = {}
    for one in sorted(attempts, key=lambda a: (a.received_at, a.photograph_id)):
        close = _close(
            orjson.dumps(one.tally),
            asked.get(one.assignment_id, b"{}"),
            one.review.left_out,
            tuple(sorted(one.review.overruled.items())),
        )
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


@lru_cache(maxsize=4_000)
def _close(
    tally: bytes,
    difficulty: bytes,
    left_out: frozenset[str],
    overruled: tuple[tuple[str, Verdict], ...],
) -> Mapping[Skill, Closeness]:
    """Sum one attempt up; the same again while nobody changes it, page after page."""
    return closeness(
        tally_from_json(orjson.loads(tally), skills=True).skills,
        difficulty_from_json(orjson.loads(difficulty)),
        Review(left_out=left_out, overruled=dict(overruled)),
    )


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
