"""Tasks of the bench as plain values, and what was foreseen of a touch."""

from dataclasses import dataclass

from noema.core.bench.predicting import Foreseen, Prediction
from noema.core.bench.task import BenchTask, Goal, TaskKind
from noema.formats.bench_json import act_from_json, act_to_json
from noema.formats.plain import as_builtins, from_plain, to_plain

Json = dict[str, object]

_DIGITS = {"lab": 3, "volume": 6}
_WHAT = "task"


@dataclass(frozen=True, kw_only=True)
class _Told:
    """A task but for its acts, which have a form of their own."""

    kind: TaskKind
    goals: tuple[Goal, ...]
    tubes: tuple[str, ...]
    about: tuple[str, ...]
    shows: bool
    given: list[list[object]]


def task_to_json(task: BenchTask) -> Json:
    """Give a task as plain values."""
    told = to_plain(task, _DIGITS)
    assert isinstance(told, dict)
    return {**told, "given": [act_to_json(act) for act in task.given]}


def task_from_json(body: Json) -> BenchTask:
    """Read a task."""
    told = from_plain(_Told, body, _WHAT)
    return BenchTask(
        kind=told.kind,
        goals=told.goals,
        tubes=told.tubes,
        about=told.about,
        shows=told.shows,
        given=tuple(act_from_json(act) for act in told.given),
    )


def foreseen_to_json(number: int, said: Prediction, came: Foreseen) -> Json:
    """Give what was said of an act, by its number, and what came true."""
    return {"act": number, "said": as_builtins(said), "came": as_builtins(came)}


def foreseen_from_json(body: Json) -> Foreseen:
    """Read what came true."""
    return from_plain(Foreseen, body["came"], _WHAT)
