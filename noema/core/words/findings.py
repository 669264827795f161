"""What a finding says in one sentence, for the teacher."""

from collections.abc import Callable, Mapping

from noema.core.judging.judgement import Finding, FindingKind, Judgement, Manner
from noema.core.words.amounts import cells_words, is_or_are, opening, step_words
from noema.core.words.tubes import tube_words

Labels = Mapping[str, str]  # of cells by id, or of a school's tubes by name

_MOST_SAID = 3  # cells, each with what it leans to


def finding_words(finding: Finding, judgement: Judgement) -> str:
    """Say a finding; its cells by the names people know."""
    if finding.told:
        return finding.told
    labels = {cell.id: cell.label for cell in judgement.cells}
    return opening(_SAYS[finding.kind](finding, labels, judgement.own_tubes))


def _named(finding: Finding, labels: Labels) -> str:
    return cells_words([labels[cell] for cell in finding.cells])


def _one_by_one(finding: Finding, labels: Labels, each: list[str]) -> str:
    said = [f"{labels[cell]} leans to {to}" for cell, to in zip(finding.cells, each, strict=True)]
    return ", ".join(said[:_MOST_SAID])


def _empty(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    return f"{_named(finding, labels)} {is_or_are(len(finding.cells))} still bare."


def _wet(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    return (
        f"{len(finding.cells)} of {finding.among} cells shine: it looks photographed wet, "
        "or under a lamp."
    )


def _thin(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    how = "streaky" if finding.manner is Manner.STREAKY else "patchy inside the outline"
    return f"{_named(finding, labels)} {is_or_are(len(finding.cells))} {how}."


def _over_line(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    return f"paint runs over the line at {_named(finding, labels)}."


def _swapped(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    if finding.manner is Manner.REVERSED:
        first, last = labels[finding.cells[0]], labels[finding.cells[-1]]
        return f"the row from {first} to {last} runs the other way round."
    return f"{_named(finding, labels)} look swapped: painted the other way round they would fit."


def _contaminated(finding: Finding, labels: Labels, tubes: Labels) -> str:
    own, got_in = tube_words(finding.own, tubes), tube_words(finding.tube, tubes)
    return (
        f"{labels[finding.cells[0]]} isn't {own} as it comes: "
        f"it looks as if a little {got_in} got in."
    )


def _wrong_tube(finding: Finding, labels: Labels, tubes: Labels) -> str:
    own, other = tube_words(finding.own, tubes), tube_words(finding.tube, tubes)
    return f"{labels[finding.cells[0]]} looks mixed with {other} instead of {own}."


def _not_neutral(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    return f"{_one_by_one(finding, labels, [to or 'neither side' for to in finding.each])}."


def _two_neutrals(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    if finding.row:
        return f"in {finding.row} the two sides meet in different neutrals."
    one, other = (labels[cell] for cell in finding.cells)
    return f"{one} and {other} should be one neutral, and differ."


def _bunched(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    where = f"in {finding.row} the" if finding.row else "the"
    return f"{where} steps crowd towards {end_words(finding)}; the jumps grow wide at the other."


def _order(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    one, two = (labels[cell] for cell in finding.cells)
    turn = f": {two} is darker than {one}" if finding.towards == "dark" else ""
    return f"{_named(finding, labels)} stand the wrong way round{turn}."


def _together(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    return f"{_named(finding, labels)} sit together."


def _jump(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    return f"a wide jump between {_named(finding, labels).removeprefix('steps ')}."


def _leans(finding: Finding, labels: Labels, tubes: Labels) -> str:
    each = [f"its {tube_words(name, tubes)}" for name in finding.each]
    more = len(finding.cells) - _MOST_SAID
    rest = f", and {more} more" if more > 0 else ""
    return f"{_one_by_one(finding, labels, each)}{rest}."


def _dull(finding: Finding, labels: Labels, tubes: Labels) -> str:
    if finding.manner is Manner.LOUDER:
        clean, loud = labels[finding.cells[0]], labels[finding.against[0]]
        return f"{clean} should be the clean one, and {loud} came out more intense."
    got_in = ", ".join(dict.fromkeys(tube_words(name, tubes) for name in finding.each))
    return (
        f"{_named(finding, labels)} {is_or_are(len(finding.cells))} duller than these paints "
        f"make it: a third colour got in, it looks like {got_in}."
    )


def _wanders(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    row = finding.row or "the row"
    return f"{row} wanders to {finding.towards} at {_named(finding, labels)}."


def _cast(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    return f"the greys lean to {finding.towards or 'neither side'} all along."


def _short_dark(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    return f"the dark end stops early: it could go {step_words(finding.amount)} darker."


def _short_light(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    return f"the light end stops early: it could go {step_words(finding.amount)} lighter."


def _values(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    if finding.manner is Manner.AT_THE_TOP:
        top, other = (labels[cell] for cell in finding.cells)
        return f"{other} is lighter than {top}: the wheel should be lightest there."
    return f"{_named(finding, labels)} could be darker: use both tubes thicker."


def end_words(finding: Finding) -> str:
    """Say to which end a row crowds: the dark end, or a cell by its name."""
    is_of_value = finding.towards in ("dark", "light")
    return f"the {finding.towards} end" if is_of_value else finding.towards


_SAYS: Mapping[FindingKind, Callable[[Finding, Labels, Labels], str]] = {
    FindingKind.WET: _wet,
    FindingKind.EMPTY: _empty,
    FindingKind.SWAPPED: _swapped,
    FindingKind.CONTAMINATED: _contaminated,
    FindingKind.WRONG_TUBE: _wrong_tube,
    FindingKind.NOT_NEUTRAL: _not_neutral,
    FindingKind.TWO_NEUTRALS: _two_neutrals,
    FindingKind.BUNCHED: _bunched,
    FindingKind.ORDER: _order,
    FindingKind.TOGETHER: _together,
    FindingKind.JUMP: _jump,
    FindingKind.LEANS: _leans,
    FindingKind.DULL: _dull,
    FindingKind.WANDERS: _wanders,
    FindingKind.CAST: _cast,
    FindingKind.SHORT_DARK: _short_dark,
    FindingKind.SHORT_LIGHT: _short_light,
    FindingKind.VALUES: _values,
    FindingKind.THIN: _thin,
    FindingKind.OVER_LINE: _over_line,
}
