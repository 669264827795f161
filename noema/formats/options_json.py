"""What was chosen of a kind of exercise as JSON, and its schema, from the kind's own class."""

from collections.abc import Mapping
from typing import Any, cast

import msgspec

from noema.core.errors import BadFile
from noema.core.exercises.catalogue import AnyKind
from noema.core.exercises.options import Asks, Options, given, options_of
from noema.core.language import gettext
from noema.formats.plain import as_builtins

Json = dict[str, object]


def options_to_json(chosen: Options) -> Json:
    """Give what was chosen, without what was left as usual."""
    return cast(Json, as_builtins(given(chosen)))


def options_from_json(kind: AnyKind, values: Mapping[str, Any]) -> Options:
    """Read back what `options_to_json` wrote; refuses what this kind doesn't have."""
    known = {one.name for one in options_of(kind.options)}
    if odd := set(values) - known:
        raise BadFile(
            gettext(
                "A %(label)s has no choice “%(min)s”: leave it out.",
                label=kind.label.lower(),
                min=min(odd),
            )
        )
    try:
        return cast(Options, msgspec.convert(dict(values), kind.options))
    except msgspec.ValidationError as wrong:
        raise BadFile(
            gettext(
                "The choices of a %(label)s can't be read: %(wrong)s.",
                label=kind.label.lower(),
                wrong=wrong,
            )
        ) from wrong


def options_schema(kind: AnyKind) -> Json:
    """Give the JSON Schema (2020-12) of what may be chosen of a kind."""
    properties: dict[str, Any] = {}
    made = msgspec.json.schema(kind.options)["$defs"]
    of_class = made.pop(kind.options.__name__)["properties"]
    for one in options_of(kind.options):
        can = [value for value, _ in one.choices]
        schema = {"title": one.label, "description": one.help, **of_class[one.name]}
        if one.asks is Asks.NUMBER:
            schema["enum"] = [int(value) for value in can]
        elif one.asks is Asks.WORD:
            schema["enum"] = can
        elif one.asks is Asks.WORDS:
            schema["items"] = {"enum": can}
        properties[one.name] = schema
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"What may be chosen: {kind.label.lower()}",
        "type": "object",
        "additionalProperties": False,
        "properties": properties,
        **({"$defs": made} if made else {}),
    }
