"""Fixtures that speak the trade: schools, teachers who log in, students who hand in."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from itertools import count
from random import Random

from flask import Flask
from flask.testing import FlaskClient

from noema.actions.assign_exercise import assign_exercise
from noema.actions.create_school import add_colleague, create_school
from noema.actions.fit_own_tube import fit_own_tube
from noema.actions.hand_in_photo import HandedIn, hand_in_photo
from noema.actions.keep_paint_set import NewSet, keep_paint_set
from noema.actions.make_class import enrol_students, make_class
from noema.actions.print_sheets import drawings, print_sheets
from noema.actions.read_photograph import read_photograph
from noema.actions.review_sheet import review_sheet
from noema.actions.work_out_exercise import Chosen
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Key
from noema.core.joining.card import card_words
from noema.core.judging.review import Decision
from noema.core.pigments.drying import Binder
from noema.core.pigments.fit import Swatch
from noema.core.sheet.layout import Layout
from noema.devices.file_store import FileStore
from noema.formats.layout_json import layout_from_json
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.mishap import Mishap
from noema.stand_ins.painter import Hand
from noema.stand_ins.printer import Press
from noema.stand_ins.studio import take_picture
from noema.store.assignments import assignment_of_school
from noema.store.class_teachers import share_class
from noema.store.engine import Sessions
from noema.store.people import teacher_by_email
from noema.store.photographs import add_batch
from noema.store.reviews import AttemptRow, attempt_of_school
from noema.store.sheets import SheetRow, layouts_of_sheets, sheets_of_assignment
from noema.store.students import join_of_class, student_by_id

PASSWORD = "a password of some length"
SECRET = "only for tests, and long enough for it"
NAMES = ("Anna Vogel", "Bo Lind", "Cy Reyes")
CAREFUL = Hand(step_noise=0.05, missed=0.0, ragged_mm=0.3)
PICTURE_PX = (1400, 1050)

_numbers = count(1)
_rng = Random(4)


@dataclass(frozen=True, kw_only=True)
class School:
    """A school in the test database."""

    sessions: Sessions
    files: FileStore
    id: int
    teacher_id: int
    email: str
    colleague_email: str
    class_id: int
    assignment_id: int

    def teacher(self, app: Flask, email: str | None = None) -> FlaskClient:
        """A browser in which a teacher has logged in."""
        client = app.test_client()
        client.post("/log-in", data={"email": email or self.email, "password": PASSWORD})
        return client

    def student(self, app: Flask, student_id: int | None = None) -> FlaskClient:
        """A phone on which a student has come in with their card."""
        with self.sessions() as session:
            join = join_of_class(session, self.class_id)
            holder = student_by_id(session, student_id or self.sheets()[0].student_id or 0)
        assert holder is not None
        words = " ".join(card_words(SECRET, holder.id, holder.card_serial))
        client = app.test_client()
        client.post("/join", data={"code": join.join_code, "card": words})
        return client

    def puts_together(self, name: str, *tubes: str, binder: Binder = Binder.ACRYLIC) -> str:
        """A paint set on the school's shelf; gives its reference."""
        with self.sessions.begin() as session:
            return keep_paint_set(session, self.id, NewSet(name=name, binder=binder, tubes=tubes))

    def swatches(self, label: str, base: str = "scarlet") -> str:
        """A tube of the school's own, fitted to one swatch; gives its name."""
        swatch = Swatch(label="masstone", mixed_with=(), lab=(46.0, 58.0, 38.0))
        with self.sessions.begin() as session:
            return fit_own_tube(session, self.id, base, label, (swatch,)).tube.name

    def sheets(self) -> tuple[SheetRow, ...]:
        with self.sessions() as session:
            return sheets_of_assignment(session, self.assignment_id)

    def printed(self, sheet: SheetRow) -> tuple[Layout, bytes]:
        """A sheet as it comes out of the printer, and its layout."""
        with self.sessions() as session:
            assignment = assignment_of_school(session, self.id, self.assignment_id)
            page = drawings(session, assignment, [sheet])[0]
            layout = layout_from_json(layouts_of_sheets(session, [sheet.id])[sheet.id])
        return layout, sheets_pdf([page], "t")

    def photo_of(
        self,
        sheet: SheetRow,
        *,
        seed: int = 1,
        hand: Hand = CAREFUL,
        preset: str = "easy",
        mishap: Mishap | None = None,
        again: int = 0,
        press: Press | None = None,
        phone: int | None = None,
    ) -> bytes:
        """The photograph a student would take of a painted sheet, or another of the same."""
        layout, pdf = self.printed(sheet)
        picture = take_picture(
            layout,
            pdf,
            seed=seed,
            preset=preset,
            hand=hand,
            mishap=mishap,
            size_px=PICTURE_PX,
            again=again,
            press=press,
            phone=phone,
        )
        return picture.jpeg

    def hands_in(
        self,
        data: bytes,
        name: str = "photo.jpg",
        *,
        read: bool = True,
        hours_ago: float = 0.0,
        another_of: int | None = None,
    ) -> HandedIn:
        """A photograph is handed in and, unless told otherwise, read at once."""
        with self.sessions.begin() as session:
            handed_in = hand_in_photo(
                session,
                self.files,
                school_id=self.id,
                batch_id=add_batch(session, self.id, self.teacher_id, another_of=another_of),
                name=name,
                data=data,
                received_at=datetime.now(UTC) - timedelta(hours=hours_ago),
                read_after_s=3600,
            )
        if read and handed_in.photo:
            with self.sessions.begin() as session:
                read_photograph(session, self.files, handed_in.photo.id)
        return handed_in

    def decides(self, photograph_id: int, decision: Decision, lines_seen: int | None = None):
        """The teacher's word on a sheet; gives the review it folds to."""
        with self.sessions.begin() as session:
            return review_sheet(
                session,
                school_id=self.id,
                teacher_id=self.teacher_id,
                photograph_id=photograph_id,
                decision=decision,
                lines_seen=lines_seen,
            )

    def attempt(self, photograph_id: int) -> AttemptRow:
        """A photograph as it stands before the teacher."""
        with self.sessions() as session:
            return attempt_of_school(session, self.id, photograph_id)

    def reviewable(self, **how) -> int:
        """A photograph that waits for review; gives its number."""
        handed_in = self.hands_in(self.photo_of(self.sheets()[0], **how))
        assert handed_in.photo is not None
        return handed_in.photo.id


