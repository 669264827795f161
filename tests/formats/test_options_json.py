"""What was chosen of a kind comes back from JSON, and fits the schema made of its class."""

import json
from copy import deepcopy

import jsonschema
import pytest

from noema.core.errors import BadFile
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.levels import Level
from noema.core.exercises.options import Asks, options_of
from noema.formats.options_json import options_from_json, options_schema, options_to_json
from tools.make_schemas import KEY_SCHEMA, with_options

CHOSEN = [
    ("value-scale", {"steps": 7, "hue": "ultramarine"}),
    ("colour-wheel", {"hues": 24, "rings": ("tint-in",), "anticlockwise": True}),
    ("tint-ladder", {"tubes": ("rose", "scarlet")}),
    ("colour-match", {"targets": ((50.0, 1.0, 2.0),), "level": Level.ADVANCED}),
    ("intensity-chart", {"pairs": ("red-green",), "sides": True}),
]


@pytest.mark.parametrize(("name", "values"), CHOSEN)
def test_choices_come_back(name, values):
    kind = kind_of(name)
    chosen = kind.chosen(values)
    kept = json.loads(json.dumps(options_to_json(chosen)))
    assert set(kept) == set(values)
    assert options_from_json(kind, kept) == chosen
    jsonschema.validate(kept, options_schema(kind))


@pytest.mark.parametrize("name", KINDS)
def test_what_is_usual_is_left_out_and_allowed(name):
    kind = kind_of(name)
    usual = kind.chosen({})
    assert options_to_json(usual) == {}
    assert options_from_json(kind, {}) == usual
    schema = options_schema(kind)
    jsonschema.Draft202012Validator.check_schema(schema)
    spoken = {o.name: o.usual for o in options_of(kind.options) if o.asks is not Asks.LEVEL}
    jsonschema.validate(json.loads(json.dumps(spoken)), schema)


@pytest.mark.parametrize(
    ("values", "said"),
    [({"wings": 2}, "no choice “wings”"), ({"steps": "many"}, "can't be read")],
)
def test_other_choices_are_refused(values, said):
    with pytest.raises(BadFile, match=said):
        options_from_json(kind_of("value-scale"), values)


def test_the_schema_refuses_a_number_that_is_none_of_the_choices():
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate({"steps": 40}, options_schema(kind_of("value-scale")))


def test_the_public_schema_of_keys_says_what_each_kind_takes():
    written = json.loads(KEY_SCHEMA.read_text(encoding="utf-8"))
    made = json.loads(json.dumps(with_options(deepcopy(written))))
    assert written == made, "run python -m tools.make_schemas"
    key = {"kind": "value-scale", "options": {"steps": 40}}
    with pytest.raises(jsonschema.ValidationError, match="40"):
        jsonschema.validate(key, {"allOf": written["allOf"]})
    jsonschema.validate({**key, "options": {"steps": 7}}, {"allOf": written["allOf"]})
