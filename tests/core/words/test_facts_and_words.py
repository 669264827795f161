"""Facts hold no sentences; every kind of fact can be said."""

import json
import re
from dataclasses import replace

import pytest

from noema.core.coaching.advice import advise
from noema.core.coaching.audience import Audience
from noema.core.coaching.moves import Act, Move, next_moves
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.judging.judge import judge
from noema.core.judging.judgement import Finding, FindingKind, Manner, Off, Reason, Why
from noema.core.words.advice import advice_words
from noema.core.words.findings import finding_words
from noema.core.words.moves import move_words
from noema.core.words.reasons import reason_words
from noema.formats.facts_json import facts_from_json, facts_to_json
from noema.formats.judgement_json import judgement_from_json, judgement_to_json
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT, mixed, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
GOOD = judge(read_labs(WHEEL, {}), WHEEL, Key.PAINTS, Level.BEGINNER, paints=SPLIT)
ORANGE = judge(
    read_labs(WHEEL, {"h3": mixed(warm_yellow=1.0, scarlet=1.0)}),
    WHEEL,
    Key.PAINTS,
    Level.BEGINNER,
    paints=SPLIT,
)
MANNERS = {
    FindingKind.SWAPPED: (None, Manner.REVERSED),
    FindingKind.THIN: (Manner.PATCHY, Manner.STREAKY),
    FindingKind.VALUES: (None, Manner.AT_THE_TOP),
    FindingKind.DULL: (None, Manner.LOUDER),
}
EVERY = [(kind, manner) for kind in FindingKind for manner in MANNERS.get(kind, (None,))]


def sentences_in(values) -> list[str]:
    """Strings of three words or more: names have fewer."""
    if isinstance(values, str):
        return [values] if len(re.findall(r"[a-z]+", values)) > 3 else []
    inside = values.values() if isinstance(values, dict) else values
    return (
        []
        if not isinstance(values, dict | list)
        else [s for one in inside for s in sentences_in(one)]
    )


def test_what_is_kept_of_a_judgement_holds_no_sentence():
    moves = {move.cell: move for move in next_moves(ORANGE, WHEEL, SPLIT)}
    assert ORANGE.findings
    assert moves
    assert sentences_in(judgement_to_json(ORANGE)) == []
    for facts in (advise(ORANGE, moves), *moves.values()):
        assert sentences_in(facts_to_json(facts)) == []


def test_facts_come_back_and_are_said_the_same():
    kept = judgement_from_json(json.loads(json.dumps(judgement_to_json(ORANGE))))
    for finding, same in zip(ORANGE.findings, kept.findings, strict=True):
        assert finding_words(finding, ORANGE) == finding_words(same, kept)
    for cell, same in zip(ORANGE.cells, kept.cells, strict=True):
        assert reason_words(cell.reason) == reason_words(same.reason)
    moves = {move.cell: move for move in next_moves(ORANGE, WHEEL, SPLIT)}
    advice = advise(ORANGE, moves)
    again = facts_from_json(type(advice), json.loads(json.dumps(facts_to_json(advice))))
    for audience in Audience:
        assert advice_words(advice, Medium.ACRYLIC, audience) == advice_words(
            again, Medium.ACRYLIC, audience
        )


@pytest.mark.parametrize(("kind", "manner"), EVERY)
@pytest.mark.parametrize("cells", [("h3", "h4"), ("h3", "h4", "h5", "h6", "h7")])
def test_every_finding_is_a_whole_sentence(kind, manner, cells):
    if kind in (FindingKind.ORDER, FindingKind.TWO_NEUTRALS) or manner is Manner.AT_THE_TOP:
        cells = cells[:2]
    finding = Finding(
        kind=kind,
        cells=cells,
        amount=1.0,
        tube="rose",
        own="scarlet",
        towards="dark",
        each=("rose",) * len(cells),
        against=("h8",),
        row="the row",
        among=12,
        manner=manner,
    )
    said = finding_words(finding, GOOD)
    assert re.fullmatch(r"[A-Z0-9].*\.", said)
    assert "  " not in said
    assert not re.search(r"\bNone\b|h\d", said)


def test_one_cell_is_and_several_are():
    bare = Finding(kind=FindingKind.EMPTY, cells=("h3",), amount=1.0)
    assert finding_words(bare, GOOD) == "Orange looks bare."
    assert " look bare." in finding_words(replace(bare, cells=("h3", "h4")), GOOD)


@pytest.mark.parametrize(
    ("reason", "said"),
    [
        (Reason(why=Why.HOLDS), "Holds its step."),
        (Reason(why=Why.EMPTY), "Bare paper, or white paint: look."),
        (Reason(why=Why.UNSEEN, flag="glare"), "A shine lies over this step."),
        (
            Reason(why=Why.STRAYS, off=(Off(quantity="value", towards="dark", tolerances=1.2),)),
            "A little too dark.",
        ),
        (
            Reason(
                why=Why.SEEMS,
                off=(Off(quantity="value", towards="light", tolerances=2.0, steps=0.5),),
            ),
            "Seems about half a step too light, but the reading isn't sure enough.",
        ),
        (
            Reason(why=Why.STRAYS, off=(Off(quantity="hue", towards="green", tolerances=4.0),)),
            "Leans to green.",
        ),
    ],
)
def test_reasons_are_said(reason, said):
    assert reason_words(reason) == said


@pytest.mark.parametrize("act", Act)
@pytest.mark.parametrize("medium", [Medium.ACRYLIC, Medium.PENCIL])
def test_every_act_is_said_with_a_schools_own_tube_by_its_label(act, medium):
    move = Move(cell="c1", act=act, tubes={"own-3": 0.05}, keep=0.5, steps=1.0)
    said = move_words(move, medium, {"own-3": "our red"})
    assert said.endswith(".")
    if act in (Act.ADD, Act.AGAIN, Act.AS_IT_COMES):
        assert "our red" in said
