"""Rosters as teachers have them."""

import pytest

from noema.core.errors import BadRoster
from noema.formats.roster import LONGEST_NAME, MOST_NAMES, RosterOrder, read_roster, roster_text

TEXT = "Zoë Ñuñez\nJosé Ünal\n"


@pytest.mark.parametrize(
    "data",
    [
        TEXT.encode("utf-8"),
        TEXT.encode("utf-8-sig"),
        TEXT.encode("utf-16"),
        TEXT.encode("utf-16-le"),
        TEXT.encode("utf-16-be"),
        TEXT.encode("latin-1"),
        TEXT.replace("\n", "\r\n").encode("cp1252"),
    ],
    ids=["utf-8", "bom", "utf-16", "utf-16-le", "utf-16-be", "latin-1", "windows"],
)
def test_every_encoding_gives_the_same_names(data):
    assert read_roster(roster_text(data)).names == ("Zoë Ñuñez", "José Ünal")


@pytest.mark.parametrize(
    "text",
    [
        "name\nAda Moss\nBo Fen",
        "Name;Year\nAda Moss;8\nBo Fen;8",
        "id,First name,Last name\n1,Ada,Moss\n2,Bo,Fen",
        "surname\tforename\nMoss\tAda\nFen\tBo",
        '"display_name","note"\n"Ada Moss","likes, commas"\n"Bo Fen",""',
    ],
)
def test_headers_are_understood(text):
    assert read_roster(text).names == ("Ada Moss", "Bo Fen")


def test_what_isnt_taken_is_named_by_line():
    text = "Ada Moss\n\nada  moss\nBo Fen\n" + "x" * (LONGEST_NAME + 1) + "\nCy\x07 Reed\n"
    roster = read_roster(text, already=["BO FEN"])
    assert roster.names == ("Ada Moss",)
    said = {remark.line: remark.words for remark in roster.remarks}
    assert "empty" in said[2]
    assert "twice" in said[3]
    assert "already" in said[4]
    assert "at most 60" in said[5]
    assert "type the name again" in said[6]


@pytest.mark.parametrize("data", [b"PK\x03\x04zip", b"%PDF-1.7", b"a\x00b" * 3])
def test_what_is_no_text_is_refused(data):
    with pytest.raises(BadRoster, match="CSV"):
        roster_text(data)


def test_too_many_names_are_refused():
    with pytest.raises(BadRoster, match=str(MOST_NAMES)):
        read_roster("\n".join(f"Student {n}" for n in range(MOST_NAMES + 1)))


def test_nothing_gives_nothing():
    assert read_roster("").names == ()
    assert read_roster("\n \n").names == ()


@pytest.mark.parametrize(
    ("text", "order"),
    [
        ("Abbott, Zoë, 9B\nÜnal, José, 9B", RosterOrder.SURNAME_FIRST),
        ("12;Abbott;Zoë\n13;Ünal;José\n", RosterOrder.SURNAME_FIRST),
        ("Abbott\tZoë\nÜnal\tJosé", RosterOrder.SURNAME_FIRST),
        ("Zoë Abbott, 9B\n\nJosé Ünal, 9C", RosterOrder.WHOLE),
        ('"Zoë Abbott", 2011\n"José Ünal", 2012', RosterOrder.WHOLE),
        ("Zoë Abbott\nJosé Ünal", None),
    ],
)
def test_columns_without_a_header_are_understood_and_said(text, order):
    roster = read_roster(text)
    assert (roster.names, roster.order) == (("Zoë Abbott", "José Ünal"), order)


def test_another_order_is_read_where_it_is_asked_for():
    text = "Zoë, Abbott\nJosé, Ünal"
    assert read_roster(text).names == ("Abbott Zoë", "Ünal José")
    read = read_roster(text, order=RosterOrder.FIRST_NAME_FIRST)
    assert read.names == ("Zoë Abbott", "José Ünal")


def test_a_comma_in_one_name_alone_makes_no_columns():
    assert read_roster("Zoë Abbott\nÜnal, José").names == ("Zoë Abbott", "Ünal, José")
