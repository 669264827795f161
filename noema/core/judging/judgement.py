"""What judging gives: a verdict a cell, findings and one sentence for the sheet."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import Enum
from math import inf

from noema.core.exercises.levels import Key, Level
from noema.core.judging.verdict import Verdict
from noema.core.sheet.layout import Triple

JUDGE_VERSION = "noema-judge/10"
"""Changes whenever the same reading would be judged otherwise."""


class FindingKind(Enum):
    """A pattern on a sheet, the one to mend first standing first."""

    WET = "wet"  # so much shine that the paint can't have been dry
    EMPTY = "empty"  # cells not painted
    SWAPPED = "swapped"  # two cells would fit in each other's place
    CONTAMINATED = "contaminated"  # a tube that should be as it comes has something in it
    WRONG_TUBE = "wrong-tube"  # a mix made with another tube than asked
    COLOURED = "coloured"  # a colour where grey was asked
    NOT_NEUTRAL = "not-neutral"  # a neutral or a dark that leans
    TWO_NEUTRALS = "two-neutrals"  # a neutral that differs by the side it was mixed from
    BUNCHED = "bunched"  # steps crowd at one end
    ORDER = "order"  # a step stands on the wrong side of its neighbour
    TOGETHER = "together"  # two neighbours can hardly be told apart
    JUMP = "jump"  # a step much larger than the others
    LEANS = "leans"  # a mix leans to one of its tubes
    DULL = "dull"  # less intense than these paints make it: something third got in
    WANDERS = "wanders"  # a row or ring whose hue turns more than the paint's own
    CAST = "cast"  # greys that lean
    SHORT_DARK = "short-dark"  # the dark end stops early
    SHORT_LIGHT = "short-light"  # the light end stops early
    VALUES = "values"  # lighter or darker than asked throughout, or where dark was the point
    THIN = "thin"  # bare paper or streaks inside the outline
    OVER_LINE = "over-line"  # paint over the outline


class Manner(Enum):
    """How a pattern shows, where its kind has several ways."""

    PATCHY = "patchy"  # thin: bare paper inside the outline
    STREAKY = "streaky"  # thin: half mixed, or uneven
    SEE_THROUGH = "see-through"  # thin: evenly, and the paper shows through
    REVERSED = "reversed"  # swapped: a whole row runs the other way round
    AT_THE_TOP = "at-the-top"  # values: another hue is lighter than the lightest should be
    ANOTHER = "another"  # wrong-tube: a cell that is there as it comes is another tube
    LOUDER = "louder"  # dull: a muted pair came out more intense than the clean one


@dataclass(frozen=True, kw_only=True)
class Finding:
    """One pattern, where it is and how marked: facts, which `core/words` says."""

    kind: FindingKind
    cells: tuple[str, ...]
    amount: float  # how marked: steps of a row, tolerances of a colour, a share for THIN
    tube: str = ""  # the paint it is about, by name
    own: str = ""  # the paint that belongs there, by name
    towards: str = ""  # the hue, the end of value, or the cell it goes to
    each: tuple[str, ...] = ()  # for the cells in turn: the tube or the hue each goes to
    against: tuple[str, ...] = ()  # cells they are compared with
    row: str = ""  # what their row is called
    among: int = 0  # cells they are counted among
    manner: Manner | None = None
    told: str = ""  # by an earlier judge, who kept words instead of facts


@dataclass(frozen=True, kw_only=True)
class Drift:
    """How far a cell lies from its step in one quantity."""

    amount: float  # painted less expected
    sigma: float  # one sigma of it, the same unit
    tolerance: float  # how far it may lie


class Why(Enum):
    """What a cell's verdict rests on."""

    HOLDS = "holds"
    STRAYS = "strays"
    SAID = "said"  # a teacher says it strays where the reading doesn't
    SEEMS = "seems"  # to stray, but the reading isn't sure enough
    EMPTY = "empty"  # nothing is painted there yet
    UNSEEN = "unseen"  # something lies over it, or it lies outside the photograph
    NOT_COUNTED = "not-counted"  # these paints can't give it
    IN_QUESTION = "in-question"  # the whole class has it so, and its teacher hasn't said why


@dataclass(frozen=True, kw_only=True)
class Off:
    """One quantity in which a cell strays."""

    quantity: str  # value, hue or chroma
    towards: str  # dark or light, dull or intense, or a hue's name
    tolerances: float  # how many of them it lies off
    steps: float | None = None  # of a scale; None where cells aren't steps of value
    another: bool = False  # of hue: so far off that it is another one


@dataclass(frozen=True, kw_only=True)
class Reason:
    """Why a cell has its verdict: facts, which `core/words` says."""

    why: Why
    off: tuple[Off, ...] = ()  # the gravest first
    flag: str = ""  # of the reading, where it can't be seen
    limit: str = ""  # what the exercise says these paints can't do there
    told: str = ""  # by an earlier judge, who kept words instead of facts


@dataclass(frozen=True, kw_only=True)
class CellJudgement:
    """One cell against its step."""

    id: str
    label: str  # what it is called where its row isn't in sight
    expected_value: float
    expected_lab: Triple
    painted_value: (
        float  # less what the other cells lead one to expect of it, like all that follows
    )
    painted_lab: Triple
    drift: float  # value, painted less expected: below 0 is too dark
    sigma: float  # one sigma of the drift, value
    steps: float  # the drift in steps of a scale; in values where steps aren't of value
    tolerance: float  # value
    hue: Drift | None  # steps of the hundred-step circle; None where it isn't asked or too grey
    chroma: Drift | None  # chroma steps; None where it isn't asked
    verdict: Verdict
    reason: Reason
    jump: Drift | None = None  # of the step to the next cell, in steps; None where there is none
    lean: Drift | None = None  # of a cell that is there to be neutral, in chroma
    measured: bool = True  # not where it is bare, blinded, or beyond the paints
    doubt: Triple = (2.0, 2.0, 2.0)  # one sigma of its L*, a* and b*, these drawn together
    beyond_hand: float = inf  # sigmas it strays, the unsteadiness of a careful hand counted in
    craft: float | None = None  # how well paint covers it, evenly and within its line, 0..1


def past_tolerance(cell: CellJudgement) -> float:
    """Say how far a cell strays in its worst quantity, in tolerances."""
    value = Drift(amount=cell.drift, sigma=cell.sigma, tolerance=cell.tolerance)
    drifts = (drift for drift in (value, cell.hue, cell.chroma) if drift is not None)
    return max(abs(drift.amount) / drift.tolerance for drift in drifts)


@dataclass(frozen=True, kw_only=True)
class Evenness:
    """The jumps between neighbours, in steps of the scale; 1 is what was asked."""

    largest: float
    largest_after: str  # id of the cell before it
    smallest: float
    smallest_after: str


@dataclass(frozen=True, kw_only=True)
class Judgement:
    """One reading judged under one key and level; cells in the exercise's order."""

    key: Key
    level: Level
    cells: tuple[CellJudgement, ...]
    exercise: str  # its kind
    stride: float  # value from one expected step to the next; 1 where steps aren't of value
    evenness: Evenness | None  # None where no two painted cells stand side by side
    findings: tuple[Finding, ...]  # the most useful first
    own_tubes: Mapping[str, str] = field(default_factory=dict)  # labels of a school's, by name
    judge: str = JUDGE_VERSION

    def count(self, verdict: Verdict) -> int:
        """How many cells have a verdict."""
        return sum(cell.verdict is verdict for cell in self.cells)
