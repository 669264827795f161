"""Records on the web: every export reads back, bad files are refused, nothing half-taken stays."""

import csv
import json
import re
from io import BytesIO, StringIO
from pathlib import Path

import icalendar
import jsonschema
import pypdfium2
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from noema.actions.change_assignment import set_terms
from noema.core.progress.excuse import Excuse
from noema.core.progress.skill_courses import LEVELS
from noema.formats.key_json import key_from_json
from noema.formats.measurements import samples_from_bytes
from noema.formats.oneroster import read_package
from noema.formats.safe_zip import ZipLimits, read_zip
from noema.store.classes import classes_of_school
from noema.store.terms import Terms
from tests.opened import opened

LIMITS = ZipLimits(entries=50, bytes_in_all=2**26, bytes_an_entry=2**25)


@pytest.fixture
def painted(school):
    school.reviewable()
    return school


@pytest.fixture
def teacher(app, school):
    return school.teacher(app)


def got(client, url):
    answer = client.get(url)
    assert answer.status_code == 200, url
    return answer.get_data()


def rows(data):
    return list(csv.DictReader(StringIO(data.decode("utf-8-sig"))))


def test_the_grade_book_has_a_line_for_everybody(app, painted):
    found = rows(got(painted.teacher(app), f"/classes/{painted.class_id}/grades.csv"))
    assert len(found) == 3
    assert [row["state"] for row in found].count("nothing read") == 2
    read = next(row for row in found if row["state"] == "to review")
    assert 0.0 <= float(read["value (0 to 4)"]) <= 4.0
    assert read["due (ISO 8601 date)"] == "2026-10-16"  # Friday of the sixth week
    assert not [name for name in read if name.startswith("mark")]  # this school wants none


def test_results_name_the_same_students_as_the_rosters(app, painted):
    client = painted.teacher(app)
    results = read_zip(got(client, f"/classes/{painted.class_id}/results.zip"), LIMITS)
    known = read_package(got(client, "/rosters.zip")).tables["users"]
    found = rows(results["results.csv"])
    assert len(found) == 1
    assert {row["studentSourcedId"] for row in found} <= set(known)


def test_measurements_say_the_same_in_every_form(app, painted):
    client, start = painted.teacher(app), f"/classes/{painted.class_id}/measurements"
    as_json = json.loads(got(client, f"{start}.json"))
    assert "D50" in as_json["conventions"]["lab"]
    labs = [cell["lab"] for sheet in as_json["sheets"] for cell in sheet["cells"]]
    as_csv = rows(got(client, f"{start}.csv"))
    assert [float(row["L* (D50/2)"]) for row in as_csv] == [lab[0] for lab in labs]
    samples = samples_from_bytes(got(client, f"{start}.txt"))
    assert [list(sample.lab) for sample in samples] == [
        pytest.approx(lab, abs=1e-3) for lab in labs
    ]
    assert client.get(f"{start}.xls").status_code == 422


def test_due_dates_are_a_calendar(app, painted):
    data = got(painted.teacher(app), f"/classes/{painted.class_id}/due.ics")
    events = icalendar.Calendar.from_ical(data).walk("VEVENT")
    assert [event.decoded("dtstart").isoformat() for event in events] == ["2026-10-16"]


def sent(name, data):
    return {name: (BytesIO(data), f"{name}.json")}


def test_a_key_reads_back_and_is_given_again(app, painted):
    client = painted.teacher(app)
    data = got(client, f"/assignments/{painted.assignment_id}/key.json")
    jsonschema.validate(json.loads(data), schema("noema-key-1"))
    assert key_from_json(data).kind == "value-scale"
    url = f"/classes/{painted.class_id}/keys"
    answer = client.post(url, data={**sent("key", data), "week": "7"})
    assert answer.status_code == 303
    again = got(client, answer.headers["Location"].replace("/key", "/key.json"))
    assert json.loads(again)["expected"] == json.loads(data)["expected"]
    assert client.post(url, data={**sent("key", b"{}"), "week": "7"}).status_code == 422


def test_a_set_goes_to_another_school(app, school, other_school):
    ref = school.puts_together("Room 3", "rose", "cyan", "lemon-yellow")
    data = got(school.teacher(app), f"/paints/sets/{ref}/file")
    jsonschema.validate(json.loads(data), schema("noema-set-1"))
    client = other_school.teacher(app)
    answer = client.post("/paints/sets/file", data=sent("set", data))
    assert answer.status_code == 303
    assert "Room 3" in got(client, answer.headers["Location"]).decode()
    assert client.post("/paints/sets/file", data=sent("set", b"[]")).status_code == 422


