"""Accounts: invitations, forgotten passwords, e-mails, codes, where somebody is in, the record."""

import re
from datetime import UTC, datetime, timedelta

import pyotp
import pytest
from sqlalchemy import text
from sqlalchemy.exc import DBAPIError

from noema.actions.create_school import add_colleague
from noema.actions.own_account import check_second
from noema.core.errors import NotAllowed
from noema.core.joining.deeds import Deed
from noema.core.joining.role import StaffRole
from noema.store.accounts import code_of, staff_of
from noema.store.people import NO_PASSWORD, teacher_by_email
from noema.store.record import RecordWanted, forget_old_record, record_of
from tests.trade import PASSWORD
from tests.web.planning import add, plan_now

NEW = "a fish called umber"


def said(answer):
    return re.sub(r"\s+", " ", answer.text)


def letters(app, school):
    """The letters of Noema's own that are kept, the newest first, as an administrator sees them."""
    return said(school.teacher(app).get("/school/people"))


def link_in(app, school):
    return re.search(r"(/links/[\w-]+)", letters(app, school)).group(1)


def record(school, **wanted):
    with school.sessions() as session:
        return record_of(session, school.id, RecordWanted(**wanted))


def member(school, email):
    with school.sessions() as session:
        return teacher_by_email(session, email)


def log_in(app, email, password=PASSWORD):
    client = app.test_client()
    return client, client.post("/log-in", data={"email": email, "password": password})


def invited(app, school, role="teacher", email=None):
    email = email or f"new{role}{school.id}@school.example"
    form = {"name": "Mx Ochre", "email": email, "role": role}
    assert school.teacher(app).post("/school/people", data=form).status_code == 303
    return email


def test_who_is_invited_sets_their_own_password_once(app, school):
    email = invited(app, school)
    _, refused = log_in(app, email)
    assert refused.status_code == 403
    shown = letters(app, school)
    assert "kept in the outbox here, not sent" in shown
    assert "invited" in shown
    link = link_in(app, school)
    visitor = app.test_client()
    assert "Set your password" in visitor.get(link).text
    assert visitor.post(link, data={"password": "short"}).status_code == 422
    assert visitor.post(link, data={"password": "password1234"}).status_code == 422
    assert visitor.post(link, data={"password": NEW}).status_code == 303
    client, answer = log_in(app, email, NEW)
    assert answer.status_code == 302
    assert client.get("/").status_code == 200
    again = visitor.post(link, data={"password": "another fish entirely"})
    assert again.status_code == 404
    assert "used already" in said(again)
    assert client.get("/school/people").status_code == 403


@pytest.mark.parametrize("form", [{"email": "nobody"}, {"name": ""}, {"role": "king"}])
def test_an_invitation_that_makes_no_sense_is_refused(app, school, form):
    whole = {"name": "Mx Ochre", "email": f"x{school.id}@school.example", "role": "teacher"}
    refused = school.teacher(app).post("/school/people", data={**whole, **form})
    assert refused.status_code == 422
    assert member(school, f"x{school.id}@school.example") is None


def test_a_forgotten_password_is_set_by_a_link_that_works_once_for_an_hour(app, school):
    visitor = app.test_client()
    known = visitor.post("/forgotten", data={"email": school.email})
    unknown = visitor.post("/forgotten", data={"email": "nobody@elsewhere.example"})
    assert said(known) == said(unknown)
    was_in = school.teacher(app)
    link = link_in(app, school)
    with school.sessions.begin() as session:
        late = datetime.now(UTC) - timedelta(seconds=1)
        session.execute(text("UPDATE one_use_link SET ends_at = :late"), {"late": late})
    assert visitor.get(link).status_code == 404
    visitor.post("/forgotten", data={"email": school.email})
    link = link_in(app, school)
    assert visitor.post(link, data={"password": NEW}).status_code == 303
    assert was_in.get("/plan").status_code == 302  # its log-in ended
    assert log_in(app, school.email)[1].status_code == 403
    assert log_in(app, school.email, NEW)[1].status_code == 302
    deeds = [one.deed for one in record(school)]
    assert deeds.count(Deed.PASSWORD_FORGOTTEN) == 2
    assert Deed.PASSWORD_SET in deeds


