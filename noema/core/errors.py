"""Everything that can be refused, on one page.

A refusal is one sentence: what was given, what is wrong with it, what to do next. Outer layers
turn it into an exit status or a page once; daily outcomes (a blurred photograph) are returned as
values instead.
"""


class Refused(Exception):
    """Something given to Noema can't be used; the message is one sentence for the person."""


class BadHueTable(Refused):
    """A table of hue names doesn't go once round the wheel."""


class BadPaint(Refused):
    """A tube, a set of paints or a mix isn't one that can be made."""


class BadExercise(Refused):
    """An exercise was asked for that nobody could paint."""


class BadFrame(Refused):
    """The days, lessons or wishes of a plan can't be planned with."""


class BadSheet(Refused):
    """A sheet code, paper or layout isn't one of ours."""


class BadOutline(Refused):
    """An outline placed by hand can't be that of a sheet."""


class BadFile(Refused):
    """A file isn't what it should be."""


class BadPicture(BadFile):
    """A file isn't a photograph that can be opened."""


class BadRoster(Refused):
    """A list of names can't be taken as it is."""


class NotAllowed(Refused):
    """The person may not do this."""


class TooManyTries(Refused):
    """Somebody tries too often in a short time."""


class NotFound(Refused):
    """Nothing of that name is here for this person."""


class OutOfDate(Refused):
    """Somebody else changed it in the meantime."""


class MeterAway(Refused):
    """The colour meter gives no reading."""


class StoreFull(Refused):
    """The file store can't take more."""


class StoreAway(Refused):
    """The file store gives nothing just now."""
