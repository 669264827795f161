"""A class as large as they come, straight into the records: for counting and timing only."""

from datetime import UTC, date, datetime
from itertools import count
from random import Random

from sqlalchemy.orm import Session

from noema.actions.assign_exercise import assign_exercise
from noema.actions.make_class import enrol_students, make_class
from noema.actions.print_sheets import print_sheets
from noema.actions.work_out_exercise import Chosen
from noema.core.coaching.advice import advice
from noema.core.colour.hvc import HVC
from noema.core.colour.value import value_to_lab
from noema.core.exercises.asked import Wanted
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.value_scale import KIND, ValueScale, plain_scale
from noema.core.judging.judge import judge
from noema.core.judging.judgement import JUDGE_VERSION
from noema.core.judging.tally import tally_of
from noema.core.photo.reading import READER_VERSION, CellReading, Reading
from noema.core.progress.states import PhotoState
from noema.formats.judgement_json import judgement_to_json, tally_to_json
from noema.formats.reading_json import reading_to_json
from noema.store.engine import Sessions
from noema.store.photographs import NewPhoto, add_photo, add_pile, set_photo_state
from noema.store.readings import add_reading
from noema.store.reviews import NewJudgement, add_judgement, open_review
from noema.store.sheets import SheetRow, sheets_of_assignment

SCALE = plain_scale(ValueScale(steps=9, medium=Medium.ACRYLIC))

_serial = count(1)


def fill_class(
    sessions: Sessions, school_id: int, teacher_id: int, *, students: int, assignments: int
) -> int:
    """Make a class in which everybody has handed in everything; gives its number."""
    rng = Random(8)
    serial = next(_serial)
    with sessions.begin() as session:
        class_id = make_class(session, school_id, f"Full class {serial}", date(2026, 9, 7), 12)
        names = "\n".join(f"Student {n:02d}" for n in range(students))
        enrol_students(session, school_id, class_id, names)
        pile_id = add_pile(session, school_id, teacher_id)
        for week in range(1, assignments + 1):
            assignment_id = assign_exercise(
                session,
                Chosen(kind=KIND, wanted=Wanted(steps=len(SCALE.cells)), key=Key.NAMED),
                school_id=school_id,
                class_id=class_id,
                teacher_id=teacher_id,
                due_week=week,
                rng=rng,
            )
            print_sheets(session, school_id, assignment_id)
            for sheet in sheets_of_assignment(session, assignment_id):
                _hand_in(session, school_id, pile_id, sheet, rng)
    return class_id


def _hand_in(session: Session, school_id: int, pile_id: int, sheet: SheetRow, rng: Random) -> None:
    new = NewPhoto(
        school_id=school_id,
        pile_id=pile_id,
        sha256=f"{sheet.id:064d}",
        size_bytes=1,
        megapixels=12.0,
        original_name="full.jpg",
        received_at=datetime.now(UTC),
    )
    photograph_id = add_photo(session, new)
    if photograph_id is None:
        return
    reading = _reading(sheet.code, rng)
    judgement = judge(reading, SCALE, Key.NAMED, Level.BEGINNER)
    reading_id = add_reading(
        session, photograph_id, sheet.id, READER_VERSION, reading_to_json(reading, "full.jpg"), None
    )
    new_judgement = NewJudgement(
        reading_id=reading_id,
        judge=JUDGE_VERSION,
        key=Key.NAMED.value,
        level=Level.BEGINNER.value,
        body=judgement_to_json(judgement),
        tally=tally_to_json(tally_of(judgement)),
        sentence=advice(judgement, Medium.ACRYLIC),
    )
    judgement_id = add_judgement(session, new_judgement)
    open_review(session, photograph_id, judgement_id)
    set_photo_state(session, photograph_id, PhotoState.READ, sheet_id=sheet.id)


def _reading(code: str, rng: Random) -> Reading:
    values = [cell.hvc.value + rng.gauss(0.0, 0.4) for cell in SCALE.cells]
    cells = tuple(
        CellReading(
            id=cell.id,
            lab=(float(value_to_lab(value)[0]), rng.gauss(0, 1), rng.gauss(0, 1)),
            hvc=HVC(hue100=None, value=value, chroma=0.0),
            sigma=1.0,
            sigma_value=0.15,
            sigma_step=0.1,
            sigma_hue=5.0,
            sigma_chroma=0.5,
            coverage=1.0,
            unevenness=0.02,
            spill=0.0,
            flags=(),
        )
        for cell, value in zip(SCALE.cells, values, strict=True)
    )
    return Reading(sheet=code, found=True, flags=(), cells=cells)
