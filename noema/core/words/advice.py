"""One sentence for a sheet, encouraging and true; each audience's words are in a data file."""

import tomllib
from pathlib import Path

from noema.core.coaching.advice import LONGEST, Advice
from noema.core.coaching.audience import Audience
from noema.core.exercises.media import Medium
from noema.core.judging.judgement import FindingKind
from noema.core.language import gettext
from noema.core.words.amounts import cell_words, cells_words, end_words, opening, step_words
from noema.core.words.moves import move_words
from noema.core.words.reasons import reason_words
from noema.core.words.tubes import tube_words

_TABLE = Path(__file__).parent / "data" / "sentences.toml"


def advice_words(
    advice: Advice, medium: Medium, audience: Audience = Audience.TEENAGER, turn: int = 0
) -> str:
    """Say what to do next; `turn` takes the next of several ways to say it."""
    if advice.told:
        return advice.told
    filled = _filled(advice, medium)
    greeting = ("some-hold" if advice.held else "none-hold",) if advice.greets else ()
    parts = [_phrase(name, audience, turn).format(**filled) for name in (*greeting, advice.about)]
    return " ".join(" ".join(parts).split())[:LONGEST]


def _filled(advice: Advice, medium: Medium) -> dict[str, str]:
    cells = cells_words(advice.cells) if advice.cells else ""
    first = cell_words(advice.cells[0]) if advice.cells else ""
    reason = "" if advice.reason is None else reason_words(advice.reason)
    is_wrong_tube = advice.about.startswith(FindingKind.WRONG_TUBE.value)
    return {
        "held": str(advice.held),
        "all": str(advice.read),
        "cells": cells,
        "Cells": opening(cells),
        "cell": first,
        "Cell": opening(first),
        "tube": tube_words(advice.tube, advice.own_tubes),
        "own": tube_words(advice.own, advice.own_tubes),
        "towards": tube_words(advice.own, advice.own_tubes) if is_wrong_tube else _end(advice),
        "reason": f"{reason[:1].lower()}{reason[1:]}",
        "move": _move(advice, medium),
        "by": step_words(advice.steps),
        "how": _how(advice.about, medium),
        "coat": gettext("layer") if medium.is_dry else gettext("coat"),
    }


def _move(advice: Advice, medium: Medium) -> str:
    """Say the move, and of which of two cells it is meant where that isn't plain."""
    if advice.move is None:
        return ""
    said = move_words(advice.move, medium, advice.own_tubes)
    if not advice.mover:
        return said
    cell = opening(cell_words(advice.mover))
    move = f"{said[:1].lower()}{said[1:]}"
    return gettext("%(cell)s: %(move)s", cell=cell, move=move)


def _end(advice: Advice) -> str:
    of_value = advice.about == FindingKind.BUNCHED.value and advice.towards in ("dark", "light")
    return end_words(advice.towards) if of_value else gettext(advice.towards)


def _how(about: str, medium: Medium) -> str:
    if about == FindingKind.SHORT_DARK.value:
        return (
            gettext("press another layer into it")
            if medium.is_dry
            else gettext("use the black thick, no white")
        )
    return (
        gettext("leave the paper bare")
        if medium.is_dry
        else gettext("take clean white with a clean brush")
    )


def _phrase(name: str, audience: Audience, turn: int) -> str:
    ways = _PHRASES[name][audience.value]
    return gettext(ways[turn % len(ways)])


_PHRASES: dict[str, dict[str, list[str]]] = tomllib.loads(_TABLE.read_text(encoding="utf-8"))
