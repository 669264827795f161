"""The desk's pages by plain links and forms."""

import re
from dataclasses import replace

import pytest

from noema.actions.work_out_exercise import Chosen
from noema.core.exercises.catalogue import kind_of
from noema.core.judging.review import ReviewState
from noema.core.pigments.shelf import builtin_set
from noema.formats.judgement_json import judgement_from_json
from noema.jobs.judge_assignment import judge_behind
from noema.stand_ins.painter import Hand
from noema.store.assignments import assignments_of_class
from noema.store.judgements import judgements_of
from noema.web.reviewing.page import asks_first
from tests.trade import CAREFUL, found_school

SWAPPED = Hand(step_noise=0.0, missed=0.0, ragged_mm=0.3, cast=0.0, swapped=("c2", "c4"))


def text_of(client, url, **how):
    answer = client.get(url, **how)
    assert answer.status_code == 200
    return answer.get_data(as_text=True)


def send_back(client, photo, sentence):
    return client.post(f"/review/{photo}/decide", data={"verb": "send-back", "sentence": sentence})


@pytest.mark.parametrize(
    ("look", "shows"),
    [
        ("view=photograph", "/original"),
        ("view=key", "What was asked, cell by cell"),
        ("view=last", "This is the first attempt"),
        ("room=0", "room-0"),
        ("room=99", "room-4"),
        ("view=nonsense", "view-straight"),
        ("near=1", "Whole<kbd>z</kbd>"),
    ],
)
def test_every_look_has_an_address(app, school, look, shows):
    photo = school.reviewable()
    assert shows in text_of(school.teacher(app), f"/review/{photo}?{look}")


def test_the_photograph_has_the_cells_outlined_where_the_reader_found_them(app, school):
    photo = school.reviewable()
    page = text_of(school.teacher(app), f"/review/{photo}?view=photograph")
    assert page.count('<polygon data-cell="') == 5


def test_a_move_stands_with_the_cell_and_the_skills_beside_the_sheet(app, school):
    layout, _ = school.printed(school.sheets()[0])
    meant = {cell.id: cell.target_lab for cell in layout.cells}
    meant["c3"] = (meant["c3"][0] + 13.0, 0.0, 0.0)
    photo = school.reviewable(hand=Hand(meant=meant, missed=0.0, ragged_mm=0.3), seed=3)
    page = text_of(school.teacher(app), f"/review/{photo}?cell=c3")
    assert "Skill by skill" in page
    assert "Next:" in page


def test_the_last_attempt_lies_beside_the_new_one(app, school):
    client = school.teacher(app)
    first = school.reviewable(hand=SWAPPED)
    send_back(client, first, "Look at two and four.")
    second = school.hands_in(school.photo_of(school.sheets()[0], seed=9)).photo.id
    page = text_of(client, f"/review/{second}?view=last")
    assert f"/photographs/{first}/straight.jpg" in page
    assert "You wrote: “Look at two and four.”" in page


def test_a_phrase_is_offered_again_where_the_same_is_found(app, school):
    client = school.teacher(app)
    first = school.reviewable(hand=SWAPPED)
    assert "phrase book" not in text_of(client, f"/review/{first}")
    send_back(client, first, "Two of them changed chairs.")
    second = school.hands_in(school.photo_of(school.sheets()[1], seed=6, hand=SWAPPED)).photo.id
    page = text_of(client, f"/review/{second}")
    assert "From your phrase book" in page
    number = page.split("phrase=")[1].split('"')[0]
    assert ">Two of them changed chairs.</textarea>" in text_of(
        client, f"/review/{second}?phrase={number}"
    )
    assert "Two of them changed chairs." in text_of(client, "/rubric")
    client.post(f"/phrases/{number}/drop")
    assert "Two of them changed chairs." not in text_of(client, "/rubric")


def test_what_needs_the_teacher_comes_first(app, school):
    sheets = school.sheets()
    holds = school.hands_in(school.photo_of(sheets[0], seed=2)).photo.id
    strays = school.hands_in(school.photo_of(sheets[1], seed=3, hand=SWAPPED)).photo.id
    page = text_of(school.teacher(app), "/review")
    assert page.index(f"/review/{strays}") < page.index(f'href="/review/{holds}"')