def test_an_e_mail_changes_when_its_link_is_followed(app, school):
    client, new = school.teacher(app), f"other{school.id}@school.example"
    wrong = client.post("/account/email", data={"email": new, "password": "not mine"})
    assert wrong.status_code == 403
    taken = {"email": school.colleague_email, "password": PASSWORD}
    assert client.post("/account/email", data=taken).status_code == 422
    assert (
        client.post("/account/email", data={"email": new, "password": PASSWORD}).status_code == 200
    )
    assert member(school, new) is None
    with school.sessions() as session:
        words = session.execute(text("SELECT purpose, email FROM one_use_link")).all()
    assert ("new e-mail", new) in [tuple(row) for row in words]


def test_a_password_is_changed_and_other_devices_are_out(app, school):
    here, elsewhere = school.teacher(app), school.teacher(app)
    form = {"old": PASSWORD, "new": NEW}
    assert here.post("/account/password", data={**form, "old": "x"}).status_code == 403
    for bad in ("short", "1234567890", "qwertyuiop"):
        assert here.post("/account/password", data={**form, "new": bad}).status_code == 422
    assert here.post("/account/password", data=form).status_code == 303
    assert here.get("/account").status_code == 200
    assert elsewhere.get("/account").status_code == 302


def test_where_somebody_is_in_is_shown_and_ended(app, school):
    here = school.teacher(app)
    here.post("/account/log-ins/end")
    elsewhere = school.teacher(app)
    shown = here.get("/account").text
    (named,) = re.findall(r"/account/log-ins/([0-9a-f]{12})/end", shown)
    assert here.post(f"/account/log-ins/{named}/end").status_code == 303
    assert elsewhere.get("/account").status_code == 302
    assert here.post(f"/account/log-ins/{named}/end").status_code == 404
    another = school.teacher(app)
    assert here.post("/account/log-ins/end").status_code == 303
    assert another.get("/account").status_code == 302
    assert here.get("/account").status_code == 200


def with_codes(app, school):
    """A teacher who asked to be asked for codes; gives the client, the secret, codes to recover."""
    client = school.teacher(app)
    shown = client.post("/account/codes").text
    assert "<svg" in shown
    secret = re.search(r">([A-Z2-7]{32})<", shown).group(1)
    wrong = client.post("/account/codes/confirm", data={"code": "000000"})
    assert wrong.status_code == 403
    done = client.post("/account/codes/confirm", data={"code": pyotp.TOTP(secret).now()})
    recovery = re.findall(r"<li>([a-z2-9]{10})</li>", done.text)
    assert len(recovery) == 10
    return client, secret, recovery


def test_codes_are_asked_for_and_none_is_taken_twice(app, school):
    _, secret, recovery = with_codes(app, school)
    client, answer = log_in(app, school.email)
    assert answer.headers["Location"].endswith("/log-in/code")
    assert client.get("/plan").status_code == 302
    here = int(datetime.now(UTC).timestamp()) // 30
    used = pyotp.TOTP(secret).generate_otp(here)
    assert client.post("/log-in/code", data={"code": used}).status_code == 403  # when confirming
    following = pyotp.TOTP(secret).generate_otp(here + 1)
    assert client.post("/log-in/code", data={"code": following}).status_code == 302
    assert client.get("/plan").status_code == 200
    other, _ = log_in(app, school.email)
    assert other.post("/log-in/code", data={"code": following}).status_code == 403
    assert other.post("/log-in/code", data={"code": recovery[0].upper()}).status_code == 302
    third, _ = log_in(app, school.email)
    assert third.post("/log-in/code", data={"code": recovery[0]}).status_code == 403
    assert "9 codes to recover with are left" in said(client.get("/account"))
    assert client.post("/account/codes/end", data={"password": "no"}).status_code == 403
    assert client.post("/account/codes/end", data={"password": PASSWORD}).status_code == 303
    assert log_in(app, school.email)[1].headers["Location"].endswith("/")


def test_a_code_of_half_a_minute_ago_still_holds_and_an_old_one_doesnt(app, school):
    _, secret, _ = with_codes(app, school)
    teacher = member(school, school.email)
    later = datetime.now(UTC) + timedelta(minutes=10)
    step = int(later.timestamp()) // 30
    code = pyotp.TOTP(secret).generate_otp(step)
    with school.sessions.begin() as session:
        with pytest.raises(NotAllowed):
            check_second(session, teacher.id, code, later + timedelta(seconds=90))
        check_second(session, teacher.id, code, later + timedelta(seconds=30))
        assert code_of(session, teacher.id).last_step == step


