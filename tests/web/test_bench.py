"""Practising at the bench, as a student and as a class's teacher."""

import re

import pytest

from noema.actions.work_out_exercise import Chosen
from noema.core.bench.task import THERE
from noema.core.exercises.catalogue import kind_of
from noema.core.pigments.shelf import builtin_set
from noema.store.bench import practice_of_student, practices_of_student, tasks_of_classes
from tests.trade import found_school

SHOWN = re.compile(r'name="acts" value="(\d+)"')


class Bench:
    """A go at the bench in somebody's browser."""

    def __init__(self, client, home, task="free"):
        self.client, self.home = client, home
        begun = client.post(f"{home}/begin", data={"task": task})
        assert begun.status_code == 303, begun.text
        self.here = begun.location

    def acts(self):
        return SHOWN.search(self.client.get(self.here).text)[1]

    def does(self, do, *, htmx=False, **chosen):
        data = {"do": do, "acts": self.acts(), **chosen}
        headers = {"HX-Request": "true"} if htmx else {}
        return self.client.post(f"{self.here}/do", data=data, headers=headers)

    def says(self, do, **chosen):
        return self.does(do, htmx=True, **chosen).text

    def ends(self):
        return self.client.post(f"{self.here}/end", follow_redirects=True).text


@pytest.fixture
def me(app, school):
    return school.student(app)


def own_goes(school):
    with school.sessions() as session:
        return practices_of_student(session, school.sheets()[0].student_id)


def test_a_student_finds_what_these_tubes_allow(me):
    page = me.get("/me/bench").text
    assert "The cleanest violet" in page
    assert "A dark without black" in page
    assert "The neutral of" in page


def test_paint_is_squeezed_brought_in_and_kept(me, school):
    bench = Bench(me, "/me/bench")
    page = bench.says("bring", source="lemon-yellow", ml="0.5", pile="a")
    assert 'id="bench"' in page
    assert "<html" not in page
    assert "pile a" in page
    with school.sessions() as session:
        kept = practice_of_student(session, school.sheets()[0].student_id, own_goes(school)[0].id)
    assert kept.played["acts"] == [
        ["squeeze", "lemon-yellow", 0.5],
        ["pile", "a"],
        ["take", "lemon-yellow", 0.5, "a"],
        ["mix", "a"],
    ]


def test_it_works_without_scripts_and_keeps_what_is_chosen(me):
    bench = Bench(me, "/me/bench")
    answer = bench.does("bring", source="rose", ml="2", pile="a")
    assert answer.status_code == 303
    page = me.get(answer.location).text
    assert re.search(r'value="rose" checked', page)
    assert re.search(r'value="2.0" checked', page)


@pytest.mark.parametrize(
    ("do", "says", "act"),
    [
        ("wipe", "clean", ["wipe"]),
        ("rinse", "clean", ["rinse"]),
        ("white", "pile a", ["let-down", "a", "white", 0.5]),
        ("water", "pile a", ["let-down", "a", "water", 0.5]),
        ("halve", "aside 1", ["halve", "a", "aside 1"]),
        ("dry", "dry", ["dry", "a"]),
        ("squeeze", "1.00 ml", ["squeeze", "rose", 0.5]),
        ("fresh", "unwiped", ["fresh-water"]),
    ],
)
def test_every_button_does_what_it_says(me, school, do, says, act):
    bench = Bench(me, "/me/bench")
    bench.does("bring", source="rose", ml="0.5", pile="a")
    bench.does("squeeze", source="rose", ml="0.5")
    assert says in bench.says(do, source="rose", ml="0.5", pile="a")
    assert own_goes(school)[0].played["acts"][-1] == act


def test_an_act_is_taken_back_whole(me, school):
    bench = Bench(me, "/me/bench")
    bench.does("bring", source="rose", ml="0.5", pile="a")
    bench.does("wipe")
    bench.does("undo")
    bench.does("undo")
    assert own_goes(school)[0].played["acts"] == []
    assert bench.does("undo").status_code == 422


def test_what_cant_be_done_is_said_and_nothing_is_lost(me, school):
    bench = Bench(me, "/me/bench")
    bench.does("bring", source="rose", ml="2", pile="a")
    refused = bench.does("bring", source="a", ml="2", pile="a")
    assert refused.status_code == 422
    assert "another place" in refused.text
    assert len(own_goes(school)[0].played["acts"]) == 4
    for _ in range(6):
        last = bench.does("bring", source="rose", ml="2", pile="a")
    assert "The tube of rose holds only" in last.text


def test_a_page_that_shows_what_is_no_longer_so_changes_nothing(me, school):
    bench = Bench(me, "/me/bench")
    stale = bench.acts()
    bench.does("bring", source="rose", ml="0.5", pile="a")
    late = me.post(f"{bench.here}/do", data={"do": "wipe", "acts": stale})
    assert late.status_code == 409
    assert len(own_goes(school)[0].played["acts"]) == 4


def test_answers_come_only_when_asked_for(me):
    bench = Bench(me, "/me/bench", "violet")
    page = bench.says("bring", source="ultramarine", ml="0.5", pile="a")
    for word in ("nearer.", "Look at the", "Bring in", "once dry"):
        assert word not in page
    assert "first touch" in bench.says("nearer", pile="a")
    bench.does("bring", source="rose", ml="0.5", pile="a")
    assert re.search("Yes, nearer|No, further|As near", bench.says("nearer", pile="a"))
    assert "Look at the" in bench.says("which", pile="a")
    assert re.search("Bring in|Keep a|begin again", bench.says("hint", pile="a"))
    assert "Nothing is asked of this pile" in bench.says("nearer", pile="b")
    assert "once dry" in me.get(f"{bench.here}?numbers=1").text


