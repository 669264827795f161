"""An outline placed by hand reads a photograph through the pages; a card lies beside a batch."""

from io import BytesIO
from time import sleep

import pytest
from numpy.random import default_rng

from noema.actions.read_photograph import read_photograph
from noema.core.photo.by_hand import outline_of
from noema.core.photo.marks import find_marks
from noema.core.photo.straighten import place_page
from noema.formats.layout_json import layout_from_json
from noema.formats.measurements import Sample, samples_to_cgats
from noema.formats.photo_file import open_photo
from noema.stand_ins.camera import photograph
from noema.stand_ins.card import lay_card, reference_card
from noema.stand_ins.mishap import Mishap
from noema.stand_ins.printer import Press, print_page
from noema.stand_ins.shot import Shot
from noema.store.decisions import record_of
from noema.store.judgements import reading_behind
from noema.store.photographs import photos_of_batch
from noema.store.sheets import layouts_of_sheets
from tests.trade import School

CARD = reference_card()


@pytest.fixture
def client(app, school):
    return school.teacher(app)


def said(points) -> str:
    return " ".join(f"{x:.4f},{y:.4f}" for x, y in points)


def outline_over(school: School, jpeg: bytes) -> dict[str, str]:
    """What the page would send for a photograph whose marks show where the cells are."""
    with school.sessions() as session:
        sheet = school.sheets()[0]
        layout = layout_from_json(layouts_of_sheets(session, [sheet.id])[sheet.id])
    rgb = open_photo(jpeg).rgb
    size = (rgb.shape[1], rgb.shape[0])
    outline = outline_of(place_page(find_marks(rgb), layout.markers), layout, size)
    return {"corners": said(outline.corners), "sides": said(outline.sides)}


def reads_what_waits(school: School, photo: int) -> None:
    """The worker takes up the photograph."""
    with school.sessions.begin() as session:
        read_photograph(session, school.files, photo)


def readings(school: School, photo: int) -> list[tuple[str, dict]]:
    with school.sessions() as session:
        rows = session.connection().exec_driver_sql(
            f"SELECT basis, body FROM reading WHERE photograph_id = {photo} ORDER BY id"
        )
        return [(row.basis, row.body) for row in rows]


def test_a_photograph_nobody_could_match_is_placed_by_hand(client, school):
    jpeg = school.photo_of(school.sheets()[0], mishap=Mishap(hide_code=True))
    photo = school.hands_in(jpeg).photo.id
    asked = client.get(f"/photographs/{photo}/outline", follow_redirects=True)
    assert "Whose sheet is this?" in asked.text
    sheet = school.sheets()[0].id
    page = client.get(f"/photographs/{photo}/outline?sheet={sheet}").text
    assert page.count('class="laid"') == 5
    form = outline_over(school, jpeg) | {"sheet": sheet}
    placed = client.post(f"/photographs/{photo}/outline", data=form)
    assert placed.status_code == 303
    assert "Being read as you placed it" in client.get(placed.location).text
    assert client.get(placed.location, headers={"HX-Request": "true"}).status_code == 204
    reads_what_waits(school, photo)
    done = client.get(placed.location, headers={"HX-Request": "true"})
    assert done.headers["HX-Redirect"] == f"/review/{photo}"
    desk = client.get(f"/review/{photo}").text
    assert "The outline was placed by hand." in desk
    assert "Whose sheet is this?" not in client.get(f"/photographs/{photo}/outline").text


