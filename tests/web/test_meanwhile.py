"""Things that happen while a page is open: reading goes on, a colleague decides."""

from io import BytesIO

from noema.actions.read_photograph import read_photograph
from noema.stand_ins.mishap import Mishap


def test_the_second_teacher_is_told_and_nothing_is_overwritten(app, school):
    photo = school.reviewable()
    first, second = school.teacher(app), school.teacher(app, school.colleague_email)
    accept = {"verb": "accept", "seen": "0"}
    assert first.post(f"/review/{photo}/decide", data=accept).status_code == 303
    late = second.post(
        f"/review/{photo}/decide", data={"verb": "send-back", "sentence": "No.", "seen": "0"}
    )
    assert late.status_code == 409
    assert "Ms Teal decided something" in late.text
    assert "No." not in second.get("/return").text


def test_a_refusal_comes_as_a_notice_where_a_fragment_was_asked_for(app, school):
    client = school.teacher(app)
    answer = client.get(
        "/paints/sets/split-six/explore?one=nothing", headers={"HX-Request": "true"}
    )
    assert answer.status_code == 422
    assert 'role="alert"' in answer.text
    assert "<html" not in answer.text


def test_a_pile_is_looked_at_again_until_all_of_it_is_read(app, school):
    client = school.teacher(app)
    batch = client.post("/batches").json["batch"]
    photo = (BytesIO(school.photo_of(school.sheets()[0])), "a.jpg")
    assert client.post(f"/batches/{batch}/photos", data={"photo": photo}).json["state"] == "kept"
    fragment = client.get(f"/batches/{batch}").text
    assert "0 of 1" in fragment
    assert 'hx-trigger="every 1s"' in fragment
    waiting = client.get("/photograph").text
    assert "waits to be read" in waiting
    with school.sessions.begin() as session:
        from_batch = session.connection().exec_driver_sql(
            f"SELECT id FROM photograph WHERE batch_id = {batch}"
        )
        read_photograph(session, school.files, from_batch.scalar_one())
    fragment = client.get(f"/batches/{batch}").text
    assert "1 of 1" in fragment
    assert "hx-trigger" not in fragment


def test_one_photograph_at_a_time_says_what_became_of_it(app, school):
    client = school.teacher(app)
    batch = client.post("/batches").json["batch"]
    data = school.photo_of(school.sheets()[0])

    def send(content):
        return client.post(
            f"/batches/{batch}/photos", data={"photo": (BytesIO(content), "a.jpg")}
        ).json

    assert send(data)["state"] == "kept"
    assert send(data) == {"state": "known", "words": "The same photograph was handed in before."}
    assert send(b"words")["state"] == "refused"


def test_a_photograph_in_the_tray_is_found_its_sheet_by_name_or_code(app, school):
    client = school.teacher(app)
    assert "The tray is empty" in client.get("/photograph").text
    jpeg = school.photo_of(school.sheets()[1], mishap=Mishap(hide_code=True))
    photo = school.hands_in(jpeg).photo.id
    tray = client.get("/photograph").text
    assert "its code can&#39;t be read" in tray
    assert "<option" not in tray.split('id="tray"')[1]
    sheet = school.sheets()[1]
    whose = f"/photographs/{photo}/whose"
    for words in (sheet.code, sheet.student, sheet.student.split()[0].upper()):
        assert (
            f"Read it as {sheet.student}, {sheet.code}"
            in client.get(whose, query_string={"words": words}).text
        )
    fragment = client.get(f"{whose}?words=zz%25", headers={"HX-Request": "true"}).text
    assert "No sheet has “zz%”" in fragment
    assert "<html" not in fragment
    answer = client.post(f"/photographs/{photo}/match", data={"sheet": sheet.id})
    assert answer.status_code == 303
    with school.sessions.begin() as session:
        read_photograph(session, school.files, photo)
    assert sheet.student in client.get(f"/review/{photo}").text
    again = client.post(f"/photographs/{photo}/match", data={"sheet": sheet.id})
    assert again.status_code == 422
    assert "no longer in the tray" in again.text
