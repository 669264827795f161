"""What needs a teacher's eyes most."""

from noema.core.coaching.redo import cells_to_redo
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.part import with_ends
from noema.core.judging.attention import attention, disagreeing, holds_plainly
from noema.core.judging.judge import judge
from noema.core.judging.judgement import FindingKind
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict
from noema.core.photo.reading import CellFlag, SheetFlag
from tests.core.exercises.grounds import asked, choose, plain
from tests.core.judging.readings import SPLIT, mixed, read_labs
from tests.core.judging.scales import read_as

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
DULL = {"h11": mixed(warm_yellow=6.0, ultramarine=1.0)}
ALL = frozenset(cell.id for cell in WHEEL.cells)


def judged(changed=None, **how):
    return judge(read_labs(WHEEL, changed, **how), WHEEL, Key.PAINTS, Level.BEGINNER, paints=SPLIT)


def test_what_holds_plainly_needs_nobody():
    assert attention(judged(), ()) == 0.0
    assert holds_plainly(judged(), ())
    assert holds_plainly(judged(), (SheetFlag.GREY_PRINT,))


def test_doubt_flags_strays_and_disagreement_each_need_more():
    plain = attention(judged(), ())
    shiny = attention(judged(flags={"h1": (CellFlag.GLARE,)}), ())
    blurred = attention(judged(), (SheetFlag.BLURRED,))
    stray = attention(judged(DULL), ())
    disputed = attention(judged(), (), ("h1", "h2"))
    assert min(shiny, blurred, stray, disputed) > plain
    assert not holds_plainly(judged(), (SheetFlag.BLURRED,))
    assert not holds_plainly(judged(DULL), ())


def test_keys_disagree_where_one_holds_and_the_other_strays():
    assert disagreeing(judged(), judged(DULL)) == {"h11"}
    assert disagreeing(judged(), judged()) == frozenset()


def test_what_strays_is_painted_again_unless_a_teacher_says_otherwise():
    sheet = judged(DULL)
    assert cells_to_redo(sheet, Review()) == {"h11"}
    assert cells_to_redo(sheet, Review(left_out=frozenset({"h11"}))) == frozenset()
    assert cells_to_redo(sheet, Review(overruled={"h11": Verdict.HOLDS})) == frozenset()
    assert cells_to_redo(judged(), Review(overruled={"h2": Verdict.OFF})) == {"h2"}


def test_of_a_row_that_crowds_only_what_strays_is_painted_again():
    scale = plain(9)
    low, high = scale.cells[0].hvc.value, scale.cells[-1].hvc.value
    values = [low + (high - low) * (n / 8) ** 1.5 for n in range(9)]
    sheet = judge(read_as(values), scale, Key.NAMED, Level.ADVANCED)
    assert [finding.kind for finding in sheet.findings] == [FindingKind.BUNCHED]
    again = cells_to_redo(sheet, Review())
    astray = {cell.id for cell in sheet.cells if cell.verdict is not Verdict.HOLDS}
    assert again == astray
    assert set(sheet.findings[0].cells) - again
    with_them = with_ends(scale, again)
    assert with_them == again | {scale.cells[0].id, scale.cells[-1].id}
