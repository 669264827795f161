"""What to say of a sheet: the single change that would help most, as facts.

What was found first decides; `core/words` makes one sentence of it, for an audience.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from scipy.stats import chi

from noema.core.coaching.moves import Move, who_moves
from noema.core.exercises.catalogue import has
from noema.core.exercises.kind import Trait
from noema.core.judging.judgement import (
    CellJudgement,
    Finding,
    FindingKind,
    Judgement,
    Manner,
    Reason,
    past_tolerance,
)
from noema.core.judging.verdict import Verdict

LONGEST = 400
"""Letters of a sentence."""

STRAYS, PRAISE, NEARLY = "strays", "praise", "praise-nearly"
"""What a sentence is about where nothing was found: single cells that stray, none, or no farther
than they do from a careful hand."""

_BY_CHANCE = 0.05  # chance that some cell of a sheet painted with care is spoken of

_GREETED = (
    FindingKind.CONTAMINATED,
    FindingKind.WRONG_TUBE,
    FindingKind.NOT_NEUTRAL,
    FindingKind.LEANS,
    FindingKind.DULL,
)
"""Findings about single cells, before which it is said how many hold."""

_AFTER_STRAYS = (FindingKind.JUMP, FindingKind.THIN, FindingKind.OVER_LINE)
"""Findings that wait until no cell surely strays."""


@dataclass(frozen=True, kw_only=True)
class Advice:
    """What one sentence says."""

    about: str = ""  # its phrase: a kind of finding, or another of the phrases there are
    greets: bool = False  # it says first how many hold
    held: int = 0
    read: int = 0  # cells that could be read
    cells: tuple[str, ...] = ()  # it is about, by the names people know
    tube: str = ""  # the paint it is about, by name
    own: str = ""  # the paint that belongs there, by name
    towards: str = ""  # the hue, or the end of value
    steps: float = 0.0
    reason: Reason | None = None  # why the cell strays
    mover: str = ""  # which cell the move is for, where it isn't plain
    move: Move | None = None
    own_tubes: Mapping[str, str] = field(default_factory=dict)  # labels by name
    told: str = ""  # by an earlier coach, who kept words instead of facts

    @property
    def praises(self) -> bool:
        """Whether it finds nothing to mend."""
        return self.about.startswith(PRAISE)


def advise(judgement: Judgement, moves: Mapping[str, Move]) -> Advice:
    """Choose what to say next; `moves` are the next moves by cell."""
    return replace(_chosen(judgement, moves), own_tubes=judgement.own_tubes)


def _chosen(judgement: Judgement, moves: Mapping[str, Move]) -> Advice:
    finding = _first(judgement)
    if finding is not None:
        return _about(finding, judgement, moves)
    away = _away(judgement)
    plain = [cell for cell in away if cell.beyond_hand > _speaks_from(judgement)]
    # Where most of a sheet strays it isn't well painted, however little each cell does.
    mostly = 2 * len(away) > sum(cell.measured for cell in judgement.cells)
    if plain or (away and mostly):
        worst = max(plain or away, key=past_tolerance)
        return Advice(
            about=STRAYS,
            greets=True,
            held=judgement.count(Verdict.HOLDS),
            read=_read(judgement),
            cells=(worst.label,),
            reason=worst.reason,
            move=moves.get(worst.id),
        )
    unsure = tuple(cell.label for cell in judgement.cells if cell.verdict is Verdict.LOOK)
    if len(unsure) > judgement.count(Verdict.HOLDS):
        return Advice(about="unsure")
    if away:
        return Advice(about=NEARLY)
    if unsure:
        return Advice(about="some-unsure", cells=unsure)
    return Advice(about="praise-row" if has(judgement.exercise, Trait.ONE_SCALE) else PRAISE)


def _speaks_from(judgement: Judgement) -> float:
    """Give the sigmas from which a cell is spoken of: of many cells, some stray far by chance."""
    cells = max(1, sum(cell.measured for cell in judgement.cells))
    return float(chi.isf(_BY_CHANCE / cells, 3))


def _first(judgement: Judgement) -> Finding | None:
    """Give the finding to speak of: what is only polish waits while cells stray."""
    straying = bool(_away(judgement))
    return next((f for f in judgement.findings if not (straying and _waits(f))), None)


def _waits(finding: Finding) -> bool:
    """Say whether it is only polish; paint one sees through explains what strays."""
    return finding.kind in _AFTER_STRAYS and finding.manner is not Manner.SEE_THROUGH


def first_finding(judgement: Judgement) -> str:
    """Name what a sentence would speak of first, for a phrase book.

    A kind of finding; "strays" where single cells stray, "praise" where nothing does.
    """
    finding = _first(judgement)
    if finding is not None:
        return finding.kind.value
    return STRAYS if _away(judgement) else PRAISE


def _phrase_of(finding: Finding, judgement: Judgement) -> str:
    """Name the phrase that speaks of a finding, where its kind has several."""
    kind = finding.kind
    dark = kind is FindingKind.VALUES and finding.towards == "dark"
    another = kind is FindingKind.WRONG_TUBE and finding.manner is Manner.ANOTHER
    # A start is praised only where most of what is painted may stand.
    begun = kind is FindingKind.EMPTY and len(_away(judgement)) >= judgement.count(Verdict.HOLDS)
    endings = {
        "-through": finding.manner is Manner.SEE_THROUGH,
        "-dark": dark,
        "-another": another,
        "-begun": begun,
    }
    ending = next((name for name, holds in endings.items() if holds), "")
    return f"{kind.value}{ending}"


def _away(judgement: Judgement) -> list[CellJudgement]:
    return [c for c in judgement.cells if c.verdict in (Verdict.DRIFTS, Verdict.OFF)]


def _read(judgement: Judgement) -> int:
    return len(judgement.cells) - judgement.count(Verdict.LOOK)


def _about(finding: Finding, judgement: Judgement, moves: Mapping[str, Move]) -> Advice:
    labels = {cell.id: cell.label for cell in judgement.cells}
    acting = finding.cells[:1]
    of_two = finding.kind in (FindingKind.TOGETHER, FindingKind.ORDER)
    if finding.kind is FindingKind.TOGETHER:
        acting = (who_moves(judgement, finding.cells),)
    elif finding.kind is FindingKind.ORDER:
        acting = tuple(cell for cell in finding.cells if cell in moves)[:1]
    mover = next((cell for cell in acting if cell in moves), None)
    return Advice(
        about=_phrase_of(finding, judgement),
        greets=finding.kind in _GREETED,
        held=judgement.count(Verdict.HOLDS),
        read=_read(judgement),
        cells=tuple(labels[cell] for cell in finding.cells),
        tube=finding.tube,
        own=finding.own,
        towards=finding.towards,
        steps=finding.amount,
        mover=labels[mover] if mover and of_two else "",
        move=None if mover is None else moves[mover],
    )
