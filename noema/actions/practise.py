"""A class's tubes are practised with: a task is begun, acts are done, it ends."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache, partial

from numpy.random import Generator
from sqlalchemy.orm import Session

from noema.actions.log_colours import log_mixes
from noema.actions.work_out_exercise import exercise_of
from noema.core.bench.acts import Bench
from noema.core.bench.doing import Act
from noema.core.bench.making import (
    CLEAN_HUES,
    clean_task,
    dark_task,
    free_task,
    greying_pairs,
    greys_task,
    lighten_task,
    match_of,
    match_task,
    neutral_task,
    steps_task,
    tone_down_task,
)
from noema.core.bench.practice import TUBE_ML, Practice
from noema.core.bench.predicting import Foreseen, Prediction, foreseen
from noema.core.bench.says import task_words
from noema.core.bench.seen import colours_of
from noema.core.bench.task import BenchTask
from noema.core.colour.names import HueTable
from noema.core.errors import BadPaint, OutOfDate, Refused
from noema.core.exercises.levels import Level
from noema.core.language import gettext
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.core.pigments.shelf import PaintSet, builtin_set
from noema.formats.bench_json import act_from_json, acts_to_json
from noema.formats.bench_task_json import foreseen_to_json, task_from_json, task_to_json
from noema.formats.known_tubes_json import known_tubes_from_json, known_tubes_to_json
from noema.formats.set_json import set_of_body, set_to_body
from noema.store.assignments import AssignmentRow
from noema.store.base import Json
from noema.store.bench import (
    KeptPractice,
    NewPractice,
    Practiser,
    begin_practice,
    count_answer,
    end_practice,
    hold_practice,
    keep_acts,
)
from noema.store.revisions import revision_of

MOST_ACTS = 400
"""Acts of one go: more than anybody does, few enough to be played at each answer."""

_USUAL_SET = "split-six"
_PAIRS = 3  # that are offered of those that grey, and for steps


@dataclass(frozen=True, kw_only=True)
class BenchPaints:
    """The tubes round a palette: a set, and what was learned of them."""

    paints: PaintSet
    known: KnownTubes = UNKNOWN

    @property
    def bench(self) -> Bench:
        """A bench with these tubes, as the class has them."""
        return Bench(paints=self.known.in_set(self.paints), tube_holds_ml=TUBE_ML)


@dataclass(frozen=True, kw_only=True)
class Offer:
    """A task that these tubes allow."""

    name: str  # by which it is begun
    title: str


def paints_of(session: Session, given: Sequence[AssignmentRow]) -> BenchPaints:
    """Give the tubes a class paints with now: of the latest exercise that needs a set."""
    with_set = [row.id for row in given if row.set_ref is not None]
    kept = revision_of(session, max(with_set)) if with_set else None
    if kept is None or kept.paints is None:
        return BenchPaints(paints=builtin_set(_USUAL_SET))
    return BenchPaints(paints=set_of_body(kept.paints), known=known_tubes_from_json(kept.tubes))


def offers(paints: PaintSet, table: HueTable) -> tuple[Offer, ...]:
    """Give the tasks of a set, by what they practise."""
    return tuple(
        Offer(name=name, title=task_words(task).title)
        for name, task in _tasks(paints, table).items()
    )


def task_named(name: str, paints: PaintSet, table: HueTable, rng: Generator) -> BenchTask:
    """Make the task that was chosen; refuses what isn't offered."""
    if name == "free":
        return free_task()
    if name.startswith("match-"):
        try:
            return match_task(paints, Level(name.removeprefix("match-")), rng)
        except ValueError as wrong:
            raise Refused(gettext("Choose one of the tasks shown.")) from wrong
    found = _tasks(paints, table).get(name)
    if found is None:
        raise Refused(gettext("Choose one of the tasks shown."))
    return found


def task_of_cell(session: Session, assignment: AssignmentRow, cell_id: str) -> BenchTask:
    """Ask for the colour of an exercise's cell."""
    exercise = exercise_of(session, assignment)
    cell = next((one for one in exercise.expected.cells if one.id == cell_id), None)
    if cell is None or exercise.paints is None:
        raise Refused(gettext("That is no cell of this exercise: choose among those shown."))
    return match_of(exercise.paints, cell.lab, [f"{assignment.title}, {gettext(cell.label)}"])


def begin(
    session: Session,
    who: Practiser,
    given: BenchPaints,
    task: BenchTask,
    task_id: int | None = None,
    *,
    begun_at: datetime | None = None,
) -> int:
    """Begin a go at a task; gives its number."""
    paints = given.paints
    return begin_practice(
        session,
        who,
        NewPractice(
            task=task_to_json(task),
            paints=paints_to_json(given),
            played=acts_to_json(paints.name, paints.binder.value, ()),
            task_id=task_id,
        ),
        begun_at,
    )


def practice_from(kept: KeptPractice) -> Practice:
    """Give a go as it was kept."""
    acts = kept.played["acts"]
    assert isinstance(acts, list)
    return Practice(
        bench=paints_from_json(kept.paints).bench,
        task=task_from_json(kept.task),
        acts=tuple(act_from_json(act) for act in acts),
    )