def test_without_the_password_nobody_reaches_the_code(app):
    visitor = app.test_client()
    assert visitor.get("/log-in/code").status_code == 302
    assert visitor.post("/log-in/code", data={"code": "1"}).status_code == 303


def act(app, school, email, act, **rest):
    number = member(school, email).id
    return school.teacher(app).post(f"/school/people/{number}", data={"act": act, **rest})


def test_who_is_disabled_is_out_at_once_and_comes_back(app, school):
    client, _ = log_in(app, school.colleague_email)
    assert client.get("/plan").status_code == 200
    assert act(app, school, school.colleague_email, "disable").status_code == 303
    assert client.get("/plan").status_code == 302
    assert log_in(app, school.colleague_email)[1].status_code == 403
    assert act(app, school, school.colleague_email, "enable").status_code == 303
    assert log_in(app, school.colleague_email)[1].status_code == 302


def test_who_is_removed_leaves_their_work_and_nothing_that_opens(app, school):
    client, _ = log_in(app, school.colleague_email)
    assert act(app, school, school.colleague_email, "remove").status_code == 303
    assert client.get("/plan").status_code == 302
    assert member(school, school.colleague_email) is None
    with school.sessions() as session:
        staff = staff_of(session, school.id, datetime.now(UTC), NO_PASSWORD)
    assert [one.email for one in staff] == [school.email]
    again = invited(app, school, email=school.colleague_email)
    assert member(school, again) is not None


def test_a_school_is_never_left_without_an_administrator(app, school):
    for what in ({"act": "disable"}, {"act": "remove"}, {"act": "role", "role": "teacher"}):
        number = member(school, school.email).id
        refused = school.teacher(app).post(f"/school/people/{number}", data=what)
        assert refused.status_code == 422
        assert "Nobody else could run the school" in said(refused)
    made = act(app, school, school.colleague_email, "role", role="administrator")
    assert made.status_code == 303
    number = member(school, school.email).id
    down = {"act": "role", "role": "teacher"}
    assert school.teacher(app).post(f"/school/people/{number}", data=down).status_code == 303
    assert school.teacher(app).get("/school/people").status_code == 403


def test_log_ins_are_ended_and_links_sent_by_an_administrator(app, school):
    client, _ = log_in(app, school.colleague_email)
    assert act(app, school, school.colleague_email, "show-out").status_code == 303
    assert client.get("/plan").status_code == 302
    assert act(app, school, school.colleague_email, "link").status_code == 303
    assert "A new password for Noema" in letters(app, school)
    assert act(app, school, school.colleague_email, "promote").status_code == 404


def test_nobody_changes_people_of_another_school(app, school, other_school):
    number = member(other_school, other_school.email).id
    for what in ("disable", "remove", "link", "show-out", "role"):
        answer = school.teacher(app).post(f"/school/people/{number}", data={"act": what})
        assert answer.status_code == 404, what


def test_a_class_is_shared_and_handed_over_but_never_left(app, school):
    client, address = school.teacher(app), f"/classes/{school.class_id}/teachers"
    with school.sessions.begin() as session:
        other = add_colleague(
            session, school.id, f"third{school.id}@school.example", "Mx Gris", PASSWORD
        )
    third, _ = log_in(app, f"third{school.id}@school.example")
    assert third.get(f"/classes/{school.class_id}").status_code == 404
    assert client.post(address, data={"teacher": other, "do": "share"}).status_code == 303
    assert third.get(f"/classes/{school.class_id}").status_code == 200
    for email in (school.email, school.colleague_email):
        gone = {"teacher": member(school, email).id, "do": "leave"}
        assert third.post(address, data=gone).status_code == 303
    alone = third.post(address, data={"teacher": other, "do": "leave"})
    assert alone.status_code == 422
    colleague, _ = log_in(app, school.colleague_email)
    assert colleague.get(f"/classes/{school.class_id}").status_code == 404
    shared = [one.deed for one in record(school)]
    assert shared.count(Deed.CLASS_SHARED) == 1
    assert shared.count(Deed.CLASS_UNSHARED) == 2


