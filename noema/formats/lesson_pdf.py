"""A lesson on one page of paper: clock times at the left, what to show and say beside them."""

from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer, Table

from noema.core.language import gettext
from noema.core.planning.lesson_sheet import LessonSheet, TaughtExercise, WasAway
from noema.formats.days import day_of_year
from noema.formats.paper_pages import HEAD, SMALL, SOFT, TEXT, TITLE, WIDTH, paragraph, report_bytes

_CLOCK = 22 * mm


def lesson_pdf(sheet: LessonSheet, class_name: str, when: str) -> bytes:
    """Draw the page."""
    story: list[Flowable] = [
        paragraph(class_name, TITLE),
        paragraph(when, SOFT),
        Spacer(1, 3 * mm),
        _times(sheet),
    ]
    for one in sheet.shown:
        story.append(KeepTogether(_exercise(one)))
    whole = [one.words for one in sheet.lay_out if not one.each_table]
    tables = [one.words for one in sheet.lay_out if one.each_table]
    away = [_away(one) for one in sheet.away]
    for head, lines in (
        (gettext("Were away last time"), [*away, *(sheet.way_back if away else ())]),
        (gettext("Lay out"), whole),
        (gettext("On each of %(count)s tables", count=sheet.tables), tables),
        (gettext("Mind"), sheet.cautions),
    ):
        if lines:
            listed = [paragraph(f"□ {line}", SMALL) for line in lines]
            story.append(KeepTogether([paragraph(head, HEAD), *listed]))
    return report_bytes(story, gettext("%(name)s, lesson", name=class_name))


def _away(one: WasAway) -> str:
    if one.due is None:
        return one.name
    return gettext("%(name)s, due on %(day)s", name=one.name, day=day_of_year(one.due))


def _times(sheet: LessonSheet) -> Table:
    rows: list[Sequence[Flowable]] = [
        [
            paragraph(f"{part.begins:%H:%M}", TEXT),
            paragraph(f"{part.words} ({part.minutes})", TEXT),
        ]
        for part in sheet.parts
    ]
    return Table(rows or [["", ""]], colWidths=[_CLOCK, WIDTH - _CLOCK])


def _exercise(one: TaughtExercise) -> list[Flowable]:
    mistake = gettext("Likely mistake")
    if one.seen_at:
        mistake = gettext("Likely mistake (seen in %(where)s)", where=one.seen_at)
    lines = [
        (gettext("Two piles ready"), one.piles),
        (gettext("What they should see"), one.see),
        (mistake, one.mistake),
        (gettext("Say then"), one.say),
        (gettext("Easier"), one.easier),
        (gettext("Harder"), one.harder),
        (gettext("Ask at the end"), one.ask),
    ]
    told = [paragraph(f"{head}: {words}", TEXT) for head, words in lines if words]
    paint = [
        paragraph(f"{gettext(need.label)}: {need.squeezed}; {need.of_class}", SMALL)
        for need in one.paint
    ]
    return [
        paragraph(one.title, HEAD),
        *(paragraph(words, SMALL) for words in one.how),
        *told,
        *([paragraph(gettext("Paint: each; the class"), SOFT)] if paint else []),
        *paint,
    ]