def test_what_was_foreseen_is_kept_and_shown_apart(me, school):
    bench = Bench(me, "/me/bench")
    bench.does("bring", source="lemon-yellow", ml="0.5", pile="a")
    said = bench.says(
        "bring", source="phthalo-blue", ml="0.5", pile="a", says_value="darker",
        says_chroma="cleaner",
    )  # fmt: skip
    assert "You foresaw: value." in said
    assert "It came otherwise: intensity." in said
    assert len(own_goes(school)[0].foreseen) == 1
    assert "you foresaw 1 of 2 changes" in me.get("/me/eye").text
    bench.does("undo")
    assert own_goes(school)[0].foreseen == []


def test_the_end_says_how_near_and_plays_a_practised_hand_back(me, school):
    bench = Bench(me, "/me/bench", "dark")
    bench.does("bring", source="lemon-yellow", ml="0.5", pile="a")
    page = bench.ends()
    assert "Still another colour." in page
    assert "1 touch; 0.5 ml came out of the tubes." in page
    assert "A practised hand" in page
    assert "Begin with" in page
    assert own_goes(school)[0].away > THERE
    late = me.post(f"{bench.here}/do", data={"do": "wipe", "acts": "4"})
    assert late.status_code == 422
    assert "This go is over" in late.text


def test_a_task_is_given_done_seen_and_taken_back(app, me, school):
    teacher = school.teacher(app)
    home = f"/classes/{school.class_id}/bench"
    teacher.post(f"{home}/tasks", data={"task": "dark", "title": "Night", "due": "2027-01-12"})
    with school.sessions() as session:
        (given,) = tasks_of_classes(session, [school.class_id])
    listed = me.get("/me/bench").text
    assert "Night" in listed
    assert "12 January 2027" in listed
    bench = Bench(me, "/me/bench", f"given:{given.id}")
    bench.does("bring", source="lemon-yellow", ml="0.5", pile="a")
    bench.ends()
    seen = teacher.get(home).text
    name = school.sheets()[0].student
    assert f'On the way: <span translate="no">{name}</span>' in seen
    assert "2 haven’t tried it" in seen
    # Their teacher looks at it, and leaves it alone.
    there = f"{home}/{own_goes(school)[0].id}"
    assert "Bring it in" not in teacher.get(there).text
    assert teacher.post(f"{there}/do", data={"do": "wipe", "acts": "4"}).status_code == 404
    teacher.post(f"{home}/tasks/{given.id}/take-back")
    assert "Night" not in me.get("/me/bench").text
    assert len(own_goes(school)) == 1


def test_a_teacher_gives_a_pile_they_mixed(app, me, school):
    teacher = school.teacher(app)
    bench = Bench(teacher, f"/classes/{school.class_id}/bench")
    bench.does("bring", source="rose", ml="0.5", pile="a")
    refused = teacher.post(f"{bench.here}/give", data={"task": "b", "title": "Evening"})
    assert refused.status_code == 422
    teacher.post(f"{bench.here}/give", data={"task": "a", "title": "Evening"})
    assert "Evening" in me.get("/me/bench").text


def test_a_wet_pile_beside_a_dry_colour_says_so_until_it_is_dry(me):
    bench = Bench(me, "/me/bench", "match-beginner")
    assert "answers go by the dry mix" not in me.get(bench.here).text
    assert "answers go by the dry mix" in bench.says("bring", source="rose", ml="0.5", pile="a")
    assert "answers go by the dry mix" not in bench.says("dry", pile="a")


def test_names_stand_beside_colours_where_a_class_wants_them(app, me, school):
    bench = Bench(me, "/me/bench", "match-beginner")
    assert "Asked for:" not in me.get(bench.here).text
    school.teacher(app).post(f"/classes/{school.class_id}/bench/names", data={"on": "on"})
    assert "Asked for:" in me.get(bench.here).text


def test_a_cell_of_an_exercise_is_practised(painted_wheel):
    client, school = painted_wheel
    listed = client.get(f"/me/exercises/{school.assignment_id}").text
    cell = re.search(r'value="(cell:\d+:[^"]+)"', listed)[1]
    bench = Bench(client, "/me/bench", cell)
    assert "Match" in client.get(bench.here).text
    other = client.post("/me/bench/begin", data={"task": f"cell:{school.assignment_id}:nowhere"})
    assert other.status_code == 422


@pytest.fixture
def painted_wheel(app, sessions, files):
    wheel = kind_of("colour-wheel")
    paints = builtin_set("split-six")
    chosen = Chosen(
        kind="colour-wheel", options=wheel.chosen({"hues": 6}), paints=paints, set_ref="split-six"
    )
    school = found_school(sessions, files, chosen=chosen)
    return school.student(app), school


@pytest.mark.parametrize(
    "task", ["", "no-such", "given:1x", "given:99999999", "cell:1", "cell:x:y"]
)
def test_a_task_that_isnt_offered_is_refused_in_a_sentence(me, task):
    assert me.post("/me/bench/begin", data={"task": task}).status_code in (404, 422)
