"""What a plan can't meet and the ways out of it, as facts and in words."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import Enum

from noema.core.exercises.catalogue import kind_of
from noema.core.language import N_, NN_, gettext, ngettext
from noema.core.planning.frame import SchoolFrame


class Lack(Enum):
    """Why a wish finds no place."""

    AFTER = "after"  # what it comes after finds none either
    ROW = "row"  # a row is longer than any lesson
    TIME = "time"  # there are too few minutes
    PIN = "pin"  # it has no place on the day it is pinned to
    PAINTS = "paints"  # what it is painted with isn't on the shelf any more


class Remedy(Enum):
    """What would give a wish its place."""

    UNPIN = "unpin"
    FEWER = "fewer"  # of what is counted, such as steps
    WITHOUT_PART = "without-part"  # such as a ring
    NO_REDO = "no-redo"
    LESSONS = "lessons"  # more of them
    LATER = "later"  # the plan ends
    LONGER = "longer"  # lessons
    WITHOUT = "without"  # another wish


@dataclass(frozen=True, kw_only=True)
class LackFact:
    """Why a wish finds no place, with what there is to say of it."""

    lack: Lack
    wish: str
    kind: str
    minutes: int = 0
    room: int = 0
    until: str = ""  # a day
    others: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """Say it."""
        label = gettext(kind_of(self.kind).label)
        values = {
            "label": label,
            "id": self.wish,
            "minutes": self.minutes,
            "room": self.room,
            "until": self.until,
            "others": ", ".join(self.others),
        }
        return gettext(_LACKS[self.lack], **values)


@dataclass(frozen=True, kw_only=True)
class RemedyFact:
    """A way out, with what there is to say of it."""

    remedy: Remedy
    label: str = ""  # of a choice or a kind, as its catalogue has it
    now: str = ""
    then: str = ""
    count: int = 1
    names: tuple[str, ...] = field(default=())  # parts left out, or days

    @property
    def words(self) -> str:
        """Say it."""
        values: Mapping[str, object] = {
            "label": gettext(self.label),
            "now": self.now,
            "then": self.then,
            "names": ", ".join(gettext(name) for name in self.names),
        }
        said = _REMEDIES[self.remedy]
        if isinstance(said, tuple):
            return ngettext(*said, self.count, **values)
        return gettext(said, **values)


@dataclass(frozen=True, kw_only=True)
class WayOut:
    """Something that would meet a wish."""

    fact: RemedyFact
    frame: SchoolFrame


@dataclass(frozen=True, kw_only=True)
class Unmet:
    """A wish without a place, and what would give it one."""

    class_id: str
    wish: str
    lack: LackFact
    ways: tuple[WayOut, ...]


_LACKS = {
    Lack.AFTER: N_("%(label)s (%(id)s) comes after %(others)s, which finds no place either."),
    Lack.ROW: N_(
        "%(label)s (%(id)s) has a row of %(minutes)s minutes, which can't be broken off; the "
        "longest lesson has %(room)s."
    ),
    Lack.TIME: N_("%(label)s (%(id)s) needs %(minutes)s minutes and doesn't fit before %(until)s."),
    Lack.PIN: N_("%(label)s (%(id)s) is pinned to a day on which it finds no place."),
    Lack.PAINTS: N_("%(label)s (%(id)s) can't be worked out any more: choose its paints again."),
}
_REMEDIES: Mapping[Remedy, str | tuple[str, str]] = {
    Remedy.UNPIN: N_("unpin it"),
    Remedy.FEWER: N_("%(label)s: %(then)s instead of %(now)s"),
    Remedy.WITHOUT_PART: N_("leave out %(names)s (%(label)s)"),
    Remedy.NO_REDO: N_("no time in class for painting it again"),
    Remedy.LESSONS: NN_("add a lesson on %(names)s", "add %(count)s lessons: %(names)s"),
    Remedy.LATER: NN_("end a week later", "end %(count)s weeks later"),
    Remedy.LONGER: N_("lessons of %(then)s minutes"),
    Remedy.WITHOUT: N_("leave out %(label)s (%(names)s)"),
}
