"""A picture is added, pointed at, looked at, and paint is held against it."""

import json
import re
from datetime import UTC, datetime, timedelta
from io import BytesIO

import numpy as np
import pytest
from numpy.random import default_rng
from PIL import Image
from sqlalchemy import text

from noema.actions.erase_student import erase_student
from noema.actions.rank_tubes import rank_next
from noema.actions.set_retention import keep_for, remove_old
from noema.core.colour.difference import ciede2000
from noema.core.logbook.entry import EntryKind
from noema.core.pictures.spots import SpotPart
from noema.formats.picture_files import png_bytes
from noema.stand_ins.outbox import PretendOutbox
from noema.store.logbook import LogScope, all_entries
from noema.store.pictures import (
    ask_ranking,
    held_by_id,
    keep_ranking,
    latest_held,
    pictures_of_student,
    rankings_of,
    spots_of,
)
from tests.pictured import (
    RED_BOAT,
    as_taken,
    beside_a_strip,
    dab,
    owner_of,
    pictured,
    plain_picture,
    pointed,
    reads_all_held,
)


@pytest.fixture
def me(app, school):
    return school.student(app)


@pytest.fixture
def mine(school):
    """A student's picture with two spots and paint held against the first."""
    with school.sessions.begin() as session:
        return pictured(session, school, school.sheets()[0].student_id)


def pictures_of(school):
    with school.sessions() as session:
        return pictures_of_student(session, school.sheets()[0].student_id, [school.class_id])


def spots(school, picture_id):
    with school.sessions() as session:
        return spots_of(session, picture_id)


def entries_of(school):
    with school.sessions() as session:
        scope = LogScope(school_id=school.id, student_id=school.sheets()[0].student_id)
        return [one for one in all_entries(session, scope) if one.kind is EntryKind.SPOT]


def saved(rgb, form, **how):
    out = BytesIO()
    Image.fromarray(rgb).save(out, form, **how)
    return out.getvalue()


WIDE = np.tile(np.array([180, 90, 40], dtype=np.uint8), (450, 700, 1))


@pytest.mark.parametrize("form", ["JPEG", "PNG", "WEBP", "HEIF"])
def test_a_picture_comes_from_a_file_of_any_of_four_kinds(me, school, form):
    file = (BytesIO(saved(WIDE, form)), "my garden.jpg")
    assert me.post("/me/pictures", data={"photo": file}).status_code == 303
    (kept,) = pictures_of(school)
    assert (kept.title, kept.width_px, kept.height_px) == ("my garden", 700, 450)
    assert "my garden" in me.get("/me/pictures").text
    shown = me.get(f"/me/pictures/{kept.id}/as/colour")
    assert shown.mimetype == "image/jpeg"


def test_what_is_no_picture_is_refused_in_a_sentence_and_nothing_is_kept(me, school):
    for sent in (b"", b"hello", saved(WIDE, "PNG")[:400]):
        answer = me.post("/me/pictures", data={"photo": (BytesIO(sent), "a.png")})
        assert answer.status_code == 422
    assert me.post("/me/pictures", data={"scene": "moon"}).status_code == 422
    assert pictures_of(school) == ()


def test_with_a_strip_beside_it_light_and_camera_are_taken_off(me, school):
    """A painting that holds one colour, photographed in poor light with a strip under it."""
    photo, truth = beside_a_strip()
    me.post("/me/pictures", data={"photo": (BytesIO(photo), "painting.jpg")})
    (kept,) = pictures_of(school)
    assert kept.by_strip
    assert "taken off by the strip" in me.get(f"/me/pictures/{kept.id}").text
    me.post(f"/me/pictures/{kept.id}/spots", data={"x": "50", "y": "60"})
    seen = spots(school, kept.id)[0].lab
    plain = me.post("/me/pictures", data={"photo": (BytesIO(as_taken(photo)), "plain.jpg")})
    number = int(plain.location.rpartition("/")[2])
    assert not pictures_of(school)[0].by_strip
    me.post(f"/me/pictures/{number}/spots", data={"x": "50", "y": "30"})
    untouched = spots(school, number)[0].lab
    assert ciede2000(seen, truth) < 6.0
    assert ciede2000(seen, truth) < 0.6 * ciede2000(untouched, truth)


def test_place_and_time_are_taken_out_of_a_photograph(me, school):
    exif = Image.Exif()
    exif[0x8825] = {1: "N", 2: (51.0, 30.0, 0.0)}
    exif[0x0132] = "2026:10:01 12:00:00"
    photo = saved(WIDE, "JPEG", exif=exif)
    me.post("/me/pictures", data={"photo": (BytesIO(photo), "a.jpg")})
    kept = school.files.get(pictures_of(school)[0].sha256)
    assert b"2026:10:01" in photo
    assert b"2026:10:01" not in kept


