"""What sentences of a kept thing were made of, so that each reader hears them in their language."""

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import cast

from noema.core.language import Source, Term, said_again, source_of
from noema.formats.plain import Json

NOTHING_KEPT: Mapping[str, object] = MappingProxyType({})
"""The sources of what was kept without."""


def sources_to_json(texts: Iterable[str]) -> Json:
    """Give what each text was made of, by the text; what says itself again needs no line."""
    found = {str(text): source_of(text) for text in texts}
    return {
        text: _to_json(source)
        for text, source in found.items()
        if source is not None and (source[1] or source[0] != text)
    }


def resaid(text: object, sources: Mapping[str, object]) -> str:
    """Say a kept text in the language of today's reader, as far as it is known how."""
    kept = str(text)
    if kept not in sources:
        return Term(kept)
    message, values = _from_json(sources[kept])
    return said_again((message, values)) if values else Term(message)


def _to_json(source: Source) -> list[object]:
    message, values = source
    return [
        message,
        {
            name: _to_json(cast(Source, value)) if isinstance(value, tuple) else value
            for name, value in values.items()
        },
    ]


def _from_json(kept: object) -> Source:
    message, values = cast(tuple[str, Mapping[str, object]], kept)
    return message, {
        name: _from_json(value) if isinstance(value, list) else value
        for name, value in values.items()
    }
