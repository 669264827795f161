"""Facts as JSON: findings, reasons, moves and advice, each without what is as usual."""

from collections.abc import Mapping
from dataclasses import MISSING, Field, fields, replace
from typing import Any, TypeVar

import msgspec

from noema.core.coaching.advice import Advice
from noema.core.coaching.moves import Move
from noema.core.judging.judgement import Finding, Off, Reason
from noema.formats.plain import as_builtins
from noema.formats.said_json import NOTHING_KEPT, resaid, sources_to_json

Json = dict[str, object]
Facts = TypeVar("Facts", Finding, Reason, Move, Advice)

_DIGITS = 5


def facts_to_json(facts: Finding | Reason | Move | Advice | Off) -> Json:
    """Give facts as plain values; what is said to somebody has the sources of its names beside."""
    plain = {
        one.name: _plain(value)
        for one in fields(facts)
        if (value := getattr(facts, one.name)) != _usual(one)
    }
    if isinstance(facts, Advice) and (sources := sources_to_json((*facts.cells, facts.mover))):
        plain["sources"] = sources
    return plain


def facts_from_json(
    of: type[Facts], values: object, sources: Mapping[str, object] = NOTHING_KEPT
) -> Facts:
    """Read back what `facts_to_json` wrote; names are said by what they were made of."""
    read = msgspec.convert(values, of)
    if isinstance(values, Mapping):
        sources = values.get("sources", sources)
    return replace(read, **_said_by_field(read, sources))


def _said_by_field(facts: Any, sources: Mapping[str, object]) -> dict[str, Any]:
    return {one.name: _said(getattr(facts, one.name), sources) for one in fields(facts)}


def _said(value: Any, sources: Mapping[str, object]) -> Any:
    if isinstance(value, Reason | Move | Off):
        return replace(value, **_said_by_field(value, sources))
    if isinstance(value, str):
        return resaid(value, sources)
    if isinstance(value, tuple):
        return tuple(_said(one, sources) for one in value)
    if isinstance(value, Mapping):
        return {name: _said(one, sources) for name, one in value.items()}
    return value


def _usual(one: Field[Any]) -> object:
    return one.default if one.default_factory is MISSING else one.default_factory()


def _plain(value: object) -> object:
    if isinstance(value, Finding | Reason | Move | Advice | Off):
        return facts_to_json(value)
    if isinstance(value, str):
        return str(value)
    if isinstance(value, float):
        return round(value, _DIGITS)
    if isinstance(value, tuple | list):
        return [_plain(one) for one in value]
    if isinstance(value, Mapping):
        return {name: _plain(one) for name, one in value.items()}
    return as_builtins(value)
