"""Patterns a whole sheet shows, the one to mend first standing first.

Each chapter looks for its own: how it was painted and photographed (`craft`), cells in each other's
place (`swaps`), rows of steps (`steps`), what went into mixes (`mixes`), neutrals (`neutrals`), the
point of a kind (`points`). A cell that one finding explains isn't held against its painter by
another.
"""

from collections.abc import Iterable, Iterator

from noema.core.exercises.catalogue import has
from noema.core.exercises.kind import Trait
from noema.core.judging.craft import find_in_craft
from noema.core.judging.evidence import Evidence
from noema.core.judging.judgement import Finding, FindingKind
from noema.core.judging.mixes import find_in_mixes, find_wandering
from noema.core.judging.neutrals import find_cast, find_colour, find_in_neutrals
from noema.core.judging.points import find_points
from noema.core.judging.see_through import find_see_through
from noema.core.judging.steps import find_in_rows
from noema.core.judging.swaps import find_swaps

_ORDER = list(FindingKind)
_MOSTLY = 0.4  # of the cells
_STEP = 1.0
_OF_ONE_STEP = (FindingKind.ORDER, FindingKind.TOGETHER, FindingKind.JUMP)


def find_patterns(evidence: Evidence) -> tuple[Finding, ...]:
    """Find every pattern on a sheet, the most useful first."""
    craft = tuple(find_in_craft(evidence))
    swaps = tuple(find_swaps(evidence))
    passed = _cells(swaps)
    craft = tuple(f for f in craft if f.kind is not FindingKind.EMPTY or set(f.cells) - passed)
    if any(_hides_colours(finding, evidence) for finding in craft):
        return _ranked(craft, evidence)
    rows = tuple(_in_rows(evidence, passed))
    crowded = passed | _cells(f for f in rows if f.kind is FindingKind.BUNCHED)
    # Of a single row of values nobody can say whether it is crowded or thinly painted.
    if not swaps and not has(evidence.asked.kind, Trait.ONE_SCALE):
        see_through = find_see_through(evidence, crowded)
        if see_through is not None:
            return _ranked((*craft, see_through), evidence)
    # The cells of a crowded row lie off their steps together: nothing got into each.
    wandering = tuple(find_wandering(evidence, crowded))
    told = crowded | _cells(wandering)
    mixes = tuple(find_in_mixes(evidence, told))
    coloured = tuple(find_colour(evidence))
    neutrals = tuple(find_in_neutrals(evidence, told | _cells(coloured)))
    # What a kind is there to show is said only where no cell's own story says it already.
    explained = told | _cells((*mixes, *coloured, *neutrals))
    points = tuple(f for f in find_points(evidence) if not explained & set(f.cells))
    cast = tuple(find_cast(evidence, _cells(coloured)))
    found = (*craft, *swaps, *rows, *wandering, *mixes, *coloured, *neutrals, *points, *cast)
    return _ranked(found, evidence)


def _hides_colours(finding: Finding, evidence: Evidence) -> bool:
    """Wet paint shows other colours than it dries to, thin paint the paper's."""
    mostly = len(finding.cells) > _MOSTLY * len(evidence.read)
    return finding.kind is FindingKind.WET or (finding.kind is FindingKind.THIN and mostly)


def _in_rows(evidence: Evidence, passed: frozenset[str]) -> Iterator[Finding]:
    """Leave out of a row what a swap, or the crowding of the whole row, already says."""
    found = tuple(find_in_rows(evidence))
    bunched = _cells(finding for finding in found if finding.kind is FindingKind.BUNCHED)
    for finding in found:
        if finding.kind in _OF_ONE_STEP and (passed | bunched) & set(finding.cells):
            continue
        yield finding


def _cells(findings: Iterable[Finding]) -> frozenset[str]:
    return frozenset(cell for finding in findings for cell in finding.cells)


def _ranked(findings: Iterable[Finding], evidence: Evidence) -> tuple[Finding, ...]:
    """Put the gravest first; what paints can't do, or a class is asked of, is nobody's finding."""
    limits = {cell.id for cell in evidence.printed.cells if cell.limit or cell.in_question}
    fair = [one for one in findings if not one.cells or not set(one.cells) <= limits]
    return tuple(sorted(fair, key=lambda one: (_rank(one), -abs(one.amount))))


def _rank(finding: Finding) -> int:
    """Give the place of a finding's kind; an end a whole step short goes before single steps."""
    kind = finding.kind
    short = kind in (FindingKind.SHORT_DARK, FindingKind.SHORT_LIGHT)
    return _ORDER.index(FindingKind.BUNCHED if short and abs(finding.amount) >= _STEP else kind)
