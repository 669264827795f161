"""Assigning exercises of every kind, their keys, and what comes of the sheets."""

import re
from dataclasses import replace

import pypdfium2
import pytest
from sqlalchemy import text

from noema.actions.work_out_exercise import Chosen
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.levels import Key
from noema.core.pigments.shelf import builtin_set
from noema.jobs.judge_assignment import judge_behind
from noema.stand_ins.painter import Hand
from tests.trade import CAREFUL, NAMES, found_school

CHART = Chosen(
    kind="intensity-chart",
    options=kind_of("intensity-chart").chosen({"steps": 5, "pairs": ("red-green",)}),
    paints=builtin_set("split-six"),
    set_ref="split-six",
    key=Key.TEACHER,
)


@pytest.fixture
def chart(sessions, files):
    """A school whose class paints a chart held against the teacher's own sheet."""
    return found_school(sessions, files, chosen=CHART)


def assign_url(school) -> str:
    return f"/classes/{school.class_id}/assign"


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_is_shown_assigned_printed_and_has_a_key_sheet(app, school, kind):
    client = school.teacher(app)
    form = {"kind": kind, "set": "split-six+black", "level": "intermediate", "due_week": "7"}
    shown = client.get(assign_url(school), query_string=form).text
    assert KINDS[kind].says in shown
    assert "to set up, paint and clean up" in shown
    assert "maker" in shown  # the caution that comes first
    key_url = re.search(r'href="([^"]*key\.pdf[^"]*)"', shown).group(1).replace("&amp;", "&")
    assert client.get(key_url).data.startswith(b"%PDF")
    assert client.post(assign_url(school), data=form).status_code == 302
    page = client.get("/print").text
    made = re.search(r'action="(/assignments/\d+/sheets)"', page).group(1)
    pdf = client.post(made, follow_redirects=True).data
    assert len(pypdfium2.PdfDocument(pdf)) == len(NAMES)
    assert KINDS[kind].says in client.get(made.replace("sheets", "key")).text


def test_the_form_changes_with_the_kind_and_the_set(app, school):
    client = school.teacher(app)
    url = f"{assign_url(school)}/preview"
    wheel = client.get(url, query_string={"kind": "colour-wheel", "set": "three-printers"}).text
    assert 'name="hues"' in wheel
    assert 'name="rings"' in wheel
    assert 'name="pairs"' not in wheel
    ladder = client.get(url, query_string={"kind": "tint-ladder", "set": "muted-earths"}).text
    assert "yellow ochre" in ladder
    assert 'value="11"' in ladder


@pytest.mark.parametrize(
    ("form", "reason"),
    [
        ({"kind": "colour-wheel", "hues": "24", "rings": ["tint-in", "shade"]}, "fewer rings"),
        ({"kind": "colour-match", "key": "own-ends"}, "no ends of its own"),
        ({"kind": "tint-ladder", "medium": "pencil"}, "no tubes"),
        ({"kind": "colour-match", "targets": "50, 10, 10\nno-such:3"}, "no-such"),
        ({"kind": "value-scale", "tolerance-value": "wide"}, "no number"),
        ({"kind": "value-scale", "tolerance-value": "40"}, "makes no sense"),
        ({"kind": "value-scale", "steps": "-2"}, "not a whole number"),
        ({"kind": "paper-plane"}, "There is no exercise"),
        ({"kind": "colour-wheel", "set": "9999"}, "no such paint set"),
        ({"kind": "colour-wheel", "level": "master"}, "isn’t on the list"),
    ],
)
def test_silly_choices_are_refused_in_the_preview_and_when_assigned(app, school, form, reason):
    client = school.teacher(app)
    reason = reason.replace("’", "&#39;")
    assert reason in client.get(f"{assign_url(school)}/preview", query_string=form).text
    refused = client.post(assign_url(school), data=form)
    assert refused.status_code in (404, 422)
    assert reason in refused.text


