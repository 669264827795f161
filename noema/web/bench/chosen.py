"""What may be practised, as buttons; and what was, as lines."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from noema.actions.practise import BenchPaints, Offer, offers
from noema.actions.work_out_exercise import exercise_of
from noema.core.bench.says import how_near, task_words
from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.levels import Level
from noema.core.judging.review import ReviewState
from noema.core.judging.verdict import Verdict
from noema.core.language import gettext
from noema.formats.bench_task_json import task_from_json
from noema.formats.days import day, short_day
from noema.formats.judgement_json import tally_from_json
from noema.store.bench import GivenTask, KeptPractice
from noema.store.reviews import AttemptRow
from noema.store.student_work import (
    checks_of,
    given_one_to_student,
)
from noema.web.frame.clock import here
from noema.web.frame.request import db

_MOST_CELLS = 4


@dataclass(frozen=True, kw_only=True)
class CellChoice:
    """A cell that drifted on the last sheet."""

    name: str
    label: str
    fill: str


@dataclass(frozen=True, kw_only=True)
class GivenChoice:
    """A task that a teacher gave."""

    name: str
    title: str
    due: str
    done: str  # how near one came; empty where it wasn't done


@dataclass(frozen=True, kw_only=True)
class TaskChoices:
    """Everything that may be begun."""

    paints: str  # label of the tubes
    given: tuple[GivenChoice, ...]
    cells: tuple[CellChoice, ...]
    matches: tuple[Offer, ...]
    offers: tuple[Offer, ...]


@dataclass(frozen=True, kw_only=True)
class GoLine:
    """One go, in a line."""

    address: str
    title: str
    day: str
    came: str


def choices_of(
    paints: BenchPaints,
    table: HueTable,
    given: Sequence[GivenTask],
    cells: tuple[CellChoice, ...],
    goes: Sequence[KeptPractice],
) -> TaskChoices:
    """Collect what may be begun with some tubes."""
    nearest = {
        go.task_id: min(
            one.away for one in goes if one.task_id == go.task_id and one.away is not None
        )
        for go in goes
        if go.task_id is not None and go.away is not None
    }
    return TaskChoices(
        paints=paints.paints.label,
        given=tuple(
            GivenChoice(
                name=f"given:{one.id}",
                title=title_of(one),
                due="" if one.due_on is None else gettext("until %(day)s", day=day(one.due_on)),
                done=how_near(nearest[one.id]) if one.id in nearest else "",
            )
            for one in given
        ),
        cells=cells,
        matches=tuple(
            Offer(name=f"match-{level.value}", title=gettext(level.value)) for level in Level
        ),
        offers=offers(paints.bench.paints, table),
    )


def title_of(given: GivenTask) -> str:
    """Say what a given task is called: by its teacher's words, or its own."""
    return given.title or task_words(task_from_json(given.task)).title


def go_lines(goes: Sequence[KeptPractice], address: Callable[[int], str]) -> tuple[GoLine, ...]:
    """Give a line a go."""
    return tuple(
        GoLine(
            address=address(go.id),
            title=task_words(task_from_json(go.task)).title,
            day=short_day(here(go.begun_at)),
            came=gettext("goes on")
            if go.ended_at is None
            else ""
            if go.away is None
            else how_near(go.away),
        )
        for go in goes
    )


def own_cells(student_id: int, seen: Sequence[AttemptRow]) -> tuple[CellChoice, ...]:
    """Give the cells that drifted on the last sheet of those a student may see."""
    said = checks_of(db(), [one.photograph_id for one in seen])
    # What somebody thinks of their own sheet is asked before anything tells them of it.
    told = [
        one for one in seen if one.photograph_id in said or one.review.state is not ReviewState.OPEN
    ]
    if not told:
        return ()
    last = max(told, key=lambda one: (one.received_at, one.photograph_id))
    tally = tally_from_json(last.tally)
    off = [
        cell
        for cell, verdict in zip(tally.ids, tally.verdicts, strict=True)
        if last.review.overruled.get(cell, verdict) in (Verdict.OFF, Verdict.DRIFTS)
    ]
    row = given_one_to_student(db(), student_id, last.assignment_id)
    exercise = exercise_of(db(), row)
    if exercise.paints is None:
        return ()
    cells = [one for one in exercise.expected.cells if one.id in off][:_MOST_CELLS]
    fills = lab_to_hex([one.lab for one in cells]) if cells else []
    return tuple(
        CellChoice(
            name=f"cell:{row.id}:{one.id}", label=f"{row.title}, {gettext(one.label)}", fill=fill
        )
        for one, fill in zip(cells, fills, strict=True)
    )
