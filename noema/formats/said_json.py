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
        text: dict(source)
        for text, source in found.items()
        if source is not None and (source.get("values") or source.get("message") != text)
    }


def resaid(text: object, sources: Mapping[str, object]) -> str:
    """Say a kept text in the language of today's reader, as far as it is known how."""
    kept = str(text)
    source = cast(Source | None, sources.get(kept))
    if source is None:
        return Term(kept)
    return Term(str(source["message"])) if source.get("values") == {} else said_again(source)