def test_own_tolerances_are_kept_and_an_earlier_assignment_gives_its_choices(app, school):
    client = school.teacher(app)
    form = {
        "kind": "intensity-chart",
        "set": "split-six",
        "steps": "9",
        "pairs": "yellow-violet",
        "with": "tints",
        "tolerance-chroma": "1.1",
        "level": "advanced",
        "key": "named",
        "print": "shows-parts",
        "due_week": "3",
    }
    client.post(assign_url(school), data=form)
    assert "chroma within 1.1" in client.get(assign_url(school), query_string=form).text
    earlier = re.findall(
        r'<option value="(\d+)">[^<]*Intensity chart', client.get(assign_url(school)).text
    )
    copy = client.get(assign_url(school), query_string={"from": earlier[0]}).text
    assert 'value="yellow-violet"' in copy
    assert 'value="1.1"' in copy
    for chosen in ("9", "advanced", "named", "split-six"):
        assert f'<option value="{chosen}" selected>' in copy
    assert copy.count(" checked") == 2


def _beside_the_token(page: str) -> str:
    """What a page shows: its form's token tells the second it was made in."""
    return re.sub(r'name="csrf_token"[^>]*', "", page.split("<main")[1])


def _shown(page: str) -> str:
    """The exercise on a page, without the forms before it."""
    return page.split('<p class="lead">', 2)[2]


def test_a_set_changed_later_changes_nothing_that_was_given(app, school):
    client = school.teacher(app)
    ref = school.puts_together("Room 3", "rose", "lemon-yellow", "phthalo-blue", "titanium-white")
    client.post(assign_url(school), data={"kind": "colour-wheel", "hues": "6", "set": ref})
    key = re.search(r'href="(/assignments/\d+/key)">Colour wheel', client.get("/plan").text).group(
        1
    )
    before = _shown(client.get(key).text)
    client.post(f"/paints/sets/{ref}/remove")
    assert client.get(f"/paints/sets/{ref}").status_code == 404
    assert _shown(client.get(key).text) == before
    assert before.count("<polygon") == 6


def test_a_coloured_sheet_is_read_judged_by_its_key_and_reviewed(app, chart):
    client = chart.teacher(app)
    photo = chart.reviewable(hand=CAREFUL)
    desk = client.get(f"/review/{photo}").text
    assert desk.count('class="joint') == 5
    assert "The bridge" in desk
    assert "steps of a circle of 100" in desk
    assert "neutral" in client.get(f"/review/{photo}?cell=r1c3").text
    assert (
        "accepted"
        in client.post(
            f"/review/{photo}/decide", data={"verb": "accept"}, follow_redirects=True
        ).text
    )
    assert "Intensity chart" in client.get(f"/progress/classes/{chart.class_id}").text


def test_the_teachers_sheet_becomes_the_key_and_work_is_judged_anew(app, chart):
    client = chart.teacher(app)
    students = chart.reviewable(hand=CAREFUL)
    key = f"/assignments/{chart.assignment_id}/key"
    assert "held against what its paints give" in client.get(key).text
    assert client.post(f"{key}/sheet", follow_redirects=True).data.startswith(b"%PDF")
    own = next(sheet for sheet in chart.sheets() if sheet.student_id is None)
    dull = Hand(step_noise=0.05, missed=0.0, ragged_mm=0.3, cast=3.0)
    photo = chart.hands_in(chart.photo_of(own, hand=dull, seed=77)).photo
    page = client.get(key).text
    assert "Make this the key" in page
    refused = client.post(key, data={"photograph": students})
    assert refused.status_code == 422
    approved = client.post(key, data={"photograph": photo.id}, follow_redirects=True).text
    assert "<b>0 of 1</b> sheets are judged by it" in approved
    judge_behind(chart.sessions, chart.assignment_id)
    assert "This is the key" in approved
    assert "As the teacher painted it" in approved
    with chart.sessions() as session:
        kept = (
            session.execute(
                text(
                    "SELECT k.key_photograph_id FROM judgement j "
                    "JOIN reading r ON r.id = j.reading_id "
                    "JOIN key_revision k ON k.id = j.revision_id "
                    "WHERE r.photograph_id = :p ORDER BY j.id"
                ),
                {"p": students},
            )
            .scalars()
            .all()
        )
    assert kept == [None, photo.id]
    assert "As the teacher painted it" in client.get(key).text
    held = f"/assignments/{chart.assignment_id}/held"
    client.post(held, data={"key": "paints", "level": "beginner"})
    assert "As the teacher painted it" not in client.get(key).text


