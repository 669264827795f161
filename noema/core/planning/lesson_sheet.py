"""A lesson on one page: clock times, what to show and say, what to lay out, what to mind."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from noema.core.exercises.asked import Asked
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.media import Medium, cautions
from noema.core.language import gettext, said_together
from noema.core.pigments.cautions import cautions_of
from noema.core.planning.amounts import Amounts, amounts_of, rounded_ml, squeezed
from noema.core.planning.frame import Wish
from noema.core.planning.lay_out import things_to_lay_out
from noema.core.planning.timeline import Doing, LessonPart, PlannedLesson


@dataclass(frozen=True, kw_only=True)
class ClockPart:
    """Some minutes of a lesson, by the clock."""

    begins: datetime
    minutes: int
    words: str


@dataclass(frozen=True, kw_only=True)
class TaughtExercise:
    """An exercise of the lesson: what to show, say and ask."""

    wish: str
    title: str
    begins: bool  # for the first time
    piles: str  # the two to have ready
    how: tuple[str, ...]
    see: str
    mistake: str
    say: str
    easier: str
    harder: str
    ask: str
    paint: tuple[tuple[str, str, str], ...]  # tube, each student's, and what the class takes


@dataclass(frozen=True, kw_only=True)
class LessonSheet:
    """The page."""

    at: datetime
    minutes: int
    parts: tuple[ClockPart, ...]
    spare_min: int
    shown: tuple[TaughtExercise, ...]
    lay_out: tuple[str, ...]
    cautions: tuple[str, ...]


def lesson_sheet(
    planned: PlannedLesson,
    wishes: Mapping[str, Wish],
    asked: Mapping[str, Asked],
    people: int,
) -> LessonSheet:
    """Put a planned lesson on a page; `asked` has the exercises that are painted in it."""
    titles = {name: one.title for name, one in asked.items()}
    painted = [part for part in planned.parts if part.doing is Doing.PAINT]
    media = [wishes[str(part.wish)].medium for part in painted]
    return LessonSheet(
        at=planned.lesson.at,
        minutes=planned.lesson.minutes,
        parts=tuple(_clock(planned, part, titles) for part in planned.parts),
        spare_min=planned.spare_min,
        shown=tuple(
            _shown(part, planned.parts, wishes[str(part.wish)], asked[str(part.wish)], people)
            for part in painted
        ),
        lay_out=things_to_lay_out(media, people),
        cautions=_cautions(media, [asked[str(part.wish)] for part in painted]),
    )


def _clock(planned: PlannedLesson, part: LessonPart, titles: Mapping[str, str]) -> ClockPart:
    at = planned.lesson.at
    begins = (at.astimezone(UTC) + timedelta(minutes=part.begins_min)).astimezone(at.tzinfo)
    words = gettext(part.doing.label)
    if part.wish is not None:
        words = f"{words}: {titles.get(part.wish, part.wish)}"
    if part.again:
        words = gettext("%(words)s, what went back", words=words)
    return ClockPart(begins=begins, minutes=part.minutes, words=words)


def _shown(
    part: LessonPart, parts: Sequence[LessonPart], wish: Wish, asked: Asked, people: int
) -> TaughtExercise:
    told = kind_of(wish.kind).teaching
    first = asked.cells[0].id
    return TaughtExercise(
        wish=wish.id,
        title=asked.title,
        begins=first in part.cells,
        piles=_piles(asked, part.cells),
        how=asked.how_to,
        see=gettext(told.see),
        mistake=gettext(told.mistake),
        say=gettext(told.say),
        easier=gettext(told.easier),
        harder=gettext(told.harder),
        ask=gettext(told.ask),
        paint=() if wish.medium.is_dry else _paint(asked, wish.medium, part, people),
    )


def _piles(asked: Asked, cells: tuple[str, ...]) -> str:
    """Name the two tubes that most of the first mix is made of; empty where nothing is mixed."""
    first = next((c for c in asked.cells if c.id in cells and len(c.parts) > 1), None)
    if first is None:
        return ""
    most = sorted(first.parts, key=lambda part: -part.amount)[:2]
    return said_together([part.tube.label for part in most])


def _paint(
    asked: Asked, medium: Medium, part: LessonPart, people: int
) -> tuple[tuple[str, str, str], ...]:
    amounts = amounts_of(asked, medium, people, cells=part.cells or None)
    order = sorted(amounts.tubes, key=lambda name: -amounts.tubes[name].usual)
    return tuple((amounts.labels[name], *_amount(amounts, name)) for name in order)


def _amount(amounts: Amounts, name: str) -> tuple[str, str]:
    each, whole = amounts.per_person[name].usual, amounts.tubes[name]
    little, much = (f"{rounded_ml(ml):g}" for ml in (whole.little, whole.much))
    if little == much:
        return squeezed(each), gettext("%(much)s ml", much=much)
    return squeezed(each), gettext("%(little)s to %(much)s ml", little=little, much=much)


def _cautions(media: Sequence[Medium], asked: Sequence[Asked]) -> tuple[str, ...]:
    tubes = {
        part.tube.name: part.tube for one in asked for cell in one.on_paper for part in cell.parts
    }
    said = [words for medium in media for words in cautions(medium)]
    for medium in media:
        if medium.binder is not None:
            said += cautions_of(tuple(tubes.values()), medium.binder)
    return tuple(dict.fromkeys(said))
