"""A lesson on one page: clock times, what to show and say, what to lay out, what to mind."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta

from noema.core.exercises.asked import Asked, AskedCell, Even
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.media import Medium, cautions
from noema.core.language import gettext, said_together, written
from noema.core.pigments.cautions import cautions_of
from noema.core.planning.amounts import Range, amounts_of, rounded_ml, squeezed, times
from noema.core.planning.factor import LearnedFactor, factor_from
from noema.core.planning.frame import Wish
from noema.core.planning.lay_out import (
    USUAL_TABLE,
    Changed,
    LayingOut,
    Squeezed,
    Thing,
    things_to_lay_out,
)
from noema.core.planning.paint_uses import at_factor, summed
from noema.core.planning.timeline import Doing, LessonPart, PlannedLesson


@dataclass(frozen=True, kw_only=True)
class ClockPart:
    """Some minutes of a lesson, by the clock."""

    begins: datetime
    minutes: int
    words: str


@dataclass(frozen=True, kw_only=True)
class PaintOfLesson:
    """What a lesson takes of a tube."""

    tube: str
    medium: Medium
    label: str
    each: Range  # ml
    whole: Range  # ml, of the class, one sheet more

    @property
    def squeezed(self) -> str:
        """Say what a student squeezes out."""
        return squeezed(self.each.usual)

    @property
    def of_class(self) -> str:
        """Say what the class takes."""
        little, much = (written(rounded_ml(ml)) for ml in (self.whole.little, self.whole.much))
        if little == much:
            return gettext("%(much)s ml", much=much)
        return gettext("%(little)s to %(much)s ml", little=little, much=much)


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
    seen_at: str  # where this school saw that mistake; empty for the usual one
    say: str
    easier: str
    harder: str
    ask: str
    paint: tuple[PaintOfLesson, ...]


@dataclass(frozen=True, kw_only=True)
class SeenMistake:
    """What most of a class of the school did when they last painted a kind."""

    words: str
    say: str  # empty where nothing in particular helps
    where: str  # such as Year 8A


@dataclass(frozen=True, kw_only=True)
class WasAway:
    """A student who was away in the lesson before."""

    name: str
    due: date | None  # when they hand in what is painted, if that isn't with the class


@dataclass(frozen=True, kw_only=True)
class LessonFacts:
    """What a lesson's page is made from, besides its plan."""

    wishes: Mapping[str, Wish]
    asked: Mapping[str, Asked]  # exercises of the lesson that can be worked out
    people: int
    use: LearnedFactor = field(default_factory=lambda: factor_from(1.0, ()))  # of paint
    seen: Mapping[str, SeenMistake] = field(default_factory=dict)  # by kind
    away: tuple[WasAway, ...] = ()
    changed: Changed = field(default_factory=Changed)
    a_table: int = USUAL_TABLE  # people


@dataclass(frozen=True, kw_only=True)
class LessonSheet:
    """The page."""

    at: datetime
    minutes: int
    parts: tuple[ClockPart, ...]
    spare_min: int
    shown: tuple[TaughtExercise, ...]
    lay_out: tuple[Thing, ...]
    tables: int
    cautions: tuple[str, ...]
    away: tuple[WasAway, ...]

    @property
    def way_back(self) -> tuple[str, ...]:
        """Say what shorter sheets bring back in who was away."""
        return tuple(f"{one.title}: {one.easier}" for one in self.shown)


def lesson_sheet(planned: PlannedLesson, facts: LessonFacts) -> LessonSheet:
    """Put a planned lesson on a page."""
    titles = {name: one.title for name, one in facts.asked.items()}
    painted = [p for p in planned.parts if p.doing is Doing.PAINT and p.wish in facts.asked]
    media = [facts.wishes[str(part.wish)].medium for part in painted]
    shown = tuple(_shown(part, facts) for part in painted)
    wanted = LayingOut(
        media=media,
        people=facts.people,
        paint=_squeezed(shown),
        a_table=facts.a_table,
        changed=facts.changed,
    )
    return LessonSheet(
        at=planned.lesson.at,
        minutes=planned.lesson.minutes,
        parts=tuple(_clock(planned, part, titles) for part in planned.parts),
        spare_min=planned.spare_min,
        shown=shown,
        lay_out=things_to_lay_out(wanted),
        tables=wanted.tables,
        cautions=_cautions(media, [facts.asked[str(part.wish)] for part in painted]),
        away=facts.away,
    )


