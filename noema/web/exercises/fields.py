"""Form fields as values, so that one small template draws them all."""

from collections.abc import Iterable
from dataclasses import dataclass

from noema.core.language import gettext


@dataclass(frozen=True, kw_only=True)
class Choice:
    """One thing that can be chosen."""

    value: str
    label: str
    chosen: bool


@dataclass(frozen=True, kw_only=True)
class Select:
    """One of several."""

    name: str
    label: str
    choices: tuple[Choice, ...]
    hint: str = ""  # what the choice means


@dataclass(frozen=True, kw_only=True)
class Ticks:
    """Any of several."""

    name: str
    label: str
    choices: tuple[Choice, ...]


@dataclass(frozen=True, kw_only=True)
class Typed:
    """Something written."""

    name: str
    label: str
    value: str
    hint: str = ""  # shown where nothing is written
    lines: int = 1
    takes_file: bool = False  # its text may come from a file


def select(
    name: str, label: str, options: Iterable[tuple[str, str]], chosen: str, hint: str = ""
) -> Select:
    """Make a select of (value, label) pairs."""
    choices = _choices(options, {chosen})
    return Select(name=name, label=gettext(label), choices=choices, hint=gettext(hint))


def ticks(
    name: str, label: str, options: Iterable[tuple[str, str]], chosen: Iterable[str]
) -> Ticks:
    """Make a row of ticks of (value, label) pairs."""
    return Ticks(name=name, label=gettext(label), choices=_choices(options, set(chosen)))


def _choices(options: Iterable[tuple[str, str]], chosen: set[str]) -> tuple[Choice, ...]:
    return tuple(
        Choice(value=value, label=gettext(label), chosen=value in chosen)
        for value, label in options
    )