def schema(name):
    path = Path(__file__).parents[2] / f"docs/schemas/{name}.json"
    return json.loads(path.read_text(encoding="utf-8"))


def test_archives_hold_the_photograph(app, painted):
    client = painted.teacher(app)
    for url in (f"/classes/{painted.class_id}/archive.zip", "/school-archive.zip"):
        kept = opened(got(client, url))
        assert len(kept.rows["photograph"]) == 1
        assert kept.rows["photograph"][0]["sha256"] in kept.files


def test_reports_are_papers_that_open_and_go_by_mail(app, painted):
    client, student = painted.teacher(app), painted.sheets()[0].student_id
    start = f"/progress/classes/{painted.class_id}"
    for url in ("report.pdf", f"students/{student}/report.pdf", f"students/{student}/notebook.pdf"):
        pages = pypdfium2.PdfDocument(got(client, f"{start}/{url}"))
        words = pages[0].get_textpage().get_text_range()
        assert painted.sheets()[0].student in words
        pages.close()
    mail = f"{start}/students/{student}/report/mail"
    assert client.post(mail, data={"to": "no address"}).status_code == 422
    assert client.post(mail, data={"to": "home@family.example"}).status_code == 303
    assert b"home@family.example" in got(client, "/outbox")
    colleague = painted.teacher(app, painted.colleague_email)
    assert b"home@family.example" not in got(colleague, "/outbox")


def test_a_class_shows_who_moves_who_is_stuck_and_what_next(app, painted):
    page = got(painted.teacher(app), f"/progress/classes/{painted.class_id}/skills").decode()
    assert page.count("Next:") == 3
    assert "owe a sheet that was due" in page


@pytest.mark.parametrize("do", ["look", "take"])
@settings(
    max_examples=25,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)
@given(data=st.binary(max_size=400))
def test_no_file_breaks_the_rosters_page(teacher, school, do, data):
    answer = teacher.post("/rosters", data={"package": (BytesIO(data), "r.zip"), "do": do})
    assert answer.status_code == 422
    with school.sessions() as session:
        assert len(classes_of_school(session, school.id)) == 1


def test_the_grade_book_is_a_grid_by_mark_or_skill(app, school):
    first, second, third = school.sheets()
    school.reviewable()
    school.hands_in(school.photo_of(first, seed=9), hours_ago=-3.0)  # the same sheet, later
    with school.sessions.begin() as session:
        away = {third.student_id: Terms(excuse=Excuse.AWAY)}
        set_terms(session, school.id, school.assignment_id, away)
    client = school.teacher(app)
    page = client.get(f"/classes/{school.class_id}/grades?by=value").text
    line = page.split(first.student)[1].split("</tr>")[0]
    assert re.search(r'<b class="number">[0-4][.][0-9]</b>', line)
    assert "attempt 2 at one sheet" in line
    assert "was away" in page.split(third.student)[1].split("</tr>")[0]
    assert "–" in page.split(second.student)[1].split("</tr>")[0]
    csv = client.get(f"/classes/{school.class_id}/grades.csv").data.decode("utf-8-sig")
    assert "was away" in csv
    assert csv.splitlines()[0].endswith("attempts,sheets")
    assert client.get(f"/classes/{school.class_id}/grades?by=nonsense").status_code == 200


def test_parents_read_levels_with_a_legend_and_where_they_come_from(painted, app):
    student = painted.sheets()[0].student_id
    address = f"/progress/classes/{painted.class_id}/students/{student}"
    client = painted.teacher(app)
    assert f'href="{address}/parents"' in client.get(address).text
    page = client.get(f"{address}/parents").text
    for level in LEVELS:
        assert f"<dt>{level}</dt>" in page
    assert "1 painted sheet" in page
    words = re.sub(r"<[^>]+>", " ", page.split("<main")[1]).lower()
    for jargon in ("chroma", "tolerance", "sigma", "ciede", "median", "illuminant"):
        assert jargon not in words
    other = painted.sheets()[1].student_id
    empty = client.get(f"/progress/classes/{painted.class_id}/students/{other}/parents").text
    assert "No sheet has been read yet" in empty