def test_a_spot_says_what_is_there_and_stands_in_the_logbook(me, school):
    me.post("/me/pictures", data={"scene": "harbour"})
    picture = pictures_of(school)[0]
    x, y = RED_BOAT
    sent = {"x": str(100 * x), "y": str(100 * y), "name": "the red boat", "part": "light"}
    page = me.post(f"/me/pictures/{picture.id}/spots", data=sent, follow_redirects=True).text
    assert "the red boat, in the light" in page
    assert "red, leans to" in page
    assert "Start from" in page
    (spot,) = spots(school, picture.id)
    assert spot.part is SpotPart.LIGHT
    (entry,) = entries_of(school)
    assert "the red boat" in entry.title
    assert entry.parts
    assert ciede2000(entry.asked, spot.lab) < 0.1
    assert "the red boat" in me.get("/me/logbook").text


def test_a_spot_is_moved_and_taken_out_with_its_recipe(me, school, mine):
    home = f"/me/pictures/{mine['picture_id']}"
    before = spots(school, mine["picture_id"])[0]
    me.post(f"{home}/spots", data={"spot": str(before.id), "x": "80", "y": "20", "name": "sky"})
    after = spots(school, mine["picture_id"])[0]
    assert (after.id, after.name, after.x) == (before.id, "sky", 0.8)
    assert ciede2000(after.lab, before.lab) > 20.0
    assert len(entries_of(school)) == 2
    me.post(f"{home}/spots/{before.id}/remove")
    assert len(spots(school, mine["picture_id"])) == 1
    assert len(entries_of(school)) == 1
    for sent in ({}, {"x": "5"}, {"x": "150", "y": "5"}, {"x": "nan", "y": "5"}):
        assert me.post(f"{home}/spots", data=sent).status_code == 422


def test_light_and_shadow_of_one_thing_are_tied_by_its_name(me, school, mine):
    owner = owner_of(school, school.sheets()[0].student_id)
    with school.sessions.begin() as session:
        for part, place in ((SpotPart.LIGHT, (0.75, 0.68)), (SpotPart.SHADOW, (0.76, 0.745))):
            pointed(session, school, mine["picture_id"], owner, place, "green boat", part)
    page = me.get(f"/me/pictures/{mine['picture_id']}").text
    assert re.search(r"The shadow is \d\.\d values? darker", page) or "hardly apart" in page


@pytest.mark.parametrize("steps", [2, 3, 5, 9])
def test_values_are_shown_and_printed(me, mine, steps):
    home = f"/me/pictures/{mine['picture_id']}"
    page = me.get(f"{home}/values?steps={steps}").text
    assert page.count("value 0 to") == 1
    assert page.count(" to 10") >= 1
    image = Image.open(BytesIO(me.get(f"{home}/as/values-{steps}").data))
    assert len({tuple(px) for px in np.asarray(image).reshape(-1, 3)[::7].tolist()}) <= steps
    assert me.get(f"{home}/values.pdf?steps={steps}").data.startswith(b"%PDF")


def test_looks_of_a_picture_and_none_that_isnt(me, mine):
    home = f"/me/pictures/{mine['picture_id']}/as"
    for look in ("colour", "grey", "small"):
        Image.open(BytesIO(me.get(f"{home}/{look}").data)).verify()
    grey = np.asarray(Image.open(BytesIO(me.get(f"{home}/grey").data)))
    assert grey.ndim == 2
    assert me.get(f"{home}/upside-down").status_code == 404
    assert me.get(f"{home}/tubes").status_code == 422
    assert me.get(f"{home}/tubes?tubes=mauve").status_code == 422


def test_few_tubes_are_worked_out_by_the_worker_and_seen_as_they_come(me, school, mine):
    home = f"/me/pictures/{mine['picture_id']}/tubes"
    assert me.post(home).status_code == 303
    assert "0 of 3 worked out" in me.get(home).text
    for _ in range(3):
        with school.sessions.begin() as session:
            assert rank_next(session, school.files, mine["picture_id"])
    with school.sessions.begin() as session:
        assert not rank_next(session, school.files, mine["picture_id"])
    page = me.get(f"{home}?count=3").text
    assert "worked out" not in page
    with school.sessions() as session:
        two, three, four = rankings_of(session, mine["picture_id"])
    best = [rank.ranked[0]["share_within"] for rank in (two, three, four)]
    assert best == sorted(best)
    tubes = "&".join(f"tubes={name}" for name in two.ranked[0]["tubes"])
    image = me.get(f"/me/pictures/{mine['picture_id']}/as/tubes?{tubes}")
    assert Image.open(BytesIO(image.data)).size[0] <= 800


