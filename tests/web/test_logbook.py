"""What was mixed and measured is found by its colour, noted, and carried along."""

import re
from io import BytesIO

import pytest
from sqlalchemy import text

from noema.actions.erase_student import erase_student
from noema.actions.judge_sheets import judge_one_behind
from noema.actions.show_readings import show_readings
from noema.core.colour.difference import ciede2000
from noema.core.judging.review import Decision, Verb
from noema.core.logbook.entry import Entry, EntryKind
from noema.stand_ins.outbox import PretendOutbox
from noema.store.logbook import LogScope, LogSource, add_entries, all_entries, nearest_entries

NOTE = {
    "title": "the grey of the rooftops",
    "parts": "ultramarine:3, burnt-sienna:2, white:4",
    "words": "with more white for the far ones",
}


@pytest.fixture
def me(app, school):
    return school.student(app)


def entries_of(school):
    with school.sessions() as session:
        scope = LogScope(school_id=school.id, student_id=school.sheets()[0].student_id)
        return all_entries(session, scope)


def test_painted_cells_stand_in_it_once_they_are_read(school):
    school.reviewable()
    cells = [one for one in entries_of(school) if one.kind is EntryKind.CELL]
    assert len(cells) == 5
    assert all("Value scale" in one.title for one in cells)
    assert all(ciede2000(one.lab, one.asked) < 20.0 for one in cells)


def test_its_painter_finds_a_cell_only_once_they_may_see_its_reading(app, school):
    photo = school.reviewable()
    painter = school.student(app)
    assert "Value scale" not in painter.get("/me/logbook").text
    assert "Value scale" not in painter.get("/me/logbook.csv").text
    teacher = school.teacher(app)
    assert "Value scale" in teacher.get(f"/classes/{school.class_id}/logbook").text
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    assert painter.get("/me/logbook").text.count("Value scale") >= 5
    assert painter.get("/me/logbook.csv").text.count("Value scale") == 5


def test_where_readings_are_seen_at_once_a_painter_says_first_what_holds(app, school):
    photo, painter = school.reviewable(), school.student(app)
    with school.sessions.begin() as session:
        show_readings(session, school.id, school.class_id, at_once=True)
    assert "Value scale" not in painter.get("/me/logbook").text
    painter.post(f"/me/photographs/{photo}/check", data={"say": "nothing"})
    assert "Value scale" in painter.get("/me/logbook").text


def test_what_is_judged_again_isnt_there_twice(school):
    photo = school.reviewable()
    with school.sessions.begin() as session:
        judge_one_behind(session, school.assignment_id, photo)
    with school.sessions() as session:
        doubled = session.scalar(
            text(
                "SELECT max(n) FROM (SELECT count(*) AS n FROM logbook_entry "
                "WHERE school_id = :school GROUP BY photograph_id, title) AS counted"
            ),
            {"school": school.id},
        )
    assert doubled == 1


def test_a_note_is_found_by_words_and_by_its_colour(me, school):
    refused = me.post("/me/logbook/notes", data=NOTE | {"parts": "ultramarine:3, soot:1"})
    assert refused.status_code == 422
    assert me.post("/me/logbook/notes", data=NOTE | {"title": ""}).status_code == 422
    six = NOTE | {"parts": "ultramarine:3, scarlet:2, white:4"}
    assert me.post("/me/logbook/notes", data=six).status_code == 303
    (kept,) = entries_of(school)
    page = me.get("/me/logbook?words=rooftops").text
    assert NOTE["words"] in page
    assert "3 ultramarine" in page or "1.5 ultramarine" in page
    lightness, a, b = kept.lab
    near = me.get(f"/me/logbook?lightness={lightness:.1f}&a={a:.1f}&b={b:.1f}").text
    assert "It is there" in near
    assert "With these tubes now:" in near


def test_a_mix_of_the_bench_goes_in_when_it_ends(me, school):
    here = me.post("/me/bench/begin", data={"task": "free"}).location
    data = {"do": "bring", "source": "rose", "ml": "0.5", "pile": "a", "acts": "0"}
    me.post(f"{here}/do", data=data)
    assert entries_of(school) == ()
    me.post(f"{here}/end")
    (entry,) = entries_of(school)
    assert entry.kind is EntryKind.MIX
    assert [part.tube for part in entry.parts] == ["rose"]


@pytest.mark.parametrize(
    "query",
    ["lightness=50", "lightness=900&a=0&b=0", "lightness=x&a=0&b=0", "lightness=nan&a=1&b=1"],
)
def test_what_is_no_colour_is_refused(me, query):
    assert me.get(f"/me/logbook?{query}").status_code == 422