def found_school(
    sessions: Sessions, files: FileStore, steps: int = 5, chosen: Chosen | None = None
) -> School:
    number = next(_numbers)
    email, colleague = f"t{number}@school.example", f"c{number}@school.example"
    with sessions.begin() as session:
        school_id = create_school(session, f"School {number}", email, "Ms Teal", PASSWORD)
        colleague_id = add_colleague(session, school_id, colleague, "Mr Umber", PASSWORD)
        teacher = teacher_by_email(session, email)
        assert teacher is not None
        class_id = make_class(
            session, school_id, "Year 8", date(2026, 9, 7), 12, taught_by=teacher.id
        )
        share_class(session, class_id, colleague_id)
        enrol_students(session, school_id, class_id, "\n".join(f"{n} {number}" for n in NAMES))
        assignment_id = assign_exercise(
            session,
            chosen
            or Chosen(
                kind="value-scale",
                options=kind_of("value-scale").chosen({"steps": steps}),
                key=Key.NAMED,
            ),
            school_id=school_id,
            class_id=class_id,
            teacher_id=teacher.id,
            due_week=6,
            rng=_rng,
        )
        print_sheets(session, school_id, assignment_id)
    return School(
        sessions=sessions,
        files=files,
        id=school_id,
        teacher_id=teacher.id,
        email=email,
        colleague_email=colleague,
        class_id=class_id,
        assignment_id=assignment_id,
    )