def test_a_sheet_of_tube_swatches_gives_the_colours_of_an_own_tube(app, sessions, files):
    chosen = Chosen(
        kind="tube-swatches",
        options=kind_of("tube-swatches").chosen({"tubes": ("rose", "phthalo-blue")}),
        paints=builtin_set("split-six"),
        set_ref="split-six",
    )
    school = found_school(sessions, files, chosen=chosen)
    client = school.teacher(app)
    assert "photographed sheet" not in client.get("/paints/tubes/new").text
    photo = school.reviewable(hand=CAREFUL)
    form = client.get("/paints/tubes/new").text
    assert f'value="{photo}-s1a">rose' in form
    filled = client.get(f"/paints/tubes/new?from={photo}-s1a").text
    labs = re.findall(r'name="lab_\d" value="([^"]*)"', filled)
    assert [bool(lab) for lab in labs] == [True, True, False]
    assert float(labs[1].split()[0]) > float(labs[0].split()[0]) + 10  # the tint is lighter
    fit = {
        "label": "Our rose", "base": "rose", "do": "fit", "lab_0": labs[0], "with_0": "",
        "parts_0": "", "lab_1": labs[1], "with_1": "titanium-white", "parts_1": "10",
    }  # fmt: skip
    assert "Put Our rose on the shelf" in client.post("/paints/tubes/new", data=fit).text
    assert client.get(f"/paints/tubes/new?from={photo}-s9a").status_code == 404


@pytest.mark.parametrize(
    ("chosen", "meanwhile"),
    [
        (None, "against named hues, or the medium&#39;s usual ends of value"),
        (CHART, "against what these paints give"),
    ],
)
def test_a_key_page_says_what_holds_until_the_teachers_sheet_does(
    app, sessions, files, chosen, meanwhile
):
    school = found_school(sessions, files, chosen=chosen)
    client = school.teacher(app)
    url = f"/assignments/{school.assignment_id}"
    client.post(f"{url}/held", data={"key": "teacher", "level": "beginner"})
    assert f"until you make one the key, {meanwhile}" in client.get(f"{url}/key").text
    client.post(f"{url}/held", data={"key": "named", "level": "beginner"})
    assert "until you make one the key" not in client.get(f"{url}/key").text


def test_tubes_as_they_come_are_printed_read_and_counted_for_nobody(app, school, sessions):
    client = school.teacher(app)
    form = {"kind": "intensity-chart", "set": "split-six", "pairs": "red-green", "steps": "5"}
    ticked = {**form, "print": "own-tubes"}
    key = re.compile(r'href="([^"]*key\.pdf[^"]*)"')
    words = []
    for one in (form, ticked):
        shown = client.get(assign_url(school), query_string=one).text
        pdf = client.get(key.search(shown).group(1).replace("&amp;", "&")).data
        pages = (page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(pdf))
        words.append(" ".join(" ".join(pages).split()))
    assert ["Tubes as they" in one for one in words] == [False, True]
    assert client.post(assign_url(school), data=ticked).status_code == 302
    with sessions() as session:
        newest = "SELECT max(id) FROM assignment WHERE class_id = :c"
        given = session.scalar(text(newest), {"c": school.class_id})
    school = replace(school, assignment_id=given)
    client.post(f"/assignments/{school.assignment_id}/sheets")
    again = client.get(f"{assign_url(school)}?from={school.assignment_id}").text
    assert re.search(r'value="own-tubes"[^>]* checked', again)
    layout, _ = school.printed(school.sheets()[0])
    straight = {cell.id for cell in layout.cells if cell.id.startswith("straight-")}
    assert straight
    photo = school.reviewable(hand=CAREFUL)
    with sessions() as session:
        read = session.scalar(
            text("SELECT body FROM reading WHERE photograph_id = :p"), {"p": photo}
        )
        body = session.scalar(
            text(
                "SELECT j.body FROM judgement j JOIN reading r ON r.id = j.reading_id "
                "WHERE r.photograph_id = :p"
            ),
            {"p": photo},
        )
    assert straight <= {cell["id"] for cell in read["cells"]}
    assert not straight & {cell["id"] for cell in body["cells"]}
    assert client.get(f"/review/{photo}").status_code == 200
    assert client.get(f"/assignments/{school.assignment_id}/key").status_code == 200
    assert client.get(f"/exercises/{school.assignment_id}/patterns").status_code == 200
