"""Long lists, a leaf at a time: what comes after one thing, no more than so many, by some words."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Generic, Protocol, TypeVar

from sqlalchemy import ColumnElement, and_, or_, true
from sqlalchemy.orm import InstrumentedAttribute


class Numbered(Protocol):
    """Something a list shows."""

    @property
    def id(self) -> int:
        """Its number."""
        ...


Shown = TypeVar("Shown", bound=Numbered)


@dataclass(frozen=True, kw_only=True)
class LeafWanted:
    """Which leaf of a list."""

    words: str = ""  # all of them are in what is shown; none: everything is
    after: int | None = None  # the thing it begins after; none: the first leaf
    most: int = 24


@dataclass(frozen=True, kw_only=True)
class Leaf(Generic[Shown]):
    """One leaf of a list."""

    shown: tuple[Shown, ...]
    goes_on: bool  # there is another after it

    @property
    def last(self) -> int | None:
        """The thing after which the next leaf begins, where there is one."""
        return self.shown[-1].id if self.goes_on else None


def leaf_of(rows: Sequence[Shown], wanted: LeafWanted) -> Leaf[Shown]:
    """Give a leaf, from one thing more than it shows."""
    return Leaf(shown=tuple(rows[: wanted.most]), goes_on=len(rows) > wanted.most)


def has_words(
    words: str, *columns: ColumnElement[str] | InstrumentedAttribute[str]
) -> ColumnElement[bool]:
    """Things with each of some words in one of their columns, whatever their capitals."""
    likes = (f"%{_literally(word)}%" for word in words.split())
    return and_(true(), *(or_(*(column.ilike(like) for column in columns)) for like in likes))


def has_any_word(
    words: str, column: ColumnElement[str] | InstrumentedAttribute[str]
) -> ColumnElement[bool]:
    """Things with at least one of some words in a column."""
    return or_(*(column.ilike(f"%{_literally(word)}%") for word in words.split()))


def _literally(word: str) -> str:
    return word.replace("\\", "\\\\").replace("%", r"\%").replace("_", r"\_")