def test_all_that_holds_is_accepted_and_taken_back(app, school):
    client = school.teacher(app)
    for n, sheet in enumerate(school.sheets()[:2]):
        school.hands_in(school.photo_of(sheet, seed=20 + n, hand=CAREFUL))
    url = f"/review/exercises/{school.assignment_id}/holding"
    page = text_of(client, url)
    seen = [part.split('"')[0] for part in page.split('name="seen" value="')[1:]]
    assert len(seen) == 2
    accepted = client.post(url, data={"seen": seen}).get_data(as_text=True)
    assert "2 sheets are accepted" in accepted
    ids = [part.split('"')[0] for part in accepted.split('name="photograph" value="')[1:]]
    client.post(url.replace("holding", "take-back"), data={"photograph": ids})
    assert "Accept all 2" in text_of(client, url)
    assert client.post(url, data={"seen": ["1:x"]}).status_code == 422


def test_a_slip_says_what_to_do_next_and_a_redo_may_be_of_some_cells(app, school):
    client = school.teacher(app)
    photo = school.reviewable(hand=Hand(step_noise=0.9, missed=0.0, ragged_mm=0.3), seed=3)
    send_back(client, photo, "Even out the middle.")
    slip = text_of(client, f"/return/{photo}/slip")
    assert "Even out the middle." in slip
    assert "How to try again" in slip
    assert "only the cells that need it" in text_of(client, "/return")
    again = client.post(
        f"/assignments/{school.assignment_id}/again",
        data={"cells": "needed"},
        follow_redirects=True,
    )
    assert again.data.startswith(b"%PDF")


def test_a_rubric_of_ones_own_moves_the_mark(app, school):
    client = school.teacher(app)
    photo = school.reviewable()
    assert " of 10</span>" not in text_of(client, f"/review/{photo}")
    page = text_of(client, "/rubric")
    names = [part.split('"')[0] for part in page.split('<input name="')[1:]]
    form = {name: "1" for name in names} | {f"level{n}": f"L{n}" for n in range(5)}
    assert client.post("/rubric", data={**form, "out_of": "10"}).status_code == 303
    desk = text_of(client, f"/review/{photo}")
    assert " of 10</span>" in desk
    assert "L4" in desk
    refused = client.post("/rubric", data={**form, "level2": "", "out_of": "10"})
    assert refused.status_code == 422
    assert "five levels" in refused.get_data(as_text=True)
    assert client.post("/rubric", data={"usual": "1"}).status_code == 303
    assert " of 10</span>" not in text_of(client, f"/review/{photo}")


def test_a_class_is_spoken_to_as_its_teacher_says(app, school):
    client = school.teacher(app)
    url = f"/classes/{school.class_id}"
    assert client.post(f"{url}/audience", data={"audience": "adult"}).status_code == 303
    assert '<option value="adult" selected>' in text_of(client, f"{url}/settings")
    assert client.post(f"{url}/audience", data={"audience": "robot"}).status_code == 422


def test_a_wheels_class_shows_its_drifts_and_a_hand_out(app, sessions, files):
    wheel = Chosen(
        kind="colour-wheel",
        options=kind_of("colour-wheel").chosen({"hues": 6}),
        paints=builtin_set("split-six"),
        set_ref="split-six",
    )
    school = found_school(sessions, files, chosen=wheel)
    client = school.teacher(app)
    url = f"/exercises/{school.assignment_id}"
    assert "Nothing was read" in text_of(client, f"{url}/patterns")
    school.reviewable(hand=CAREFUL)
    page = text_of(client, f"{url}/patterns")
    assert "Drift in hue" in page
    assert "Drift in intensity" in page
    assert "hand-out" in text_of(client, f"{url}/hand-out")


def test_a_level_changed_later_judges_all_work_anew(app, school):
    client = school.teacher(app)
    school.reviewable()
    url = f"/assignments/{school.assignment_id}"
    held = client.post(
        f"{url}/held", data={"key": "own-ends", "level": "advanced"}, follow_redirects=True
    ).get_data(as_text=True)
    assert "<b>0 of 1</b> sheets are judged by it" in held
    assert 'hx-trigger="every 1s"' in held
    judge_behind(school.sessions, school.assignment_id)
    done = text_of(client, f"{url}/key/progress")
    assert "1 sheet is judged by it" in done
    assert "hx-trigger" not in done
    assert client.post(f"{url}/held", data={"key": "x", "level": "y"}).status_code == 422


MUDDLED = Hand(step_noise=0.0, missed=0.0, ragged_mm=0.3, bunching=2.5)


def accept(client, photo, **more):
    return client.post(f"/review/{photo}/decide", data={"verb": "accept", **more})


