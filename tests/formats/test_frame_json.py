"""Frames and plans as files: there and back, refused in a sentence, changes as merge patches."""

import json
from dataclasses import replace
from datetime import timedelta

import pytest
from click.testing import CliRunner

from noema.cli.amounts import command as amounts_command
from noema.cli.plan import command as plan_command
from noema.core.errors import Refused
from noema.formats.frame_json import change_of, changed, frame_from_json, frame_to_json

FRAME = {
    "format": "noema-frame/1",
    "timezone": "Europe/Berlin",
    "from": "2027-01-11",
    "to": "2027-03-26",
    "holidays": [["2027-02-08", "2027-02-12"]],
    "room": {"rack": 50},
    "classes": [
        {
            "id": "8a",
            "people": 24,
            "lessons": [{"day": "tue", "start": "09:40", "minutes": 50}],
            "unit": [
                {
                    "id": "scale",
                    "kind": "value-scale",
                    "options": {"steps": 9},
                    "set": "split-six+black",
                    "medium": "acrylic",
                    "after": [],
                    "redo": True,
                    "pinned": None,
                },
            ],
        }
    ],
}


def said(body):
    return json.dumps(body).encode()


def with_wish(**rest):
    body = json.loads(said(FRAME))
    body["classes"][0]["unit"].append({"id": "more", "kind": "tint-ladder", **rest})
    return body


def test_a_frame_goes_there_and_back():
    frame = frame_from_json(said(with_wish(after=["scale"], pinned="2027-02-02")))
    assert frame_from_json(said(frame_to_json(frame))) == frame
    assert frame.classes[0].unit[1].after == ("scale",)


def test_a_change_is_a_merge_patch_of_the_frame():
    frame = frame_from_json(said(FRAME))
    later = replace(frame, ends=frame.ends + timedelta(weeks=1))
    change = change_of(frame, later)
    assert change == {"to": "2027-04-02"}
    assert frame_from_json(said(changed(FRAME, change))) == later
    assert changed({"a": {"b": 1, "c": 2}, "d": 3}, {"a": {"b": None}, "d": None}) == {
        "a": {"c": 2}
    }


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({**FRAME, "format": "noema-frame/9"}, "noema-frame/1"),
        ({**FRAME, "timezone": "Mars/Base"}, "IANA"),
        ({**FRAME, "to": "2026-01-01"}, "later"),
        ({**FRAME, "to": "soon"}, "2027-01-31"),
        ({**FRAME, "more": 1}, "more"),
        (with_wish(after=["later"]), "in order"),
        (with_wish(id="scale"), "another way"),
        ({key: value for key, value in FRAME.items() if key != "classes"}, "classes"),
    ],
)
def test_what_isnt_a_frame_is_refused_in_a_sentence(body, words):
    with pytest.raises(Refused, match=words):
        frame_from_json(said(body))


def ran(tmp_path, body):
    path = tmp_path / "frame.json"
    path.write_bytes(said(body))
    done = CliRunner().invoke(plan_command, [str(path), "--json"], catch_exceptions=False)
    assert done.exit_code == 0
    return json.loads(done.output)


def test_the_command_plans_as_the_contract_says(tmp_path):
    plan = ran(tmp_path, FRAME)
    assert plan["format"] == "noema-plan/1"
    first = plan["lessons"][0]
    assert first["class"] == "8a"
    assert first["at"] == "2027-01-12T09:40:00+01:00"
    whats = [part["what"] for part in first["parts"]]
    assert whats == ["set-up", "show", "paint", "clean-up"]
    assert first["parts"][2]["cells"] == [f"c{n}" for n in range(1, 10)]
    assert plan["due"] == {"8a/scale": "2027-01-19"}
    assert plan["rack"][0]["sheets"] == 24
    assert plan["unmet"] == []


def test_every_change_offered_meets_its_wish(tmp_path):
    tight = {**with_wish(after=["scale"], redo=True), "to": "2027-02-01"}
    plan = ran(tmp_path, tight)
    assert [one["exercise"] for one in plan["unmet"]] == ["scale", "more"]
    for unmet in plan["unmet"]:
        assert len(unmet["ways"]) >= 2
        for way in unmet["ways"]:
            left = ran(tmp_path, changed(tight, way["change"]))["unmet"]
            assert unmet["exercise"] not in [one["exercise"] for one in left]


def test_the_command_says_how_much_paint():
    asked = ["value-scale", "--steps", "9", "--set", "split-six+black", "--people", "24", "--json"]
    done = CliRunner().invoke(amounts_command, asked, catch_exceptions=False)
    body = json.loads(done.output)
    assert set(body) == {"tubes", "per_person", "notes"}
    low, likely, high = body["tubes"]["titanium-white"]["ml"]
    assert low < likely < high
    assert body["per_person"]["titanium-white"]["squeezed"] == "2 hazelnuts"
