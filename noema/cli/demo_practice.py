"""What the demo's classes practised: at the bench, with the eye, noted in logbooks.

Stand-in beginners mix and stand-in eyes answer, through the same actions the pages use.
"""

from collections.abc import Iterator, Sequence
from datetime import UTC, date, datetime, timedelta

from numpy.random import Generator, default_rng
from sqlalchemy.orm import Session

from noema.actions.log_colours import add_note
from noema.actions.practise import (
    BenchPaints,
    begin,
    do,
    end,
    offers,
    paints_of,
    paints_to_json,
    practice_from,
    task_named,
)
from noema.actions.train_eye import answer_question, begin_asking
from noema.core.bench.doing import Act, Wipe
from noema.core.bench.practice import Practice
from noema.core.bench.predicting import Prediction, SaidValue
from noema.core.bench.seen import colours_of
from noema.core.bench.task import BenchTask
from noema.core.colour.names import HueTable
from noema.core.planning.unit import monday_of
from noema.core.seeing.series import Screen, SeriesKind
from noema.formats.bench_task_json import task_to_json
from noema.formats.series_json import asked_from_json
from noema.stand_ins.beginner import Beginner
from noema.stand_ins.eye import Eye
from noema.stand_ins.saltmarsh import WEEK
from noema.store.assignments import assignments_of_class
from noema.store.bench import GivenTask, Practiser, give_task, practice_of_class
from noema.store.eye import series_of_student
from noema.store.logbook import LogSource
from noema.store.paints import hue_words
from noema.store.students import StudentRow, card_holders_of_class

_SEED = 23
_TOUCHES = 7
_GIVEN = ("match-beginner", "dark")  # to each class, where its tubes allow it
_DOES, _FORESEES = 0.7, 0.65  # students who do a task; changes they foresee
_SCREEN = Screen(dark_steps=4, light_steps=5, light_on_it=False)
_SERIES = (
    (2, SeriesKind.VALUE),
    (4, SeriesKind.HUE),
    (5, SeriesKind.VALUE),
    (6, SeriesKind.PLACES),
)
_EYES = 0.55  # students who train their eye


def fill_practice(session: Session, school_id: int, class_id: int, today: date) -> None:
    """Let a class practise for six weeks."""
    students = card_holders_of_class(session, class_id)
    rng, table = default_rng([_SEED, len(students)]), hue_words(session, school_id).table
    paints = paints_of(session, assignments_of_class(session, class_id))
    possible = {one.name for one in offers(paints.bench.paints, table)}
    given = [
        _give(session, school_id, class_id, name, paints, table, rng)
        for name in _GIVEN
        if name.startswith("match") or name in possible
    ]
    for student in students:
        _practise(session, student, class_id, given, paints, table, today, rng)
        if rng.random() < _EYES:
            _look(session, student, today, rng)


def _give(
    session: Session,
    school_id: int,
    class_id: int,
    name: str,
    paints: BenchPaints,
    table: HueTable,
    rng: Generator,
) -> tuple[int, BenchTask]:
    task = task_named(name, paints.bench.paints, table, rng)
    new = GivenTask(
        id=0,
        class_id=class_id,
        title="",
        task=task_to_json(task),
        paints=paints_to_json(paints),
        due_on=None,
    )
    return give_task(session, school_id, new), task


def _practise(
    session: Session,
    student: StudentRow,
    class_id: int,
    given: Sequence[tuple[int, BenchTask]],
    paints: BenchPaints,
    table: HueTable,
    today: date,
    rng: Generator,
) -> None:
    who = Practiser(school_id=student.school_id, class_id=class_id, student_id=student.id)
    knows = float(rng.uniform(0.5, 0.85))
    for week, (number, task) in enumerate(given, start=WEEK - len(given) + 1):
        if rng.random() >= _DOES:
            continue
        at = _afternoon(today, week, rng)
        go = begin(session, who, paints, task, number, begun_at=at)
        hand = Beginner(rng=rng, knows=knows, asks=bool(rng.random() < 0.7))
        practice = Practice(bench=paints.bench, task=task)
        for goal in task.goals:
            practice = hand.mixes(practice, goal, table, _TOUCHES)
        for acts in _by_touch(practice.acts):
            kept = practice_of_class(session, class_id, go)
            do(session, kept, acts, _said(practice_from(kept), acts, rng), table)
        end(session, practice_of_class(session, class_id, go), student.school_id, at)
    if rng.random() < 0.3:
        add_note(
            session,
            LogSource(school_id=student.school_id, class_id=class_id, student_id=student.id),
            title="the grey of the rooftops",
            parts=", ".join(
                f"{tube.name}:{volume}"
                for tube, volume in zip(paints.paints.colours[-2:], (3, 2), strict=False)
            ),
            words="with white for the far ones",
            lab=None,
            paints=paints.bench.paints,
        )


def _by_touch(acts: Sequence[Act]) -> Iterator[list[Act]]:
    group: list[Act] = []
    for act in acts:
        group.append(act)
        if isinstance(act, Wipe):
            yield group
            group = []
    if group:
        yield group


def _said(practice: Practice, acts: Sequence[Act], rng: Generator) -> Prediction:
    """Say how the value will change, rightly as often as they foresee."""
    after = practice.doing(*acts)
    values = [
        {name: one.hvc.value for name, one in colours_of(now.palette, now.bench.paints).items()}
        for now in (practice, after)
    ]
    pile = next((name for name in values[1] if name in values[0]), None)
    if pile is None or rng.random() < 0.4:
        return Prediction()
    lighter = values[1][pile] > values[0][pile]
    right = rng.random() < _FORESEES
    return Prediction(value=SaidValue.LIGHTER if lighter is bool(right) else SaidValue.DARKER)


def _look(session: Session, student: StudentRow, today: date, rng: Generator) -> None:
    eye = Eye.drawn(rng)
    for week, kind in _SERIES:
        at = _afternoon(today, week, rng)
        series = begin_asking(session, student, kind, _SCREEN, rng, begun_at=at)
        while (kept := series_of_student(session, student.id, series)).ended_at is None:
            asked = asked_from_json(kept.asked)
            chosen = eye.answers(asked[-1].question, rng, asked[-1].placed)
            answer_question(
                session, student, series, len(asked), chosen, was_told=False, now=at, rng=rng
            )
        eye = eye.finer()


def _afternoon(today: date, week: int, rng: Generator) -> datetime:
    """Give an afternoon of a week of the unit, never in the future."""
    monday = monday_of(today) - timedelta(weeks=WEEK - week)
    day = min(monday + timedelta(days=int(rng.integers(5))), today - timedelta(days=1))
    return datetime(day.year, day.month, day.day, 16, int(rng.integers(60)), tzinfo=UTC)