def test_what_was_asked_for_meanwhile_is_not_overwritten(school, mine):
    """A ranking of other tubes than are wanted now isn't kept."""
    with school.sessions.begin() as session:
        ask_ranking(session, mine["picture_id"], [2], {"set": {"name": "new"}})
        keep_ranking(session, mine["picture_id"], 2, {"set": {"name": "old"}}, [])
        assert rankings_of(session, mine["picture_id"])[0].ranked is None


def test_schemes_are_shown_and_carried_along(me, mine):
    home = f"/me/pictures/{mine['picture_id']}"
    page = me.get(f"{home}/schemes?kind=triad&shares=5:3:2&spot={mine['spot_id']}").text
    assert "50%" in page
    told = json.loads(me.get(f"{home}/scheme.json?kind=triad&shares=5:3:2").data)
    assert [one["share"] for one in told["colours"]] == [0.5, 0.3, 0.2]
    for form, first in (("csv", b"name,"), ("svg", b"<svg"), ("gpl", b"GIMP Palette")):
        assert me.get(f"{home}/scheme.{form}?kind=split").data.startswith(first)
    assert me.get(f"{home}/scheme.exe").status_code == 404
    assert me.get(f"{home}/schemes?shares=a").status_code == 422
    Image.open(BytesIO(me.get(f"{home}/as/scheme?kind=family&on=bird").data)).verify()


def test_spots_are_carried_along_in_every_form(me, mine):
    home = f"/me/pictures/{mine['picture_id']}"
    told = json.loads(me.get(f"{home}/spots.json").data)
    assert [one["place"] for one in told["colours"]] == [[0.3, 0.8], [0.3, 0.6]]
    for form, first in (("pdf", b"%PDF"), ("csv", b"name,"), ("svg", b"<svg"), ("gpl", b"GIMP")):
        assert me.get(f"{home}/spots.{form}").data.startswith(first)


def test_a_picture_without_spots_says_what_to_do_next(me, mine):
    home = f"/me/pictures/{mine['spare_picture_id']}"
    assert "Point at a place" in me.get(home).text
    assert "A scheme begins with a colour" in me.get(f"{home}/schemes").text
    assert "Point at a place under Spots first" in me.get(f"{home}/easel").text
    assert "Have the cupboard looked through" in me.get(f"{home}/tubes").text


def test_a_teacher_makes_exercises_from_a_picture(app, school):
    teacher, home = school.teacher(app), f"/classes/{school.class_id}/pictures"
    teacher.post(home, data={"scene": "harbour"})
    number = re.search(rf"{home}/(\d+)", teacher.get(home).text)[1]
    for x, y in ((30, 80), (30, 62), (80, 20), (76, 72)):
        teacher.post(f"{home}/{number}/spots", data={"x": str(x), "y": str(y)})
    page = teacher.get(f"{home}/{number}").text
    links = dict(
        (label, address.replace("&amp;", "&"))
        for address, label in re.findall(r'href="(/classes/\d+/assign\?[^"]+)">([^<]+)<', page)
    )
    assert set(links) == {"Colour match", "Degrees of neutral", "Progression"}
    for address in links.values():
        assert "isn't" not in teacher.get(address).text.partition('role="alert"')[2][:200]
    match = teacher.get(links["Colour match"]).text
    assert "Colour match, 4 colours" in match
    values = teacher.get(f"{home}/{number}/values?steps=3").text
    assert "Value scale" in values
    student = school.student(app)
    assert "assign?" not in student.get(f"/me/pictures/{number}").text


def test_a_class_s_picture_is_looked_at_and_taken_along_but_not_changed(app, school, me):
    teacher, home = school.teacher(app), f"/classes/{school.class_id}/pictures"
    teacher.post(home, data={"scene": "bird"})
    (theirs,) = pictures_of(school)
    own = f"/me/pictures/{theirs.id}"
    assert "Take this spot" not in me.get(own).text
    assert me.post(f"{own}/spots", data={"x": "5", "y": "5"}).status_code == 403
    assert me.post(f"{own}/remove").status_code == 403
    assert me.post(f"{own}/tubes").status_code == 403
    me.post("/me/pictures", data={"copy": str(theirs.id)})
    copied, _ = pictures_of(school)
    assert (copied.title, copied.sha256) == (theirs.title, theirs.sha256)
    assert "Take this spot" in me.get(f"/me/pictures/{copied.id}").text
    me.post(f"/me/pictures/{copied.id}/remove")
    assert me.get(f"{own}/as/colour").status_code == 200  # the class still has its file