def test_a_sheet_that_mostly_strays_is_accepted_on_the_second_asking(app, school):
    client, photo = school.teacher(app), school.reviewable(hand=MUDDLED)
    assert asks_first(school.attempt(photo))
    asked = accept(client, photo)
    assert asked.location.endswith("sure=1")
    assert school.attempt(photo).review.state is ReviewState.OPEN
    page = text_of(client, asked.location)
    assert "Most cells of this sheet stray" in page
    assert 'name="sure" value="yes"' in page
    accept(client, photo, sure="yes")
    assert school.attempt(photo).review.state is ReviewState.ACCEPTED


def test_a_good_sheet_is_accepted_at_once(app, school):
    client, photo = school.teacher(app), school.reviewable()
    accept(client, photo)
    assert school.attempt(photo).review.state is ReviewState.ACCEPTED


def test_undoing_keeps_the_sentence_that_was_typed(app, school):
    client, photo = school.teacher(app), school.reviewable()
    send_back(client, photo, "Look at the third once more, please.")
    client.post(f"/review/{photo}/decide", data={"verb": "undo"})
    assert "Look at the third once more, please.</textarea>" in text_of(client, f"/review/{photo}")


def test_a_long_queue_is_shown_some_exercises_at_a_time(app, school, monkeypatch):
    monkeypatch.setattr("noema.web.reviewing.queue._MOST_HEAPS", 1)
    client = school.teacher(app)
    school.reviewable()
    url = f"/classes/{school.class_id}/assign"
    client.post(url, data={"kind": "value-scale", "steps": "7", "due_week": "9"})
    with school.sessions() as session:
        given = [one.id for one in assignments_of_class(session, school.class_id)]
    second = replace(school, assignment_id=max(given))
    client.post(f"/assignments/{second.assignment_id}/sheets")
    second.reviewable()
    first_page = client.get("/review").text
    assert "2 sheets wait for you" in first_page
    more = re.search(r'href="(/review\?after=\d+)"', first_page).group(1)
    second_page = client.get(more).text
    assert "Show more" not in second_page
    assert first_page.count("<h2>") == second_page.count("<h2>") == 1
    assert first_page.split("<h2>")[1][:200] != second_page.split("<h2>")[1][:200]


def test_the_cell_looked_at_stays_when_a_decision_is_undone(app, school):
    photo = school.reviewable()
    client = school.teacher(app)
    look = "cell=c4&view=greyscale&large=1"
    page = text_of(client, f"/review/{photo}?{look}")
    assert "large" in page
    cell = {"verb": "overrule", "verdict": "off", "cell": "c4", "look": look, "seen": "0"}
    answer = client.post(f"/review/{photo}/decide", data=cell)
    assert answer.headers["Location"].endswith(f"?{look}")
    undone = {"verb": "undo", "look": look, "seen": "1"}
    answer = client.post(f"/review/{photo}/decide", data=undone)
    assert answer.headers["Location"].endswith(f"?{look}")


def test_a_cells_numbers_stand_in_a_table_with_the_doubt_said(app, school):
    photo = school.reviewable()
    page = text_of(school.teacher(app), f"/review/{photo}?cell=c3")
    with school.sessions() as session:
        body = judgements_of(session, [photo])[photo]
    cell = next(one for one in judgement_from_json(body).cells if one.id == "c3")
    for number in (
        f"{cell.expected_value:.1f}",
        f"{cell.painted_value:.1f}",
        f"{cell.drift:+.2f}",
        f"{cell.tolerance:g}",
        f"{2.0 * cell.sigma:.2f}",
    ):
        assert f"<td>{number}</td>" in page
    assert "19 of 20" in page


def test_names_and_values_stand_on_swatches_for_who_wants_them(app, school):
    photo = school.reviewable()
    client = school.teacher(app)
    pages = (f"/review/{photo}", f"/assignments/{school.assignment_id}/key")
    for page in pages:
        assert "swatch-name" not in text_of(client, page)
        assert "cell-name" not in text_of(client, page)
    asked = {"names": "yes", "back": pages[0]}
    assert client.post("/names", data=asked).headers["Location"] == pages[0]
    strip = text_of(client, pages[0]).split('class="strip"')[1].split("</svg>")[0]
    assert strip.count("swatch-name") == 2 * len(re.findall('class="joint', strip))
    assert ">grey</text>" in strip
    assert "cell-name" in text_of(client, pages[1])
    client.post("/names", data={"back": "//elsewhere.example"})
    assert "swatch-name" not in text_of(client, pages[0])
