"""How somebody sees, apart from how they paint: series, predictions, guesses of own sheets."""

from collections.abc import Sequence
from dataclasses import dataclass

from noema.core.bench.predicting import share_foreseen
from noema.core.colour.axis import Axis
from noema.core.language import gettext
from noema.core.progress.seeing import Seen
from noema.core.progress.skill_courses import eye_words
from noema.core.seeing.says import SERIES_WORDS, change_words, places_words, sees_words
from noema.core.seeing.series import Answered, SeriesKind, along_one_line
from noema.core.seeing.training import KnownEye, TrainedAt, next_training
from noema.core.statistics.adaptive import Found
from noema.formats.bench_task_json import foreseen_from_json
from noema.formats.days import short_day
from noema.formats.series_json import answered_of, asked_from_json, found_from_json
from noema.store.bench import practices_of_student
from noema.store.eye import KeptSeries, all_series_of_student
from noema.web.drawings.threshold import ThresholdCurve, draw_thresholds
from noema.web.frame.clock import here
from noema.web.frame.request import db


@dataclass(frozen=True, kw_only=True)
class SeenLine:
    """One quantity: the smallest difference seen, and how that changed."""

    words: str
    change: str
    curve: ThresholdCurve


@dataclass(frozen=True, kw_only=True)
class HowYouSee:
    """Everything that is known of how a student sees."""

    lines: tuple[SeenLine, ...]
    places: tuple[str, ...]
    foreseen: str  # how changes at the bench were foreseen; empty where nothing was said
    guesses: str  # of their own sheets; empty where nothing was said
    next_words: str
    next_place: TrainedAt
    next_series: SeriesKind | None

    @property
    def is_known(self) -> bool:
        """Whether there is anything to show."""
        return bool(self.lines or self.places or self.foreseen or self.guesses)


def how_you_see(student_id: int, guesses: Sequence[Seen], *, drifted: bool) -> HowYouSee:
    """Collect how a student sees."""
    over = [one for one in all_series_of_student(db(), student_id) if one.ended_at is not None]
    over.reverse()
    answers = {one.id: answered_of(asked_from_json(one.asked)) for one in over}
    everything = [answer for one in over for answer in answers[one.id]]
    courses = _courses(over)
    latest = {quantity: course[-1][1] for quantity, course in courses.items()}
    goes = practices_of_student(db(), student_id)
    foreseen = share_foreseen(foreseen_from_json(one) for go in goes for one in go.foreseen)
    shares = [one.share for one in guesses if one.share is not None]
    hue = latest.get(Axis.HUE)
    found = next_training(
        KnownEye(
            found=latest,
            foreseen=foreseen,
            agreed=sum(shares) / len(shares) if shares else None,
            drifted=drifted,
            one_line=hue is not None and along_one_line(everything, hue),
        )
    )
    lines = (_line(quantity, courses[quantity], everything) for quantity in courses)
    return HowYouSee(
        lines=tuple(line for line in lines if line is not None),
        places=places_words(everything),
        foreseen=_foreseen_words(*foreseen),
        guesses=eye_words(list(guesses)) if guesses else "",
        next_words=_next_words(found.series, found.reason),
        next_place=found.place,
        next_series=found.series,
    )


def _courses(over: Sequence[KeptSeries]) -> dict[Axis, list[tuple[str, Found]]]:
    """Give what each series found, by quantity, with its day."""
    courses: dict[Axis, list[tuple[str, Found]]] = {}
    for one in over:
        for quantity, found in found_from_json(one.found).items():
            courses.setdefault(quantity, []).append((short_day(here(one.begun_at)), found))
    return courses


def _line(
    quantity: Axis, course: Sequence[tuple[str, Found]], answers: Sequence[Answered]
) -> SeenLine | None:
    count = sum(one.ask.quantity is quantity for one in answers)
    words = sees_words(quantity, course[-1][1], count)
    if not words:
        return None
    return SeenLine(
        words=words,
        change=change_words(course[0][1], course[-1][1]) if len(course) > 1 else "",
        curve=draw_thresholds(words, course),
    )


def _foreseen_words(right: int, count: int) -> str:
    if not count:
        return ""
    return gettext(
        "At the bench you foresaw %(right)s of %(count)s changes.", right=right, count=count
    )


def _next_words(series: SeriesKind | None, reason: str) -> str:
    if series is None:
        return gettext("Next: the bench, %(reason)s.", reason=reason)
    return gettext(
        "Next: %(series)s, %(reason)s.", series=gettext(SERIES_WORDS[series]), reason=reason
    )