def _squeezed(shown: Sequence[TaughtExercise]) -> tuple[Squeezed, ...]:
    """Add up what a person needs of each tube."""
    by_tube: dict[str, list[PaintOfLesson]] = defaultdict(list)
    for one in shown:
        for need in one.paint:
            by_tube[need.tube].append(need)
    return tuple(
        Squeezed(tube=tube, label=some[0].label, each=summed(need.each for need in some))
        for tube, some in by_tube.items()
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


def _shown(part: LessonPart, facts: LessonFacts) -> TaughtExercise:
    wish, asked = facts.wishes[str(part.wish)], facts.asked[str(part.wish)]
    told, seen = kind_of(wish.kind).teaching, facts.seen.get(wish.kind)
    return TaughtExercise(
        wish=wish.id,
        title=asked.title,
        begins=asked.cells[0].id in part.cells,
        piles=_piles(asked, part.cells),
        how=asked.how_to,
        see=gettext(told.see),
        mistake=gettext(told.mistake) if seen is None else seen.words,
        seen_at="" if seen is None else seen.where,
        say=gettext(told.say) if seen is None or not seen.say else seen.say,
        easier=gettext(told.easier),
        harder=gettext(told.harder),
        ask=gettext(told.ask),
        paint=() if wish.medium.is_dry else _paint(asked, wish.medium, part, facts),
    )


def _piles(asked: Asked, cells: tuple[str, ...]) -> str:
    """Name the two piles to have ready; empty where nothing is mixed.

    Of a row, its ends; elsewhere the two tubes that most of the first mix is made of.
    """
    mixes = [c for c in asked.cells if c.id in cells and len(c.parts) > 1]
    if not mixes:
        return ""
    row = next(band for band in asked.bands if mixes[0] in band.cells)
    if row.even in (Even.DISTANCE, Even.VALUE):
        one, other = _pile(row.cells[0]), _pile(row.cells[-1])
        if one and other and one != other:
            return gettext("%(one)s, and %(other)s", one=one, other=other)
    most = sorted(mixes[0].parts, key=lambda part: -part.amount)[:2]
    return said_together([part.tube.label for part in most])


def _pile(cell: AskedCell) -> str:
    tubes = sorted(cell.parts, key=lambda part: -part.amount)
    named = said_together([part.tube.label for part in tubes])
    return gettext("%(tubes)s mixed", tubes=named) if len(tubes) > 1 else named


def _paint(
    asked: Asked, medium: Medium, part: LessonPart, facts: LessonFacts
) -> tuple[PaintOfLesson, ...]:
    amounts = amounts_of(asked, medium, 1, cells=part.cells or None)
    needs = [
        PaintOfLesson(
            tube=name,
            medium=medium,
            label=amounts.labels[name],
            each=(own := at_factor(each, facts.use)),
            whole=times(own, facts.people + 1),
        )
        for name, each in amounts.per_person.items()
    ]
    return tuple(sorted(needs, key=lambda one: -one.each.usual))


def _cautions(media: Sequence[Medium], asked: Sequence[Asked]) -> tuple[str, ...]:
    tubes = {
        part.tube.name: part.tube for one in asked for cell in one.on_paper for part in cell.parts
    }
    said = [words for medium in media for words in cautions(medium)]
    for medium in media:
        if medium.binder is not None:
            said += cautions_of(tuple(tubes.values()), medium.binder)
    return tuple(dict.fromkeys(said))
