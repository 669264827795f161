"""One sheet is tried before any class is made: printed, painted, photographed, read by a job."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.core.coaching.advice import advise
from noema.core.coaching.audience import Audience
from noema.core.errors import Refused
from noema.core.exercises.asked import Asked
from noema.core.exercises.catalogue import FIRST_KIND, kind_of
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium, cautions
from noema.core.judging.judge import judge
from noema.core.judging.judgement import Judgement
from noema.core.language import N_, gettext
from noema.core.photo.hints import hints
from noema.core.photo.read import read_photo
from noema.core.sheet.drawing import Drawing
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.layout import Layout
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout
from noema.core.words.advice import advice_words
from noema.devices.file_store import FileStore
from noema.formats.photo_file import check_photo, open_photo
from noema.formats.private_parts import without_private
from noema.formats.reading_json import reading_from_json, reading_to_json
from noema.store.queue import queue_trial
from noema.store.trials import KeptTrial, add_trial, keep_trial_reading, trial_by_id

CODE = "TRYN-01"
_STEPS, _MEDIUM = 5, Medium.ACRYLIC
_STUMBLED = N_("Noema stumbled over this picture: photograph the sheet again.")


@dataclass(frozen=True, kw_only=True)
class TriedSheet:
    """What came of a trial."""

    judgement: Judgement | None  # None: nothing could be read
    sentence: str  # what to do next, or why nothing was read


def trial_exercise() -> Asked:
    """Give the exercise of the trial sheet: even steps between one's own dark and light."""
    kind = kind_of(FIRST_KIND)
    return kind.asked_plainly(kind.chosen({"steps": _STEPS}), _MEDIUM)


def trial_layout(paper: Paper) -> Layout:
    """Give where everything stands on the trial sheet."""
    return worksheet_layout(trial_exercise(), paper, CODE, grey_only=True)


def trial_drawing(paper: Paper, name: str) -> Drawing:
    """Draw the trial sheet."""
    words = Printed(student=name, due=gettext("Trial sheet"), cautions=cautions(_MEDIUM))
    return draw_worksheet(trial_layout(paper), trial_exercise(), paper, words)


def hand_in_trial(
    session: Session, files: FileStore, school_id: int, teacher_id: int, data: bytes
) -> int:
    """Keep and queue a photograph of the trial sheet; gives its number."""
    check_photo(data)
    trial_id = add_trial(session, school_id, teacher_id, files.put(without_private(data)))
    queue_trial(session, trial_id)
    return trial_id


def read_trial(session: Session, files: FileStore, trial_id: int) -> None:
    """Read a photograph of the trial sheet; what happened is kept with it."""
    kept = trial_by_id(session, trial_id)
    if kept is None or kept.reading is not None:
        return
    try:
        picture = open_photo(files.get(kept.sha256))
        reading = max(
            (read_photo(picture, trial_layout(paper)).reading for paper in Paper),
            key=lambda one: one.found,
        )
    except Refused as wrong:
        keep_trial_reading(session, trial_id, {"said": str(wrong), "body": None})
        return
    said = " ".join(hints(reading.flags)[:1])
    body = reading_to_json(reading, None) if reading.found else None
    keep_trial_reading(session, trial_id, {"said": said, "body": body})


def give_up_trial(session: Session, trial_id: int) -> None:
    """Say that a trial couldn't be read for a reason that is Noema's own."""
    kept = trial_by_id(session, trial_id)
    if kept is not None and kept.reading is None:
        keep_trial_reading(session, trial_id, {"said": _STUMBLED, "body": None})


def tried_sheet(kept: KeptTrial) -> TriedSheet | None:
    """Give what came of a trial; None while it waits to be read."""
    if kept.reading is None:
        return None
    said, body = gettext(str(kept.reading["said"])), kept.reading["body"]
    if body is None:
        return TriedSheet(judgement=None, sentence=said)
    judgement = judge(reading_from_json(body), trial_exercise(), Key.OWN_ENDS, Level.BEGINNER)
    sentence = advice_words(advise(judgement, {}), _MEDIUM, audience=Audience.ADULT)
    return TriedSheet(judgement=judgement, sentence=f"{sentence} {said}".strip())
