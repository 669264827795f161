"""What a finding says in one sentence, for the teacher."""

from collections.abc import Callable, Mapping

from noema.core.coaching.advice import PRAISE, STRAYS
from noema.core.judging.judgement import Finding, FindingKind, Judgement, Manner
from noema.core.language import N_, gettext, ngettext
from noema.core.words.amounts import cells_words, end_words, listed, opening, step_words
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
    said = [
        gettext("%(labels)s leans to %(to)s", labels=labels[cell], to=to)
        for cell, to in zip(finding.cells, each, strict=True)
    ]
    return ", ".join(said[:_MOST_SAID])


def _empty(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    named = _named(finding, labels)
    return ngettext(
        "%(named)s looks bare.", "%(named)s look bare.", len(finding.cells), named=named
    )


def _wet(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    return gettext(
        "%(count)s of %(among)s cells shine: it looks photographed wet, or under a lamp.",
        count=len(finding.cells),
        among=finding.among,
    )


def _thin(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    named, count = _named(finding, labels), len(finding.cells)
    if finding.manner is Manner.SEE_THROUGH:
        return gettext("the paper shows through the paint, evenly.")
    if finding.manner is Manner.STREAKY:
        return ngettext("%(named)s is streaky.", "%(named)s are streaky.", count, named=named)
    return ngettext(
        "%(named)s is patchy inside the outline.",
        "%(named)s are patchy inside the outline.",
        count,
        named=named,
    )


def _over_line(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    return gettext("paint runs over the line at %(named)s.", named=_named(finding, labels))


def _swapped(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    if finding.manner is Manner.REVERSED:
        first, last = labels[finding.cells[0]], labels[finding.cells[-1]]
        return gettext(
            "the row from %(first)s to %(last)s runs the other way round.", first=first, last=last
        )
    return gettext(
        "%(named)s look swapped: painted the other way round they would fit.",
        named=_named(finding, labels),
    )


def _contaminated(finding: Finding, labels: Labels, tubes: Labels) -> str:
    own, got_in = tube_words(finding.own, tubes), tube_words(finding.tube, tubes)
    return gettext(
        "%(labels)s isn't %(own)s as it comes: it looks as if a little %(got_in)s got in.",
        labels=labels[finding.cells[0]],
        own=own,
        got_in=got_in,
    )


def _wrong_tube(finding: Finding, labels: Labels, tubes: Labels) -> str:
    own, other = tube_words(finding.own, tubes), tube_words(finding.tube, tubes)
    if finding.manner is Manner.ANOTHER:
        return gettext(
            "%(labels)s looks like %(other)s, where %(own)s was asked as it comes.",
            labels=labels[finding.cells[0]],
            other=other,
            own=own,
        )
    return gettext(
        "%(labels)s looks mixed with %(other)s instead of %(own)s.",
        labels=labels[finding.cells[0]],
        other=other,
        own=own,
    )


def _not_neutral(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    nowhere = gettext("neither side")
    return f"{_one_by_one(finding, labels, [to or nowhere for to in finding.each])}."


def _coloured(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    named, count = _named(finding, labels), len(finding.cells)
    if len(set(finding.each)) > 1 or not finding.towards:
        return ngettext(
            "%(named)s is a colour where grey was asked.",
            "%(named)s are colours where grey was asked.",
            count,
            named=named,
        )
    return ngettext(
        "%(named)s leans plainly to %(hue)s where grey was asked.",
        "%(named)s lean plainly to %(hue)s where grey was asked.",
        count,
        named=named,
        hue=finding.towards,
    )


def _two_neutrals(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    if finding.row:
        return gettext("in %(row)s the two sides meet in different neutrals.", row=finding.row)
    one, other = (labels[cell] for cell in finding.cells)
    return gettext("%(one)s and %(other)s should be one neutral, and differ.", one=one, other=other)


def _bunched(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    end = end_words(finding.towards)
    if finding.row:
        return gettext(
            "in %(row)s the steps crowd towards %(end)s; the jumps grow wide at the other.",
            row=finding.row,
            end=end,
        )
    return gettext("the steps crowd towards %(end)s; the jumps grow wide at the other.", end=end)


def _order(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    one, two = (labels[cell] for cell in finding.cells)
    named = _named(finding, labels)
    if finding.towards == "dark":
        return gettext(
            "%(named)s stand the wrong way round: %(two)s is darker than %(one)s.",
            named=named,
            two=two,
            one=one,
        )
    return gettext("%(named)s stand the wrong way round.", named=named)


def _together(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    return gettext("%(named)s sit together.", named=_named(finding, labels))


def _jump(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    between = listed([labels[cell] for cell in finding.cells])
    return gettext("a wide jump between %(cells)s.", cells=between)


def _leans(finding: Finding, labels: Labels, tubes: Labels) -> str:
    each = [
        gettext("its %(tube_words)s", tube_words=tube_words(name, tubes)) for name in finding.each
    ]
    more = len(finding.cells) - _MOST_SAID
    rest = gettext(", and %(more)s more", more=more) if more > 0 else ""
    return f"{_one_by_one(finding, labels, each)}{rest}."


def _dull(finding: Finding, labels: Labels, tubes: Labels) -> str:
    if finding.manner is Manner.LOUDER:
        clean, loud = labels[finding.cells[0]], labels[finding.against[0]]
        return gettext(
            "%(clean)s should be the clean one, and %(loud)s came out more intense.",
            clean=clean,
            loud=loud,
        )
    got_in = ", ".join(dict.fromkeys(tube_words(name, tubes) for name in finding.each))
    return ngettext(
        "%(named)s is duller than these paints make it: a third colour got in, "
        "it looks like %(got_in)s.",
        "%(named)s are duller than these paints make them: a third colour got in, "
        "it looks like %(got_in)s.",
        len(finding.cells),
        named=_named(finding, labels),
        got_in=got_in,
    )


def _wanders(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    row = finding.row or gettext("the row")
    return gettext(
        "%(row)s wanders to %(towards)s at %(named)s.",
        row=row,
        towards=finding.towards,
        named=_named(finding, labels),
    )


def _cast(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    towards = finding.towards or gettext("neither side")
    return gettext("the greys lean to %(towards)s all along.", towards=towards)


def _short_dark(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    return gettext(
        "the dark end stops early: it could go %(step_words)s darker.",
        step_words=step_words(finding.amount),
    )


def _short_light(finding: Finding, _labels: Labels, _tubes: Labels) -> str:
    return gettext(
        "the light end stops early: it could go %(step_words)s lighter.",
        step_words=step_words(finding.amount),
    )


def _values(finding: Finding, labels: Labels, _tubes: Labels) -> str:
    if finding.manner is Manner.AT_THE_TOP:
        top, other = (labels[cell] for cell in finding.cells)
        return gettext(
            "%(other)s is lighter than %(top)s: the wheel should be lightest there.",
            other=other,
            top=top,
        )
    return gettext(
        "%(named)s could be darker: use both tubes thicker.", named=_named(finding, labels)
    )


_SAYS: Mapping[FindingKind, Callable[[Finding, Labels, Labels], str]] = {
    FindingKind.WET: _wet,
    FindingKind.EMPTY: _empty,
    FindingKind.SWAPPED: _swapped,
    FindingKind.CONTAMINATED: _contaminated,
    FindingKind.WRONG_TUBE: _wrong_tube,
    FindingKind.COLOURED: _coloured,
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

_SUBJECTS = {
    FindingKind.WET.value: N_("wet"),
    FindingKind.EMPTY.value: N_("empty"),
    FindingKind.SWAPPED.value: N_("swapped"),
    FindingKind.CONTAMINATED.value: N_("contaminated"),
    FindingKind.WRONG_TUBE.value: N_("wrong tube"),
    FindingKind.COLOURED.value: N_("colour in a grey"),
    FindingKind.NOT_NEUTRAL.value: N_("not neutral"),
    FindingKind.TWO_NEUTRALS.value: N_("two neutrals"),
    FindingKind.BUNCHED.value: N_("bunched"),
    FindingKind.ORDER.value: N_("order"),
    FindingKind.TOGETHER.value: N_("together"),
    FindingKind.JUMP.value: N_("jump"),
    FindingKind.LEANS.value: N_("leans"),
    FindingKind.DULL.value: N_("dull"),
    FindingKind.WANDERS.value: N_("wanders"),
    FindingKind.CAST.value: N_("cast"),
    FindingKind.SHORT_DARK.value: N_("short dark"),
    FindingKind.SHORT_LIGHT.value: N_("short light"),
    FindingKind.VALUES.value: N_("values"),
    FindingKind.THIN.value: N_("thin"),
    FindingKind.OVER_LINE.value: N_("over line"),
    STRAYS: N_("strays"),
    PRAISE: N_("praise"),
}


def subjects() -> dict[str, str]:
    """Name what a sentence can be about, in a word or two."""
    return {about: gettext(words) for about, words in _SUBJECTS.items()}
