"""From bytes to a judged attempt, and everything that can come between."""

from datetime import UTC, datetime
from io import BytesIO

import pytest
from PIL import Image
from sqlalchemy import text

from noema.actions import judge_sheets, show_photograph
from noema.actions.hand_in_photo import hand_in_photo
from noema.actions.match_photograph import match_photograph, set_aside
from noema.actions.read_photograph import give_up_reading, read_photograph
from noema.actions.say_to import sentence_of
from noema.core.errors import NotFound, Refused, StoreFull
from noema.core.progress.states import PhotoState
from noema.formats.reading_json import reading_from_json
from noema.stand_ins.mishap import Mishap
from noema.stand_ins.painter import Hand
from noema.store.judgements import reading_behind
from noema.store.photographs import add_batch, photo_of_school
from noema.store.reviews import attempt_of_school
from noema.store.student_work import attempts_of_student


def state_of(school, handed_in):
    with school.sessions() as session:
        return photo_of_school(session, school.id, handed_in.photo.id)


def test_a_photograph_is_kept_matched_read_and_judged(school):
    sheet = school.sheets()[1]
    data = school.photo_of(sheet)
    handed_in = school.hands_in(data)
    photo = state_of(school, handed_in)
    assert (photo.state, photo.code, photo.student) == (PhotoState.READ, sheet.code, sheet.student)
    assert school.files.get(photo.sha256) == data
    with school.sessions() as session:
        attempt = attempt_of_school(session, school.id, photo.id)
    assert len(attempt.tally["ids"]) == 5
    assert sentence_of(attempt)


def with_place(data):
    """A photograph whose camera wrote down where it was."""
    told = Image.Exif()
    told[0x0110] = "Model 7"
    told.get_ifd(0x8825).update({1: "N", 2: (51.0, 30.0, 9.25), 28: b"Harbour Lane 7"})
    out = BytesIO()
    Image.open(BytesIO(data)).save(out, "JPEG", quality=95, exif=told.tobytes())
    return out.getvalue()


@pytest.mark.parametrize("keeps", [False, True])
def test_where_it_was_taken_is_kept_only_for_a_school_that_wants_it_and_shown_to_nobody(
    app, school, keeps
):
    client = school.teacher(app)
    client.post("/keeping/originals", data={"keeps": "all"} if keeps else {})
    data = with_place(school.photo_of(school.sheets()[0]))
    photo = state_of(school, school.hands_in(data))
    assert photo.camera == "Model 7"
    kept = school.files.get(photo.sha256)
    assert (kept == data) == (b"Harbour Lane 7" in kept) == keeps
    assert photo.size_bytes == len(kept)
    shown = client.get(f"/photographs/{photo.id}/original").get_data()
    assert b"Harbour Lane 7" not in shown
    assert school.hands_in(data).known
    page = client.get("/keeping").text
    assert ("Take it out of new photographs" in page) == keeps


def test_the_same_photograph_twice_is_recognised(school):
    data = school.photo_of(school.sheets()[0])
    first, second = school.hands_in(data), school.hands_in(data, name="again.jpg")
    assert not first.known
    assert second.known
    assert second.photo.id == first.photo.id


def test_a_new_photograph_of_a_sheet_is_a_new_attempt(school):
    sheet = school.sheets()[0]
    first = school.hands_in(school.photo_of(sheet, seed=1), hours_ago=30)
    second = school.hands_in(school.photo_of(sheet, seed=2, hand=Hand(step_noise=0.5)))
    with school.sessions() as session:
        attempts = attempts_of_student(session, sheet.student_id)
    assert [a.photograph_id for a in attempts] == [first.photo.id, second.photo.id]


def test_reading_twice_leaves_one_reading(school):
    photo = school.hands_in(school.photo_of(school.sheets()[0])).photo
    with school.sessions.begin() as session:
        session.execute(
            text("UPDATE photograph SET state = 'reading' WHERE id = :p"), {"p": photo.id}
        )
        read_photograph(session, school.files, photo.id)
        count = text("SELECT count(*) FROM reading WHERE photograph_id = :p")
        assert session.scalar(count, {"p": photo.id}) == 1


def test_a_hidden_code_waits_in_the_tray_until_a_teacher_names_the_student(school):
    sheet = school.sheets()[2]
    handed_in = school.hands_in(school.photo_of(sheet, mishap=Mishap(hide_code=True)))
    photo = state_of(school, handed_in)
    assert photo.state is PhotoState.UNMATCHED
    assert "code can't be read" in photo.reason
    with school.sessions.begin() as session:
        match_photograph(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            photograph_id=photo.id,
            sheet_id=sheet.id,
        )
    with school.sessions.begin() as session:
        read_photograph(session, school.files, photo.id)
    assert state_of(school, handed_in).student == sheet.student


