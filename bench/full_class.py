"""A class as large as they come, straight into the records: for counting and timing only."""

from collections.abc import Sequence
from datetime import UTC, date, datetime
from itertools import count, cycle
from random import Random

import numpy as np
from sqlalchemy.orm import Session

from noema.actions.assign_exercise import assign_exercise
from noema.actions.judge_sheets import judge_sheet, standard_of
from noema.actions.make_class import enrol_students, make_class
from noema.actions.print_sheets import print_sheets
from noema.actions.work_out_exercise import Chosen, exercise_of
from noema.core.colour.hvc import hvcs_of
from noema.core.exercises.asked import Asked
from noema.core.exercises.catalogue import FIRST_KIND, kind_of
from noema.core.exercises.levels import Key
from noema.core.photo.reading import READER_VERSION, CellReading, Reading
from noema.core.pigments.shelf import builtin_set
from noema.core.progress.states import PhotoState
from noema.formats.reading_json import reading_to_json
from noema.formats.roster import MOST_NAMES
from noema.store.assignments import assignment_of_school
from noema.store.engine import Sessions
from noema.store.photographs import NewPhoto, add_batch, add_photo, set_photo_state
from noema.store.readings import add_reading
from noema.store.sheets import SheetRow, sheets_of_assignment

SCALE = Chosen(kind=FIRST_KIND, options=kind_of(FIRST_KIND).chosen({}), key=Key.NAMED)
WHEEL = Chosen(
    kind="colour-wheel",
    options=kind_of("colour-wheel").chosen({"rings": ("tint-in", "neutral-2")}),
    paints=builtin_set("split-six+black"),
    set_ref="split-six+black",
)
"""Thirty-six cells."""

_serial = count(1)
_WEEKS = 12


def fill_class(
    sessions: Sessions,
    school_id: int,
    teacher_id: int,
    *,
    students: int,
    assignments: int,
    chosen: Sequence[Chosen] = (SCALE,),
    straight_sha256: str | None = None,
) -> int:
    """Make a class in which everybody has handed in everything; gives its number.

    What was chosen is given in turn. A kept picture may stand for every straightened sheet.
    """
    rng = Random(8)
    serial = next(_serial)
    with sessions.begin() as session:
        class_id = make_class(session, school_id, f"Full class {serial}", date(2026, 9, 7), _WEEKS)
        for first in range(0, students, MOST_NAMES):
            some = range(first, min(first + MOST_NAMES, students))
            names = "\n".join(f"Student {n:02d}" for n in some)
            enrol_students(session, school_id, class_id, names)
        batch_id = add_batch(session, school_id, teacher_id)
        for number, given in zip(range(assignments), cycle(chosen), strict=False):
            assignment_id = assign_exercise(
                session,
                given,
                school_id=school_id,
                class_id=class_id,
                teacher_id=teacher_id,
                due_week=min(number + 1, _WEEKS),
                rng=rng,
            )
            print_sheets(session, school_id, assignment_id)
            assignment = assignment_of_school(session, school_id, assignment_id)
            exercise = exercise_of(session, assignment)
            for sheet in sheets_of_assignment(session, assignment_id):
                photograph_id = _photograph(session, school_id, batch_id, sheet)
                reading = read_at_random(exercise.asked, sheet.code, rng)
                body = reading_to_json(reading, "full.jpg")
                reading_id = add_reading(
                    session, photograph_id, sheet.id, READER_VERSION, body, straight_sha256
                )
                judge_sheet(
                    session,
                    photograph_id,
                    reading_id,
                    reading,
                    standard_of(session, assignment_id),
                    None,
                )
                set_photo_state(session, photograph_id, PhotoState.READ, sheet_id=sheet.id)
    return class_id


def _photograph(session: Session, school_id: int, batch_id: int, sheet: SheetRow) -> int:
    new = NewPhoto(
        school_id=school_id,
        batch_id=batch_id,
        sha256=f"{sheet.id:064d}",
        size_bytes=1,
        megapixels=12.0,
        original_name="full.jpg",
        received_at=datetime.now(UTC),
    )
    photograph_id = add_photo(session, new)
    assert photograph_id is not None  # no two of these have a hash in common
    return photograph_id


def read_at_random(asked: Asked, code: str, rng: Random) -> Reading:
    """A sheet as if read, every cell some way off its step."""
    labs = [
        tuple(part + rng.gauss(0.0, spread) for part, spread in zip(cell.lab, _SPREAD, strict=True))
        for cell in asked.cells
    ]
    cells = tuple(
        CellReading(
            id=cell.id,
            lab=(lab[0], lab[1], lab[2]),
            hvc=hvc,
            sigma=2.0,
            sigma_value=0.15,
            sigma_step=0.1,
            sigma_hue=1.5,
            sigma_chroma=0.5,
            coverage=1.0,
            unevenness=0.02,
            spill=0.0,
            flags=(),
        )
        for cell, lab, hvc in zip(asked.cells, labs, hvcs_of(np.array(labs)), strict=True)
    )
    return Reading(sheet=code, found=True, flags=(), cells=cells)


_SPREAD = (4.0, 2.0, 2.0)  # of L*, a* and b*
