"""A printer is calibrated through the pages, and its sheets are read by what it lays."""

from dataclasses import replace
from io import BytesIO

import numpy as np
import pypdfium2
import pytest

from noema.assemble_pages import web_application_of
from noema.core.sheet.calibration_sheet import PRINTED
from noema.formats.measurements import Sample, samples_to_cgats
from noema.stand_ins.camera import photograph
from noema.stand_ins.card import lay_card, reference_card
from noema.stand_ins.printer import Press, print_page
from noema.stand_ins.shot import Shot
from noema.store.printers import printer_of_assignment, printer_of_school

CARD = reference_card()
VALUES = samples_to_cgats(
    [Sample(name=str(n), lab=lab) for n, lab in enumerate(CARD.labs, start=1)]
).encode()


@pytest.fixture
def client(app, school):
    return school.teacher(app)


def added(client) -> int:
    answer = client.post("/printers", data={"name": "Office, laser"})
    return int(answer.location.rsplit("/", 1)[1])


def with_card(client) -> None:
    data = {"name": "Our card", "columns": "6", "rows": "3", "values": (BytesIO(VALUES), "c.txt")}
    assert client.post("/printers/cards", data=data).status_code == 303


def photo_of_page(client, printer: int, card: bool = True) -> bytes:
    pdf = client.get(f"/printers/{printer}/page-a4.pdf").data
    assert len(pypdfium2.PdfDocument(pdf)) == 1
    page = print_page(pdf, 0, Press(dot_gain=0.15), 8.0)
    if card:
        lay_card(page, (100.0, 122.0), 8.0)
    return photograph(page, Shot(turn=8.0), (1800, 1350), np.random.default_rng(4))


def send(client, printer: int, photo: bytes):
    data = {"card": "1", "photos": (BytesIO(photo), "page.jpg")}
    page = client.get(f"/printers/{printer}").text
    data["card"] = page.split('<option value="', 1)[1].split('"', 1)[0] if "<option" in page else 0
    return client.post(f"/printers/{printer}/photographs", data=data)


def test_a_photograph_beside_a_card_calibrates(client, school):
    printer = added(client)
    with_card(client)
    assert "not calibrated yet" in client.get("/printers").text
    assert send(client, printer, photo_of_page(client, printer)).status_code == 303
    page = client.get(f"/printers/{printer}").text
    assert "photographed beside Our card" in page
    assert "blank paper" in page
    with school.sessions() as session:
        (look,) = printer_of_school(session, school.id, printer).looks
    assert len(look.labs) == len(PRINTED) + 1
    greys = [look.labs[one].lab[0] for one in PRINTED[:6]]
    assert greys == sorted(greys)
    client.post(f"/printers/{printer}/anew")
    assert "Nothing known yet" in client.get(f"/printers/{printer}").text


def test_without_the_card_in_the_picture_it_is_said(client):
    printer = added(client)
    with_card(client)
    answer = send(client, printer, photo_of_page(client, printer, card=False))
    assert answer.status_code == 422
    assert "lay it flat on or beside the page" in answer.text


def test_another_printers_page_isnt_taken(client):
    first, with_name = added(client), client.post("/printers", data={"name": "Copier"})
    with_card(client)
    second = int(with_name.location.rsplit("/", 1)[1])
    answer = send(client, second, photo_of_page(client, first))
    assert answer.status_code == 422
    assert "wasn&#39;t found" in answer.text


def test_a_printer_is_chosen_for_an_assignments_sheets(client, school):
    printer = added(client)
    where = f"/assignments/{school.assignment_id}"
    client.post(f"{where}/printer", data={"printer": str(printer)})
    with school.sessions() as session:
        assert printer_of_assignment(session, school.assignment_id).id == printer
    assert "selected>Office, laser" in client.get(f"{where}/sheets").text
    client.post(f"{where}/printer", data={"printer": ""})
    with school.sessions() as session:
        assert printer_of_assignment(session, school.assignment_id) is None


WRONG = {
    "a name twice": ("/printers", {"name": "Office, laser"}, "already"),
    "no name": ("/printers", {"name": "  "}, "a name"),
    "no values": ("/printers/cards", {"name": "x", "columns": "6", "rows": "3"}, "Choose a file"),
    "too few values": (
        "/printers/cards",
        {"name": "x", "columns": "6", "rows": "4", "values": "VALUES"},
        "holds 18",
    ),
}


@pytest.mark.parametrize("wrong", WRONG)
def test_what_cant_be_is_refused_in_a_sentence(client, wrong):
    added(client)
    address, data, sentence = WRONG[wrong]
    sent = {k: (BytesIO(VALUES), "c.txt") if v == "VALUES" else v for k, v in data.items()}
    answer = client.post(address, data=sent)
    assert answer.status_code == 422
    assert sentence in answer.text


@pytest.fixture
def with_meter(school, settings, sessions):
    """A teacher's browser in a room with the stand-in meter."""
    app = web_application_of(replace(settings, meter="stand-in"), sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    return school.teacher(app)


def test_a_meter_measures_square_by_square(with_meter, school):
    client = with_meter
    printer = added(client)
    url = f"/printers/{printer}/meter"
    assert "0 of 13" in client.get(url).text
    taken = ""
    for n in range(1, 13):
        answer = client.post(url, data={"taken": taken})
        assert f"{n} of 13" in answer.text
        taken = answer.text.split('name="taken" value="', 1)[1].split('"', 1)[0]
    before = client.post(url, data={"taken": " ".join(taken.split()[:-1]), "back": "1"})
    assert "11 of 13" in before.text
    assert client.post(url, data={"taken": taken}).status_code == 303
    with school.sessions() as session:
        (look,) = printer_of_school(session, school.id, printer).looks
    assert (look.source, len(look.labs)) == ("meter", len(PRINTED) + 1)
    assert "measured with a colour meter" in client.get(f"/printers/{printer}").text


@pytest.mark.parametrize("taken", ["nonsense", "1,2", "1,2,3 4,5", "nan,0,0", "50,0,0 " * 14])
def test_spoiled_readings_are_refused(client, taken):
    answer = client.post(f"/printers/{added(client)}/meter", data={"taken": taken})
    assert answer.status_code == 422
    assert "begin again" in answer.text


def test_without_a_meter_its_said(client):
    printer = added(client)
    assert "square by square" not in client.get(f"/printers/{printer}").text
    answer = client.post(f"/printers/{printer}/meter", data={"taken": ""})
    assert answer.status_code == 422
    assert "No meter is connected" in answer.text
