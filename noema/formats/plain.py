"""Values of core as plain ones and back, where both have one shape: msgspec does the work.

Numbers are written with as many digits as their name is given; what was written is read back by the
types of the fields, and what they don't allow is refused with the place it stands at.
"""

from collections.abc import Mapping
from typing import Any, TypeVar, overload

import msgspec

from noema.core.errors import BadFile
from noema.core.language import gettext

Json = dict[str, object]
T = TypeVar("T")


def to_plain(value: object, digits: Mapping[str, int], name: str = "") -> object:
    """Give a value as plain ones; floats are rounded to the digits of the field they stand in."""
    return _rounded(as_builtins(value), digits, name)


@overload
def from_plain(of: type[T], given: object, what: str) -> T: ...
@overload
def from_plain(of: object, given: object, what: str) -> Any: ...
def from_plain(of: Any, given: object, what: str) -> Any:
    """Read a value of a type from plain ones, or refuse it; `what` is what people call it."""
    try:
        return msgspec.convert(given, of)
    except msgspec.ValidationError as wrong:
        raise BadFile(
            gettext(
                "The %(what)s is incomplete or has a wrong value: %(wrong)s.",
                what=gettext(what),
                wrong=wrong,
            )
        ) from wrong


def as_builtins(value: object) -> Any:
    """Give a value as plain ones, its numbers with all their digits."""
    return msgspec.to_builtins(value, enc_hook=plain_text)


def plain_text(value: object) -> str:
    """Give what a sentence says, without what it was made of, to those who write files."""
    if isinstance(value, str):
        return str(value)
    raise NotImplementedError(type(value))


def _rounded(value: object, digits: Mapping[str, int], name: str) -> object:
    if isinstance(value, float):
        return round(value, digits[name]) if name in digits else value
    if isinstance(value, dict):
        return {key: _rounded(one, digits, str(key)) for key, one in value.items()}
    if isinstance(value, list | tuple):
        return [_rounded(one, digits, name) for one in value]
    return value