def do(
    session: Session,
    kept: KeptPractice,
    acts: Sequence[Act],
    said: Prediction,
    table: HueTable,
) -> Foreseen:
    """Do acts that belong together; gives what came true of what was said of them."""
    _must_go_on(kept)
    before = practice_from(kept)
    if len(before.acts) + len(acts) > MOST_ACTS:
        raise Refused(gettext("That is enough for one go: end it and begin another."))
    after = before.doing(*acts)
    came = _came(before, after, acts, said, table)
    told = list(kept.foreseen)
    if came.said:
        told.append(foreseen_to_json(len(after.acts), said, came))
    _keep(session, kept, after.acts, told)
    return came


def undo(session: Session, kept: KeptPractice, count: int) -> None:
    """Take the last acts back, as if they hadn't been done."""
    _must_go_on(kept)
    acts = practice_from(kept).acts
    left = acts[: max(len(acts) - count, 0)]
    told = [one for one in kept.foreseen if int(str(one["act"])) <= len(left)]
    _keep(session, kept, left, told)


def answered(session: Session, kept: KeptPractice) -> None:
    """Count an answer that was asked for."""
    count_answer(session, kept.id)


def end(session: Session, kept: KeptPractice, school_id: int, now: datetime) -> None:
    """End a go, and keep how near it came and what was mixed."""
    if kept.ended_at is None:
        practice = practice_from(kept)
        end_practice(session, kept.id, away=practice.away(), touches=len(practice.touches), now=now)
        log_mixes(session, kept, school_id, practice, now)


def held(
    session: Session, practice_id: int, find: Callable[[], KeptPractice], acts: int
) -> KeptPractice:
    """Hold a go while it is changed, and give it as it is by then.

    Refuses a page that shows what is no longer so.
    """
    find()  # whose it is comes first: nobody holds what isn't theirs
    hold_practice(session, practice_id)
    kept = find()
    there = kept.played["acts"]
    assert isinstance(there, list)
    if len(there) != acts:
        raise OutOfDate(gettext("More was done here meanwhile: look at it as it is now."))
    return kept


def paints_to_json(given: BenchPaints) -> Json:
    """Keep tubes as they are now, with what was learned of them."""
    known = None if given.known is UNKNOWN else known_tubes_to_json(given.known)
    return {"set": set_to_body(given.paints), "known": known}


def paints_from_json(body: Json) -> BenchPaints:
    """Give tubes as they were kept."""
    known = body.get("known")
    return BenchPaints(
        paints=set_of_body(body["set"]),
        known=known_tubes_from_json(known if isinstance(known, dict) else None),
    )


@lru_cache(maxsize=64)
def _tasks(paints: PaintSet, table: HueTable) -> dict[str, BenchTask]:
    """Make every task of a set that is no drawn one, by name; remembered."""
    pairs = greying_pairs(paints, table)[:_PAIRS]
    wanted: dict[str, Callable[[], BenchTask]] = {
        **{f"neutral-{n}": partial(neutral_task, paints, pair) for n, pair in enumerate(pairs)},
        **{hue: partial(clean_task, paints, hue, table) for hue in CLEAN_HUES},
        "dark": partial(dark_task, paints),
        "greys": partial(greys_task, paints, table),
        "lighten": partial(lighten_task, paints, table),
        "tone-down": partial(tone_down_task, paints, table),
    }
    made = {}
    for name, make in wanted.items():
        try:
            made[name] = make()
        except BadPaint:  # these tubes can't; so it isn't offered
            continue
    return made | _steps(paints)


def _steps(paints: PaintSet) -> dict[str, BenchTask]:
    """Make steps between the first pairs that can be measured out."""
    made: dict[str, BenchTask] = {}
    for one in paints.colours:
        for other in paints.colours[paints.colours.index(one) + 1 :]:
            if len(made) == _PAIRS:
                return made
            try:
                made[f"steps-{len(made)}"] = steps_task(paints, (one, other))
            except BadPaint:  # one of them is too strong
                continue
    return made


def _came(
    before: Practice,
    after: Practice,
    acts: Sequence[Act],
    said: Prediction,
    table: HueTable,
) -> Foreseen:
    pile = next((act.pile for act in acts if hasattr(act, "pile")), "")
    colours = [colours_of(one.palette, one.bench.paints).get(pile) for one in (before, after)]
    if colours[0] is None or colours[1] is None:
        return Foreseen()
    return foreseen(said, colours[0].hvc, colours[1].hvc, table)


def _must_go_on(kept: KeptPractice) -> None:
    if kept.ended_at is not None:
        raise Refused(gettext("This go is over: begin another."))


def _keep(session: Session, kept: KeptPractice, acts: Sequence[Act], told: list[Json]) -> None:
    body = kept.played
    keep_acts(session, kept.id, acts_to_json(str(body["set"]), str(body["medium"]), acts), told)
