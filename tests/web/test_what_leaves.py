"""What leaves a school: nothing secret, nothing a cache keeps, nothing of another address."""

import re
import stat
import subprocess
import sys
from dataclasses import replace

import pytest
from sqlalchemy.exc import OperationalError

from noema.assemble_pages import web_application_of
from noema.store.archive import NOT_KEPT, tables_in_order, told_columns
from noema.store.base import Base
from noema.store.people import teacher_by_email
from noema.store.students import join_of_class
from tests.opened import opened
from tests.trade import PASSWORD

SECRET_NAMES = re.compile("password|secret|token|join_code|key_hash")


def test_every_table_is_part_of_the_record_or_said_not_to_be():
    kept = {table.name for table in tables_in_order()}
    assert kept | set(NOT_KEPT) == set(Base.metadata.tables)
    assert not kept & set(NOT_KEPT)


def test_whatever_is_named_like_a_secret_is_marked_as_one():
    for table in Base.metadata.tables.values():
        for column in table.columns:
            assert bool(SECRET_NAMES.search(column.name)) == bool(column.info.get("secret")), column
    told = {column.name for table in tables_in_order() for column in told_columns(table)}
    assert not [name for name in told if SECRET_NAMES.search(name)]


@pytest.mark.parametrize("of_class", [False, True])
def test_no_secret_leaves_in_an_archive(app, school, of_class):
    school.reviewable()
    client = school.teacher(app)
    address = f"/classes/{school.class_id}/archive.zip" if of_class else "/school-archive.zip"
    data = client.get(address).get_data()
    with school.sessions() as session:
        secrets = (
            teacher_by_email(session, school.email).password_hash,
            join_of_class(session, school.class_id).join_code,
        )
    rows = str(opened(data).rows)
    assert school.email in rows
    assert not any(secret in rows for secret in secrets)


def test_an_archive_goes_out_without_a_file_that_is_missing_and_says_so(app, school):
    photo = school.reviewable()
    client = school.teacher(app)
    with school.sessions() as session:
        sha256 = (
            session.execute(
                Base.metadata.tables["photograph"]
                .select()
                .where(Base.metadata.tables["photograph"].c.id == photo)
            )
            .one()
            .sha256
        )
    school.files.remove(sha256)
    answer = client.get("/school-archive.zip")
    assert answer.status_code == 200
    assert "1 picture missing" in answer.headers["Content-Disposition"]
    archive = opened(answer.get_data())
    assert archive.missing == {sha256}
    assert archive.files


def test_no_cache_keeps_what_is_a_schools(app, school):
    photo = school.reviewable()
    client = school.teacher(app)
    for address in ("/", f"/review/{photo}", "/school-archive.zip", "/log-in", "/nowhere",
                    f"/progress/classes/{school.class_id}/students/"
                    f"{school.sheets()[0].student_id}/report.pdf"):  # fmt: skip
        assert client.get(address).headers["Cache-Control"] == "no-store", address
    picture = client.get(f"/photographs/{photo}/original")
    assert set(picture.headers["Cache-Control"].split(", ")) == {"private", "no-cache"}
    again = client.get(
        f"/photographs/{photo}/original", headers={"If-None-Match": picture.headers["ETag"]}
    )
    assert again.status_code == 304
    assert "max-age" in client.get("/static/icon.svg").headers["Cache-Control"]


def test_cards_name_the_address_that_was_set_and_keep_the_card_behind_the_hash(
    settings, sessions, school
):
    app = web_application_of(replace(settings, address="https://noema.example"), sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    forged = client.get("/log-in", headers={"Host": "elsewhere.example"})
    assert forged.status_code == 400
    own = "https://noema.example"
    client.post("/log-in", base_url=own, data={"email": school.email, "password": PASSWORD})
    page = client.get(f"/classes/{school.class_id}/cards", base_url=own).text
    assert "https://noema.example/join" in page
    assert "elsewhere" not in page


@pytest.mark.parametrize("number", [2**31, 2**63, 10**40])
def test_a_number_no_row_can_have_is_no_such_page(app, school, number):
    client = school.teacher(app)
    assert client.get(f"/review/{number}").status_code == 404
    answer = client.post(
        f"/classes/{school.class_id}/students/{school.sheets()[0].student_id}/merge",
        data={"other": str(number)},
    )
    assert answer.status_code in (400, 404, 422)


def test_a_nul_byte_is_refused_in_a_sentence(app, school):
    client = school.teacher(app)
    for answer in (
        client.get("/classes/%00"),
        client.get("/log-in?wanted=%00"),
        client.post(f"/classes/{school.class_id}/roster", data={"text": "Ada\0"}),
        client.post("/paints/sets", data={"name\0": "x"}),
    ):
        assert answer.status_code in (400, 404)
        assert "<h1>" in answer.text


def test_a_database_that_is_away_is_said_and_tried_again(app, school, monkeypatch):
    client = school.teacher(app)

    def away(*_):
        raise OperationalError("SELECT", {}, Exception("connection refused at db.internal"))

    monkeypatch.setattr("noema.web.frame.access.who_is_in", away)
    answer = client.get("/plan")
    assert answer.status_code == 503
    assert answer.headers["Refresh"] == "5"
    assert "database" in answer.text
    assert "db.internal" not in answer.text
    assert "Refresh" not in client.post("/log-out").headers


def test_a_database_that_goes_away_at_the_last_moment_is_said_too(app, school, monkeypatch):
    client = school.teacher(app)

    def fails(*_):
        raise OperationalError("COMMIT", {}, Exception("the connection is gone"))

    monkeypatch.setattr("sqlalchemy.orm.Session.commit", fails)
    answer = client.get("/plan")
    assert answer.status_code == 503
    assert "database" in answer.text


def test_a_log_is_its_owners_alone_and_is_begun_anew(tmp_path):
    log = tmp_path / "noema.log"
    log.write_text("from before\n")
    log.chmod(0o644)
    says = "for n in range(6000): print('line', n, 'x' * 1000)"
    subprocess.run(
        [sys.executable, "-m", "tools.keep_log", log, sys.executable, "-c", says], check=True
    )
    kept = sorted(tmp_path.iterdir())
    assert [path.name for path in kept] == ["noema.log", "noema.log.1"]
    assert {stat.S_IMODE(path.stat().st_mode) for path in kept} == {0o600}
    assert kept[0].read_text().endswith(f"line 5999 {'x' * 1000}\n")
