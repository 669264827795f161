"""A school with one class, and photographs of its painted sheets, for tools and benches."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from functools import partial
from io import BytesIO
from itertools import count
from random import Random

from PIL import Image

from noema.actions.assign_exercise import assign_exercise
from noema.actions.create_school import create_school
from noema.actions.make_class import enrol_students, make_class
from noema.actions.print_sheets import drawings, print_sheets
from noema.actions.work_out_exercise import Chosen
from noema.core.exercises.catalogue import FIRST_KIND, kind_of
from noema.core.exercises.levels import Key
from noema.core.sheet.layout import Layout
from noema.formats.layout_json import layout_from_json
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import take_picture
from noema.store.assignments import assignment_of_school
from noema.store.engine import Sessions
from noema.store.people import teacher_by_email
from noema.store.sheets import layouts_of_sheets, sheets_of_assignment

EMAIL, PASSWORD = "teacher@school.example", "a long enough one"
STUDENTS, SIZE_PX = 24, (2016, 1512)


@dataclass(frozen=True, kw_only=True)
class SmallSchool:
    """The school, and each student's sheet as it was printed."""

    id: int
    teacher_id: int
    printed: tuple[tuple[Layout, bytes], ...]


def small_school(sessions: Sessions) -> SmallSchool:
    """Make it in an empty database."""
    chosen = Chosen(kind=FIRST_KIND, options=kind_of(FIRST_KIND).chosen({}), key=Key.NAMED)
    with sessions.begin() as session:
        school_id = create_school(session, "Saltmarsh Road School", EMAIL, "Ines Marlow", PASSWORD)
        teacher = teacher_by_email(session, EMAIL)
        assert teacher is not None
        class_id = make_class(
            session, school_id, "Year 8", date(2026, 9, 7), 12, taught_by=teacher.id
        )
        names = "\n".join(f"Student {number:02d}" for number in range(STUDENTS))
        enrol_students(session, school_id, class_id, names)
        assignment_id = assign_exercise(
            session,
            chosen,
            school_id=school_id,
            class_id=class_id,
            teacher_id=teacher.id,
            due_week=6,
            rng=Random(6),
        )
        print_sheets(session, school_id, assignment_id)
        assignment = assignment_of_school(session, school_id, assignment_id)
        sheets = sheets_of_assignment(session, assignment_id)
        layouts = layouts_of_sheets(session, [sheet.id for sheet in sheets])
        printed = tuple(
            (layout_from_json(layouts[sheet.id]), sheets_pdf([page], "t"))
            for sheet, page in zip(sheets, drawings(session, assignment, sheets), strict=True)
        )
    return SmallSchool(id=school_id, teacher_id=teacher.id, printed=printed)


def photographs(school: SmallSchool) -> Iterator[bytes]:
    """Give photographs without end, no two the same: of each sheet again and again."""
    with own_processes(2) as pool:
        taken = list(pool.map(partial(_photograph, school), range(len(school.printed))))
    for number in count():
        yield _other_bytes(taken[number % len(taken)], number)


def _photograph(school: SmallSchool, number: int) -> bytes:
    layout, pdf = school.printed[number]
    return take_picture(layout, pdf, seed=number, preset="class", size_px=SIZE_PX).jpeg


def _other_bytes(photograph: bytes, number: int) -> bytes:
    """Give the picture with a few pixels in a corner changed, as another file."""
    image = Image.open(BytesIO(photograph))
    for bit in range(24):
        shade = 255 if number >> bit & 1 else 0
        image.paste((shade, shade, shade), (8 * bit, 0, 8 * bit + 8, 8))
    out = BytesIO()
    image.save(out, "JPEG", quality=92)
    return out.getvalue()