def test_it_goes_out_in_every_form_and_comes_back_from_csv(me, school):
    me.post("/me/logbook/notes", data=NOTE | {"parts": "ultramarine:3, scarlet:2"})
    for form, begins in (
        ("csv", b"kind,title"),
        ("json", b"{"),
        ("txt", b"CGATS.17"),
        ("svg", b"<svg"),
        ("gpl", b"GIMP Palette"),
        ("pdf", b"%PDF"),
    ):
        given = me.get(f"/me/logbook.{form}")
        assert given.data.startswith(begins)
        assert "attachment" in given.headers["Content-Disposition"]
    assert me.get("/me/logbook.exe").status_code == 404
    out = me.get("/me/logbook.csv").data
    before = entries_of(school)
    me.post("/me/logbook/in", data={"file": (BytesIO(out), "logbook.csv")})
    after = entries_of(school)
    assert len(after) == 2
    assert after[1].title == before[0].title
    assert after[1].parts == before[0].parts
    assert ciede2000(after[1].lab, before[0].lab) < 0.05


@pytest.mark.parametrize(
    ("content", "sentence"),
    [
        (b"title,L,a\nx,1,2\n", "no column “b”"),
        (b"L,a,b\n1,2,three\n", "Line 2"),
        (b"L,a,b\n500,0,0\n", "no colour"),
        (b"\xff\xfe\x00", "isn’t text|isn't text|isn&#39;t text"),
    ],
)
def test_a_file_that_is_no_logbook_says_where(me, school, content, sentence):
    answer = me.post("/me/logbook/in", data={"file": (BytesIO(content), "logbook.csv")})
    assert answer.status_code == 422
    assert re.search(sentence, answer.text)
    assert entries_of(school) == ()


def test_a_note_is_taken_out_by_who_wrote_it(app, me, school):
    me.post("/me/logbook/notes", data=NOTE | {"parts": "ultramarine"})
    number = re.search(r"/me/logbook/notes/(\d+)/remove", me.get("/me/logbook").text)[1]
    other = school.student(app, school.sheets()[1].student_id)
    assert other.post(f"/me/logbook/notes/{number}/remove").status_code == 404
    me.post(f"/me/logbook/notes/{number}/remove")
    assert entries_of(school) == ()


def test_a_student_sees_their_own_and_their_teacher_all(app, me, school):
    me.post("/me/logbook/notes", data=NOTE | {"parts": "ultramarine"})
    other = school.student(app, school.sheets()[1].student_id)
    assert NOTE["words"] not in other.get("/me/logbook").text
    teacher = school.teacher(app)
    page = teacher.get(f"/classes/{school.class_id}/logbook").text
    assert NOTE["title"] in page
    assert school.sheets()[0].student in page
    nobody = teacher.get(
        f"/classes/{school.class_id}/logbook?student={school.sheets()[1].student_id}"
    ).text
    assert NOTE["title"] not in nobody


def test_the_nearest_by_ciede2000_are_found_through_the_index(school, other_school):
    with school.sessions.begin() as session:
        for of in (school, other_school):
            spread = [
                Entry(kind=EntryKind.NOTE, title=f"{n}", lab=(20.0 + n, 40.0 - n, n / 2.0))
                for n in range(60)
            ]
            add_entries(session, LogSource(school_id=of.id), spread)
        wanted = (43.2, 20.0, 11.0)
        found = nearest_entries(session, LogScope(school_id=school.id), wanted)
        everything = all_entries(session, LogScope(school_id=school.id))
    best = sorted(everything, key=lambda one: float(ciede2000(one.lab, wanted)))
    assert [one.entry.title for one in found] == [one.title for one in best[:10]]


def test_who_withdraws_takes_their_logbook_bench_and_eye_along(me, school, tmp_path):
    me.post("/me/logbook/notes", data=NOTE | {"parts": "ultramarine"})
    me.post("/me/bench/begin", data={"task": "free"})
    me.post("/me/eye/screen", data={"kind": "hue", "dark": "5", "light": "5", "on_it": "no"})
    student = school.sheets()[0]
    with school.sessions() as session:
        tables = ("logbook_entry", "bench_practice", "eye_series")

        def left():
            return [
                session.scalar(
                    text(f"SELECT count(*) FROM {table} WHERE student_id = :who"),
                    {"who": student.student_id},
                )
                for table in tables
            ]

        assert left() == [1, 1, 1]
        outbox = PretendOutbox(tmp_path)
        erase_student(session, outbox, school.id, student.student_id, typed_name=student.student)
        assert left() == [0, 0, 0]
