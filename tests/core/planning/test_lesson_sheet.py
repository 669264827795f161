"""A lesson on one page says what is there to be said."""

from datetime import UTC, date, datetime

import pytest

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Ground
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.media import Medium
from noema.core.pigments.shelf import builtin_set
from noema.core.planning.frame import Lesson, Wish
from noema.core.planning.lay_out import Changed
from noema.core.planning.lesson_sheet import LessonFacts, SeenMistake, WasAway, lesson_sheet
from noema.core.planning.timeline import Doing, LessonPart, PlannedLesson

AT = datetime(2027, 1, 12, 9, 40, tzinfo=UTC)


def asked(kind):
    ground = Ground(paints=builtin_set("split-six+black"), table=USUAL_HUES)
    return kind_of(kind).asked(kind_of(kind).chosen({}), ground)


def sheet_of(kind, medium=Medium.ACRYLIC, **rest):
    exercise = asked(kind)
    cells = tuple(cell.id for cell in exercise.cells)
    parts = (
        LessonPart(doing=Doing.SET_UP, wish=None, cells=(), minutes=5, begins_min=0),
        LessonPart(doing=Doing.SHOW, wish="w", cells=(), minutes=5, begins_min=5),
        LessonPart(doing=Doing.PAINT, wish="w", cells=cells, minutes=30, begins_min=10),
        LessonPart(doing=Doing.CLEAN_UP, wish=None, cells=(), minutes=10, begins_min=40),
    )
    planned = PlannedLesson(lesson=Lesson(at=AT, minutes=50), parts=parts)
    wishes = {"w": Wish(id="w", kind=kind, medium=medium)}
    facts = LessonFacts(wishes=wishes, asked={"w": exercise}, people=24, **rest)
    return lesson_sheet(planned, facts), exercise


@pytest.mark.parametrize("kind", sorted(set(KINDS) - {"colour-match"}))
def test_every_kind_can_be_taught_from_a_page(kind):
    sheet, exercise = sheet_of(kind)
    (shown,) = sheet.shown
    labels = {part.tube.label for cell in exercise.cells for part in cell.parts}
    mixed = any(len(cell.parts) > 1 for cell in exercise.cells)
    assert bool(shown.piles) is mixed
    words = shown.piles.replace(" mixed", "").replace(", and ", " and ").replace(", ", " and ")
    assert set(words.split(" and ")) <= labels | {""}
    for words in (shown.see, shown.mistake, shown.say, shown.easier, shown.harder, shown.ask):
        assert words.endswith((".", "?"))
    assert {need.label for need in shown.paint} == labels
    assert [f"{one.begins:%H:%M}" for one in sheet.parts] == ["09:40", "09:45", "09:50", "10:20"]
    assert sheet.spare_min == 0
    assert "25 printed worksheets, one to spare" in [one.words for one in sheet.lay_out]
    assert sheet.tables == 6
    assert sheet.cautions[0].startswith("Read the label")


def test_mixed_darks_begin_with_two_tubes():
    sheet, _ = sheet_of("mixed-darks")
    assert set(sheet.shown[0].piles.split(" and ")) == {"scarlet", "phthalo blue"}


def test_what_is_drawn_needs_no_water_and_no_rack():
    sheet, _ = sheet_of("value-scale", Medium.PENCIL)
    said = " ".join(one.words for one in sheet.lay_out)
    assert "sharpeners" in said
    assert "water" not in said
    assert "rack" not in said
    assert sheet.shown[0].paint == ()


def test_oil_brings_its_cautions():
    sheet, _ = sheet_of("tint-ladder", Medium.OIL)
    assert any("ignite by themselves" in words for words in sheet.cautions)
    assert not any("jars of water" in one.words for one in sheet.lay_out)


def test_a_list_holds_what_was_added_and_not_what_was_left_out():
    changed = Changed(added=("aprons",), left_out=frozenset({"cards"}), done=frozenset({"key"}))
    things = {one.name: one for one in sheet_of("colour-wheel", changed=changed)[0].lay_out}
    assert "cards" not in things
    assert things["aprons"].is_own
    assert things["key"].is_done
    assert not things["palettes"].is_done
    assert things["palettes"].each_table
    assert things["palettes"].words.startswith("4 palettes")
    assert not things["rack"].each_table
    each = {need.tube: need.each.usual for need in sheet_of("colour-wheel")[0].shown[0].paint}
    white = things["paint:titanium-white"].words if "titanium-white" in each else ""
    assert not white or white.startswith("titanium white: ")


def test_a_school_s_own_mistake_stands_in_place_of_the_usual_one():
    usual = sheet_of("value-scale")[0].shown[0]
    seen = SeenMistake(words="9 of 20 sheets: step 3 is too dark.", say="", where="Year 9")
    own = sheet_of("value-scale", seen={"value-scale": seen})[0].shown[0]
    assert (own.mistake, own.seen_at, own.say) == (seen.words, "Year 9", usual.say)
    assert usual.seen_at == ""


def test_who_was_away_stands_on_the_page_with_a_shorter_sheet():
    away = (WasAway(name="Ada", due=date(2027, 1, 19)),)
    sheet, _ = sheet_of("value-scale", away=away)
    assert sheet.away == away
    assert sheet.way_back == (f"{sheet.shown[0].title}: {sheet.shown[0].easier}",)


def test_a_row_is_mixed_from_the_piles_at_its_ends():
    assert sheet_of("value-scale")[0].shown[0].piles == "ivory black, and titanium white"
    chart = sheet_of("intensity-chart")[0].shown[0].piles
    assert chart == "scarlet, and lemon yellow and phthalo blue mixed"