def test_paint_in_a_strip_is_read_and_the_next_move_said(me, school, mine):
    spot = spots(school, mine["picture_id"])[0]
    jpeg, truth = dab((58.0, 12.0, 30.0))
    sent = {"spot": str(spot.id), "photo": (BytesIO(jpeg), "a.jpg")}
    home = me.post("/me/pictures/held", data=sent).location
    assert f"/me/pictures/{mine['picture_id']}/easel" in home
    assert "being read" in me.get(home).text
    with school.sessions() as session:
        held = latest_held(session, owner_of(school, school.sheets()[0].student_id), spot.id)
    reads_all_held(school, held.id)
    page = me.get(home).text
    assert "Your paint:" in page
    assert "too light" in page.lower()
    assert "Mix it afresh" in page or "Add" in page
    with school.sessions() as session:
        body = held_by_id(session, held.id).reading["body"]
    assert ciede2000(body["cells"][0]["lab"], truth) < 6.0


def test_paint_without_a_strip_is_outlined_by_hand_and_written_down(me, school):
    """A corner of a sketchbook: a painted field, bare paper round it."""
    photo = (BytesIO(plain_picture((48.0, 25.0, 30.0))), "corner.png")
    home = me.post("/me/pictures/held", data={"photo": photo}).location
    held_id = int(home.rpartition("/")[2])
    reads_all_held(school, held_id)
    page = me.get(home).text
    assert "No sheet was found" in page
    assert me.post(f"{home}/note", data={"title": "a brown"}).status_code == 422
    outline = {"corners": "0.2,0.2 0.8,0.2 0.8,0.8 0.2,0.8"}
    refused = me.post(f"{home}/outline", data={"corners": "0,0 1,1 0,1 1,0"})
    assert refused.status_code == 422
    assert "cross" in refused.text
    paper = "0.02,0.02 0.98,0.02 0.98,0.98 0.02,0.98 0.5,0.02 0.5,0.98"
    assert me.post(f"{home}/outline", data={**outline, "paper": paper}).status_code == 303
    reads_all_held(school, held_id)
    page = me.get(home).text
    assert "Your paint:" in page
    assert me.post(f"{home}/note", data={"title": "the brown gate"}).status_code == 303
    with school.sessions() as session:
        scope = LogScope(school_id=school.id, student_id=school.sheets()[0].student_id)
        (note,) = all_entries(session, scope)
    assert note.kind is EntryKind.NOTE
    assert ciede2000(note.lab, (48.0, 25.0, 30.0)) < 15.0


def nobody_else_s(me, school):
    """A picture whose files no other test's school has."""
    noise = default_rng(school.id).integers(0, 256, (400, 400, 3)).astype(np.uint8)
    me.post("/me/pictures", data={"photo": (BytesIO(png_bytes(noise)), "noise.png")})
    return pictures_of(school)[0]


def test_everything_of_a_picture_goes_when_it_is_removed(me, school, mine):
    picture = nobody_else_s(me, school)
    me.post(f"/me/pictures/{picture.id}/spots", data={"x": "5", "y": "5"})
    me.post(f"/me/pictures/{mine['picture_id']}/remove")
    assert me.post(f"/me/pictures/{picture.id}/remove").status_code == 303
    assert me.get(f"/me/pictures/{picture.id}").status_code == 404
    assert entries_of(school) == []
    with school.sessions() as session:
        leaving = set(session.scalars(text("SELECT sha256 FROM leaving_file")))
        assert held_by_id(session, mine["held_id"]).spot_id is None
    assert {picture.sha256, picture.shown_sha256, picture.small_sha256} <= leaving


def test_a_student_s_pictures_are_erased_with_them(me, school, mine, tmp_path):
    student_id = school.sheets()[0].student_id
    own = nobody_else_s(me, school)
    outbox, name = PretendOutbox(tmp_path), school.sheets()[0].student
    with school.sessions.begin() as session:
        erased = erase_student(session, outbox, school.id, student_id, typed_name=name)
    assert erased.traces == {}
    with school.sessions() as session:
        for table in ("picture", "picture_spot", "held_photograph"):
            left = f"SELECT count(*) FROM {table} WHERE id = :one"
            keys = {"picture": "picture_id", "picture_spot": "spot_id"}
            key = mine[keys.get(table, "held_id")]
            assert session.scalar(text(left), {"one": key}) == 0
        leaving = set(session.scalars(text("SELECT sha256 FROM leaving_file")))
    assert {own.sha256, own.shown_sha256, own.small_sha256} <= leaving


def test_old_pictures_go_after_the_school_s_period(school, mine):
    long_ago = datetime.now(UTC) + timedelta(days=400)
    with school.sessions.begin() as session:
        keep_for(session, school.id, 6)
        assert remove_old(session, school.id, long_ago) >= 2
    assert pictures_of(school) == ()
    with school.sessions() as session:
        assert held_by_id(session, mine["held_id"]).sha256 is None
