"""Facts as JSON: findings, reasons, moves and advice, each without what is as usual."""

from collections.abc import Mapping
from dataclasses import MISSING, Field, fields
from typing import Any, TypeVar

import msgspec

from noema.core.coaching.advice import Advice
from noema.core.coaching.moves import Move
from noema.core.judging.judgement import Finding, Off, Reason

Json = dict[str, object]
Facts = TypeVar("Facts", Finding, Reason, Move, Advice)

_DIGITS = 5


def facts_to_json(facts: Finding | Reason | Move | Advice | Off) -> Json:
    """Give facts as plain values."""
    return {
        one.name: _plain(value)
        for one in fields(facts)
        if (value := getattr(facts, one.name)) != _usual(one)
    }


def facts_from_json(of: type[Facts], values: object) -> Facts:
    """Read back what `facts_to_json` wrote."""
    return msgspec.convert(values, of)


def _usual(one: Field[Any]) -> object:
    return one.default if one.default_factory is MISSING else one.default_factory()


def _plain(value: object) -> object:
    if isinstance(value, Finding | Reason | Move | Advice | Off):
        return facts_to_json(value)
    if isinstance(value, float):
        return round(value, _DIGITS)
    if isinstance(value, tuple | list):
        return [_plain(one) for one in value]
    if isinstance(value, Mapping):
        return {name: _plain(one) for name, one in value.items()}
    return msgspec.to_builtins(value)