def test_a_sheet_read_wrongly_is_put_right_and_both_readings_stay(client, school):
    jpeg = school.photo_of(school.sheets()[0])
    photo = school.hands_in(jpeg).photo.id
    client.post(f"/review/{photo}/decide", data={"verb": "leave-out", "cell": "c2", "seen": 0})
    form = outline_over(school, jpeg) | {"nudges": "c1:2.0,0.5"}
    for _ in range(2):
        assert client.post(f"/photographs/{photo}/outline", data=form).status_code == 303
        reads_what_waits(school, photo)
    (plain, before), (by_hand, after) = readings(school, photo)
    assert plain == "" != by_hand
    assert (before["knowledge"], after["knowledge"][0]) == (["grey-print"], "by-hand")
    with school.sessions() as session:
        assert len(record_of(session, photo)) == 1
    assert "left out of the count" in client.get(f"/review/{photo}?cell=c2").text
    assert "c1:2.0,0.5" in client.get(f"/photographs/{photo}/outline").text


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ({"corners": "0.1,0.1 0.9,0.9 0.9,0.1 0.1,0.9"}, "cross"),
        ({"corners": "a b c d"}, "Write the corners as pairs"),
        ({"corners": "0.1 0.2 0.3 0.4"}, "place it once more"),
        ({"corners": "0.1,0.1 0.9,0.1 0.9,0.9 0.1,0.9", "nudges": "zz"}, "Write moved cells"),
        ({"corners": "0.1,0.1 0.9,0.1 0.9,0.9 0.1,0.9", "nudges": "zz:1,1"}, "another sheet"),
        ({"corners": "0.1,0.1 0.9,0.1 0.9,0.9 0.1,0.9", "nudges": "c1:nan,1"}, "drag it back"),
        ({"corners": "0.1,0.1 0.9,0.1 0.9,0.9 0.1,0.9", "nudges": "c1:-150,0"}, "off the page"),
    ],
)
def test_what_cant_be_read_so_is_refused_and_nothing_is_lost(client, school, form, words):
    photo = school.reviewable()
    answer = client.post(f"/photographs/{photo}/outline", data=form)
    assert answer.status_code == 422
    assert words in answer.text
    assert form["corners"] in answer.text
    assert len(readings(school, photo)) == 1
    assert client.get(f"/review/{photo}").status_code == 200


def test_an_outline_that_shows_no_paper_comes_back_with_what_to_do(client, school):
    photo = school.reviewable()
    form = {"corners": "0.0,0.0 0.1,0.0 0.1,0.1 0.0,0.1"}
    placed = client.post(f"/photographs/{photo}/outline", data=form)
    reads_what_waits(school, photo)
    back = client.get(placed.location, follow_redirects=True).text
    assert "click bare paper" in back
    assert "0.1000,0.0000" in back
    assert len(readings(school, photo)) == 1
    assert client.get(f"/review/{photo}").status_code == 200


def test_a_sheet_of_another_school_cant_be_named(client, school, other_school):
    jpeg = school.photo_of(school.sheets()[0], mishap=Mishap(hide_code=True))
    photo = school.hands_in(jpeg).photo.id
    theirs = other_school.sheets()[0].id
    assert client.get(f"/photographs/{photo}/outline?sheet={theirs}").status_code == 404


def test_a_card_beside_a_pile_is_used(client, school):
    values = [Sample(name=str(n), lab=lab) for n, lab in enumerate(CARD.labs, start=1)]
    card = {"name": "Ours", "columns": "6", "rows": "3"}
    sent = card | {"values": (BytesIO(samples_to_cgats(values).encode()), "c.txt")}
    client.post("/printers/cards", data=sent)
    page = client.get("/photograph").text
    chosen = page.split('<select name="card">', 1)[1].split('<option value="', 2)[2].split('"')[0]
    _, pdf = school.printed(school.sheets()[0])
    paper = print_page(pdf, 0, Press(), 8.0)
    lay_card(paper, (50.0, 153.0), 8.0)  # over the lines for notes
    jpeg = photograph(paper, Shot(fill=0.9), (1800, 1350), default_rng(4))
    batch = client.post("/batches", data={"card": chosen}).json["batch"]
    kept = client.post(f"/batches/{batch}/photos", data={"photo": (BytesIO(jpeg), "a.jpg")})
    assert kept.json["state"] == "kept"
    with school.sessions.begin() as session:
        photo = photos_of_batch(session, batch)[0].id
        read_photograph(session, school.files, photo)
        knowledge = tuple(reading_behind(session, photo)["knowledge"])
    assert "card" in knowledge
    assert client.post("/batches", data={"card": "999999"}).status_code == 404


def test_a_look_while_aiming_isnt_kept(client, school):
    jpeg = school.photo_of(school.sheets()[0])
    begun = client.post("/photograph/look", data={"look": (BytesIO(jpeg), "look.jpg")})
    seen = begun
    while seen.status_code == 202:
        sleep(0.05)
        seen = client.get(begun.json["answer"])
    assert seen.json["ready"] is True
    assert len(seen.json["corners"]) == 4
    noise = client.post("/photograph/look", data={"look": (BytesIO(b"GIF89a"), "look.jpg")})
    assert noise.status_code == 422
    assert "Nothing handed in yet" in client.get("/photograph").text