def test_the_record_says_who_did_what_from_where(app, school):
    client, _ = log_in(app, school.email)
    app.test_client().post("/log-in", data={"email": school.email, "password": "wrong one here"})
    assert client.get(f"/classes/{school.class_id}/grades.csv").status_code == 200
    client.post(f"/classes/{school.class_id}/students/{school.sheets()[0].student_id}/card")
    found = record(school)
    deeds = [one.deed for one in found]
    assert deeds[:4] == [Deed.CARD_REPLACED, Deed.EXPORTED, Deed.FAILED, Deed.CAME_IN]
    assert {one.address for one in found} == {"127.0.0.1"}
    assert found[1].about == "the grade book, Year 8"
    assert not any(school.sheets()[0].student in one.about for one in found)
    shown = said(client.get("/school/record"))
    assert "the grade book, Year 8" in shown
    only = said(client.get("/school/record?deed=came in"))
    assert "the grade book, Year 8" not in only
    assert "the grade book" in client.get("/school/record.csv?find=grade").text
    assert len(record(school, words="grade")) == 1
    older = record(school, before=found[1].id)
    assert older[0].id < found[1].id


def test_the_record_is_never_changed_and_goes_with_its_age(app, school):
    log_in(app, school.email)
    for change in ("UPDATE record_entry SET about = 'x'", "DELETE FROM record_entry"):
        with school.sessions() as session, pytest.raises(DBAPIError, match="never changed"):
            session.execute(text(change))
    client = school.teacher(app)
    assert client.post("/school/record", data={"months": "0"}).status_code == 422
    assert client.post("/school/record", data={"months": "2"}).status_code == 303
    count = len(record(school))
    assert count >= 2
    with school.sessions.begin() as session:
        assert forget_old_record(session, datetime.now(UTC) + timedelta(days=30)) == 0
        forget_old_record(session, datetime.now(UTC) + timedelta(days=90))
    assert record(school) == ()


def test_a_name_is_changed(app, school):
    client = school.teacher(app)
    assert client.post("/account/name", data={"name": "  Ms   Blue "}).status_code == 303
    assert member(school, school.email).display_name == "Ms Blue"
    assert client.post("/account/name", data={"name": " "}).status_code == 422


def test_assistants_see_their_stages_alone(app, school):
    with school.sessions.begin() as session:
        email = f"helper{school.id}@school.example"
        add_colleague(session, school.id, email, "Mx Vert", PASSWORD, StaffRole.ASSISTANT)
    client, _ = log_in(app, email)
    shown = client.get("/").text
    stages = re.findall(r'class="stage-name">([^<]+)<', shown)
    assert stages == ["Print", "Photograph"]
    refused = client.get("/review")
    assert refused.status_code == 403
    assert "Assistants print, hand in and lay out" in said(refused)


def third_teacher(app, school):
    """A teacher of the school with whom no class is shared."""
    email = f"apart{school.id}@school.example"
    with school.sessions.begin() as session:
        add_colleague(session, school.id, email, "Mx Sepia", PASSWORD)
    return log_in(app, email)[0]


def test_a_cupboard_is_the_whole_school_s_for_whoever_looks(app, planner, school):
    add(planner, school, "tint-ladder")
    plan_now(school)
    put = {"tube": "titanium-white", "medium": "acrylic", "size": "1", "count": "1"}
    planner.post("/school/cupboard", data=put)
    assert "runs out on 12 January 2027, with Year 8" in said(planner.get("/school/cupboard"))
    other = said(third_teacher(app, school).get("/school/cupboard"))
    assert "runs out on 12 January 2027" in other
    assert "Year 8" not in other


def test_a_clash_in_a_room_is_told_whoever_teaches_there(app, planner, school):
    apart = third_teacher(app, school)
    made = apart.post(
        "/classes/new", data={"name": "Year 9", "starts_on": "2027-01-11", "weeks": "10"}
    )
    unit = f"{made.headers['Location']}/unit"
    apart.post(f"{unit}/timetable", data={"lessons": "Tue 9:40 50"})
    shown = said(apart.get(unit))
    assert "Another class has a lesson in the same room on Tuesday" in shown
    assert "Year 8" not in shown


def test_a_teacher_s_calendar_holds_their_own_classes_and_ends_with_them(app, planner, school):
    add(planner, school, "value-scale")
    plan_now(school)
    visitor = app.test_client()

    def calendar_of(client):
        asked = client.post("/school/feed", follow_redirects=True).text
        return visitor.get(re.search(r"(/calendars/[\w-]+\.ics)", asked).group(1))

    assert calendar_of(third_teacher(app, school)).status_code == 404
    colleague, _ = log_in(app, school.colleague_email)
    kept = calendar_of(colleague)
    assert b"Value scale" in kept.data
    act(app, school, school.colleague_email, "disable")
    assert visitor.get(kept.request.path).status_code == 404
