"""Numbers a computation goes by, each with its unit, a sentence, and where it comes from."""

from collections.abc import Iterator
from dataclasses import dataclass, field, fields
from typing import TypeVar

T = TypeVar("T")

PHOTOGRAPHS = "chosen while building; tools/photographs.py measures what it does"
"""The source of what was set by hand on stand-in photographs."""


@dataclass(frozen=True, kw_only=True)
class Explained:
    """One number of a record of parameters, explained."""

    name: str
    value: object
    unit: str
    sentence: str
    source: str  # a standard, a paper, or the tool that fits or measures it


def parameter(value: T, sentence: str, *, unit: str = "", source: str = PHOTOGRAPHS) -> T:
    """Declare a field of a record of parameters; plain numbers and shares have no unit."""
    return field(default=value, metadata={"sentence": sentence, "unit": unit, "source": source})


def explained(record: object) -> Iterator[Explained]:
    """Give every number of a record of parameters with what is said of it."""
    for one in fields(record):  # type: ignore[arg-type]
        yield Explained(
            name=one.name,
            value=getattr(record, one.name),
            unit=one.metadata["unit"],
            sentence=one.metadata["sentence"],
            source=one.metadata["source"],
        )
