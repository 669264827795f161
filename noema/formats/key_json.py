"""An exercise with its key as JSON, `noema-key/1`, out and in (docs/schemas/noema-key-1.json)."""

from dataclasses import dataclass
from typing import Any

import orjson

from noema.core.errors import BadFile
from noema.core.exercises.asked import Asked
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.language import gettext
from noema.core.pigments.shelf import PaintSet
from noema.formats.asked_json import asked_to_json, tolerance_to_json
from noema.formats.options_json import options_from_json
from noema.formats.set_json import set_of_body, set_to_body

FORMAT = "noema-key/1"
MOST_BYTES = 2 * 2**20


@dataclass(frozen=True, kw_only=True)
class KeyFile:
    """What a key file says an exercise is."""

    kind: str
    options: dict[str, Any]
    paints: PaintSet | None
    set_ref: str | None
    medium: Medium
    level: Level
    key: Key


def key_to_json(chosen: KeyFile, title: str, expected: Asked, tolerance: Any) -> bytes:
    """Give an exercise with the colours it is held against."""
    body = {
        "format": FORMAT,
        "title": title,
        "kind": chosen.kind,
        "options": chosen.options,
        "medium": chosen.medium.value,
        "level": chosen.level.value,
        "key": chosen.key.value,
        "tolerance": tolerance_to_json(tolerance),
        "set_ref": chosen.set_ref,
        "set": None if chosen.paints is None else set_to_body(chosen.paints),
        "conventions": {"lab": "CIELAB, D50 white, 2 degree observer", "hvc": "ASTM D1535"},
        "expected": asked_to_json(expected),
    }
    return orjson.dumps(body, option=orjson.OPT_INDENT_2)


def key_from_json(data: bytes) -> KeyFile:
    """Read the exercise back; what it expects is worked out anew from its paints."""
    if len(data) > MOST_BYTES:
        raise BadFile(gettext("The key is over 2 MB: that is no key file of Noema's."))
    try:
        body = orjson.loads(data)
        if body["format"] != FORMAT:
            raise BadFile(
                gettext("This isn't a key of format %(format)s: export it again.", format=FORMAT)
            )
        options_from_json(kind_of(str(body["kind"])), body["options"])
        return KeyFile(
            kind=str(body["kind"]),
            options=body["options"],
            paints=None if body["set"] is None else set_of_body(body["set"]),
            set_ref=None if body["set_ref"] is None else str(body["set_ref"])[:60],
            medium=Medium(body["medium"]),
            level=Level(body["level"]),
            key=Key(body["key"]),
        )
    except (orjson.JSONDecodeError, KeyError, TypeError, ValueError, AttributeError) as wrong:
        raise BadFile(
            gettext("This is no key file of Noema's: export one from an exercise's page.")
        ) from (wrong)