def test_another_schools_sheet_is_nobodys_here(school, other_school):
    photo = state_of(school, school.hands_in(other_school.photo_of(other_school.sheets()[0])))
    assert photo.state is PhotoState.UNMATCHED
    assert photo.code_seen == other_school.sheets()[0].code
    assert photo.student is None


def test_half_a_sheet_is_unreadable_and_kept(school):
    handed_in = school.hands_in(school.photo_of(school.sheets()[0], mishap=Mishap(cut_off=True)))
    photo = state_of(school, handed_in)
    assert photo.state is PhotoState.UNREADABLE
    assert "all eight black squares" in photo.reason
    assert school.files.get(photo.sha256)
    with school.sessions.begin() as session:
        set_aside(
            session, school_id=school.id, teacher_id=school.teacher_id, photograph_id=photo.id
        )
    assert state_of(school, handed_in).state is PhotoState.SET_ASIDE


def test_what_isnt_in_the_tray_cant_be_matched(school):
    photo = school.hands_in(school.photo_of(school.sheets()[0])).photo
    with school.sessions() as session, pytest.raises(Refused, match="no longer in the tray"):
        match_photograph(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            photograph_id=photo.id,
            sheet_id=school.sheets()[0].id,
        )


def test_another_schools_sheet_cant_be_named(school, other_school):
    photo = school.hands_in(
        school.photo_of(school.sheets()[0], mishap=Mishap(hide_code=True))
    ).photo
    with school.sessions() as session, pytest.raises(NotFound):
        match_photograph(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            photograph_id=photo.id,
            sheet_id=other_school.sheets()[0].id,
        )


def test_no_picture_is_refused_by_name(school):
    handed_in = school.hands_in(b"not a picture", name="IMG_1.jpg")
    assert handed_in.photo is None
    assert handed_in.name == "IMG_1.jpg"
    assert "no JPEG, PNG" in handed_in.refused


def test_when_the_store_is_full_nothing_is_recorded(school):
    class Full:
        def put(self, data):
            raise StoreFull("The disk is full.")

    data = school.photo_of(school.sheets()[0])
    broken = type(school)(**{**vars(school), "files": Full()})
    with pytest.raises(StoreFull):
        broken.hands_in(data)
    with school.sessions() as session:
        count = text("SELECT count(*) FROM photograph WHERE school_id = :s")
        assert session.scalar(count, {"s": school.id}) == 0


def test_a_stumble_leaves_the_photograph_in_the_tray(school):
    handed_in = school.hands_in(school.photo_of(school.sheets()[0]), read=False)
    with school.sessions.begin() as session:
        give_up_reading(session, handed_in.photo.id)
    photo = state_of(school, handed_in)
    assert photo.state is PhotoState.UNREADABLE
    assert "kept" in photo.reason


def test_a_photograph_and_its_job_are_kept_together_or_not_at_all(school):
    data = school.photo_of(school.sheets()[0])
    jobs = text("SELECT count(*) FROM procrastinate_jobs WHERE args->>'photograph_id' = :p")
    with pytest.raises(RuntimeError), school.sessions.begin() as session:
        lost = hand_in_photo(
            session,
            school.files,
            school_id=school.id,
            batch_id=add_batch(session, school.id, school.teacher_id),
            name="x.jpg",
            data=data,
            received_at=datetime.now(UTC),
        )
        assert session.scalar(jobs, {"p": str(lost.photo.id)}) == 1
        raise RuntimeError("the request fails after all")
    with school.sessions() as session:
        assert session.scalar(jobs, {"p": str(lost.photo.id)}) == 0
    kept = school.hands_in(data, read=False)
    assert not kept.known
    with school.sessions() as session:
        assert session.scalar(jobs, {"p": str(kept.photo.id)}) == 1


def test_the_first_judgement_sees_the_numbers_that_are_kept(school, monkeypatch):
    seen = []
    judge = judge_sheets.judge

    def watched(reading, *arguments, **more):
        seen.append(reading)
        return judge(reading, *arguments, **more)

    monkeypatch.setattr(judge_sheets, "judge", watched)
    photo = school.reviewable()
    with school.sessions() as session:
        kept = reading_from_json(reading_behind(session, photo))
    assert seen[0].cells == kept.cells


def test_a_heic_photograph_is_turned_into_a_jpeg_once(app, school, monkeypatch):
    heic = BytesIO()
    picture = Image.open(BytesIO(school.photo_of(school.sheets()[0])))
    picture.save(heic, "HEIF", quality=90)
    photo = school.hands_in(heic.getvalue(), "photo.heic").photo.id
    client = school.teacher(app)
    monkeypatch.setattr(show_photograph, "for_browsers", None)  # not called any more
    shown = client.get(f"/photographs/{photo}/original")
    assert shown.mimetype == "image/jpeg"
    assert shown.data.startswith(b"\xff\xd8")
