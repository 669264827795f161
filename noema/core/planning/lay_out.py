"""What is laid out before a lesson, from its media; usual practice of a painting room."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from enum import Enum
from math import ceil

from noema.core.exercises.media import Medium
from noema.core.language import gettext, ngettext
from noema.core.planning.amounts import Range, squeezed

USUAL_TABLE = 4  # people


class ThingState(Enum):
    """What somebody did with a thing on the list."""

    ADDED = "added"
    LEFT_OUT = "left out"
    DONE = "done"


@dataclass(frozen=True, kw_only=True)
class Thing:
    """One line of what is laid out."""

    name: str  # the same in every language; its own words where somebody added it
    words: str
    each_table: bool = False  # it lies on every table
    is_own: bool = False  # somebody added it
    is_done: bool = False


@dataclass(frozen=True, kw_only=True)
class Changed:
    """What somebody changed of a list."""

    added: tuple[str, ...] = ()
    left_out: frozenset[str] = frozenset()
    done: frozenset[str] = frozenset()


@dataclass(frozen=True, kw_only=True)
class Squeezed:
    """A tube and what a person needs of it, in ml."""

    tube: str
    label: str
    each: Range


@dataclass(frozen=True, kw_only=True)
class LayingOut:
    """What a list of things is made for."""

    media: Collection[Medium]
    people: int
    paint: Sequence[Squeezed] = ()
    a_table: int = USUAL_TABLE  # people
    changed: Changed = field(default_factory=Changed)

    @property
    def tables(self) -> int:
        """How many tables that is."""
        return ceil(self.people / self.a_table)


def things_to_lay_out(wanted: LayingOut) -> tuple[Thing, ...]:
    """Say what lies ready when a class comes in, in the order it is laid out.

    What was left out isn't in it; what was added comes last.
    """
    changed = wanted.changed
    found = [*_usual(wanted).items()] if wanted.media else []
    things = [Thing(name=name, words=words) for name, words in found if name not in _ON_TABLES]
    things += [
        Thing(name=name, words=words, each_table=True)
        for name, words in found
        if name in _ON_TABLES
    ]
    things += _on_each_table(wanted) if wanted.media else []
    things += [Thing(name=words, words=words, is_own=True) for words in changed.added]
    return tuple(
        Thing(
            name=one.name,
            words=one.words,
            each_table=one.each_table,
            is_own=one.is_own,
            is_done=one.name in changed.done,
        )
        for one in things
        if one.name not in changed.left_out
    )


_ON_TABLES = frozenset({"palettes", "water", "cleaner", "brushes", "sharpeners"})


def _usual(wanted: LayingOut) -> Mapping[str, str]:
    people, most = wanted.people, min(wanted.a_table, wanted.people)
    wet = [medium for medium in wanted.media if not medium.is_dry]
    things = {
        "sheets": ngettext(
            "%(count)s printed worksheet, one to spare",
            "%(count)s printed worksheets, one to spare",
            people + 1,
        ),
        "key": gettext("the key sheet on the wall"),
        "cards": gettext("the students’ cards"),
    }
    if wet:
        things["rack"] = ngettext(
            "%(count)s place free on the drying rack",
            "%(count)s places free on the drying rack",
            people,
        )
        things["palettes"] = ngettext(
            "%(count)s palette, neutral grey or clear over grey paper",
            "%(count)s palettes, neutral grey or clear over grey paper",
            most,
        )
        if Medium.OIL in wet:
            things["cleaner"] = gettext(
                "brush cleaner in closed jars, rags, the metal can with its lid"
            )
        else:
            things["water"] = gettext("two jars of water: one to rinse, one clean")
        things["brushes"] = ngettext(
            "%(count)s knife or flat brush, rags", "%(count)s knives or flat brushes, rags", most
        )
    if any(medium.is_dry for medium in wanted.media):
        things["sharpeners"] = gettext("sharpeners, and a damp cloth for dust")
    return things


def _on_each_table(wanted: LayingOut) -> list[Thing]:
    most = min(wanted.a_table, wanted.people)
    return [
        Thing(
            name=f"paint:{one.tube}",
            words=gettext(
                "%(label)s: %(amount)s", label=one.label, amount=squeezed(one.each.usual * most)
            ),
            each_table=True,
        )
        for one in wanted.paint
    ]
