"""What is sent twice, or by two at once, is done once."""

import re
from concurrent.futures import ThreadPoolExecutor

from sqlalchemy import text

from noema.core.judging.review import Decision, Verb
from noema.store.assignments import assignments_of_class
from noema.store.bench import practices_of_student
from noema.store.classes import students_of_class
from noema.store.decisions import record_of
from noema.store.sent_forms import forget_forms


def at_once(*calls):
    with ThreadPoolExecutor(len(calls)) as pool:
        return [done.result() for done in [pool.submit(call) for call in calls]]


def test_a_roster_that_is_taken_three_times_at_once_comes_once(app, school):
    clients = [school.teacher(app) for _ in range(3)]
    data = {"text": "\n".join(f"New Student {n}" for n in range(12))}
    url = f"/classes/{school.class_id}/roster"
    said = at_once(*(lambda client=client: client.post(url, data=data) for client in clients))
    assert sorted(answer.status_code for answer in said)[0] in (302, 303)
    with school.sessions() as session:
        names = [one.display_name for one in students_of_class(session, school.class_id)]
    assert len([name for name in names if name.startswith("New Student")]) == 12


def test_an_exercise_given_by_two_clicks_is_given_once(app, school):
    client = school.teacher(app)
    url = f"/classes/{school.class_id}/assign"
    once = re.search(r'name="once" value="([0-9a-f]{32})"', client.get(url).text).group(1)
    form = {"kind": "colour-wheel", "set": "split-six", "hues": "6", "once": once}
    with school.sessions() as session:
        before = len(assignments_of_class(session, school.class_id))
    refused = client.post(url, data={**form, "hues": "7"})
    assert refused.status_code == 422
    said = at_once(*(lambda: client.post(url, data=form) for _ in range(3)))
    assert sorted(answer.status_code for answer in said) == [302, 409, 409]
    assert "is done once" in said[-1].text + said[0].text + said[1].text
    with school.sessions() as session:
        assert len(assignments_of_class(session, school.class_id)) == before + 1
    fresh = re.search(r'name="once" value="([0-9a-f]{32})"', client.get(url).text).group(1)
    assert client.post(url, data={**form, "once": fresh}).status_code == 302


def test_a_decision_sent_twice_is_one_line_of_the_record(school):
    photo = school.reviewable()
    for _ in range(2):
        school.decides(photo, Decision(verb=Verb.ACCEPT))
    school.decides(photo, Decision(verb=Verb.UNDO))
    for _ in range(2):
        school.decides(photo, Decision(verb=Verb.SEND_BACK, sentence="Once more."))
    with school.sessions() as session:
        said = [line.decision.verb for line in record_of(session, photo)]
    assert said == [Verb.ACCEPT, Verb.UNDO, Verb.SEND_BACK]


def test_forms_are_forgotten_after_a_day(school):
    with school.sessions.begin() as session:
        session.execute(
            text("INSERT INTO sent_form (once, made_at) VALUES ('old', now() - interval '2 days')")
        )
        now = session.scalar(text("SELECT now()"))
        forget_forms(session, now)
        left = text("SELECT count(*) FROM sent_form WHERE once = 'old'")
        assert session.scalar(left) == 0


def test_a_touch_that_is_sent_twice_at_once_is_done_once(app, school):
    clients = [school.student(app) for _ in range(3)]
    here = clients[0].post("/me/bench/begin", data={"task": "free"}).location
    data = {"do": "bring", "source": "rose", "ml": "0.5", "pile": "a", "acts": "0"}
    said = at_once(*(lambda c=client: c.post(f"{here}/do", data=data) for client in clients))
    assert sorted(answer.status_code for answer in said) == [303, 409, 409]
    with school.sessions() as session:
        (kept,) = practices_of_student(session, school.sheets()[0].student_id)
    assert len(kept.played["acts"]) == 4
