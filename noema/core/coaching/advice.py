"""One sentence for a sheet: the single change that would help most, encouraging and true.

What was found first decides; the words for each audience stand in `data/sentences.toml`.
"""

import tomllib
from collections.abc import Mapping
from pathlib import Path
from types import MappingProxyType

from noema.core.coaching.audience import Audience
from noema.core.coaching.moves import who_moves
from noema.core.exercises.catalogue import has
from noema.core.exercises.kind import Trait
from noema.core.exercises.media import Medium
from noema.core.judging.judgement import (
    CellJudgement,
    Finding,
    FindingKind,
    Judgement,
    past_room,
)
from noema.core.judging.verdict import Verdict
from noema.core.judging.words import cell_words, cells_words, opening, step_words

LONGEST = 400
"""Letters of a sentence."""

_NO_MOVES: Mapping[str, str] = MappingProxyType({})
_TABLE = Path(__file__).parent / "data" / "sentences.toml"
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


def advice(
    judgement: Judgement,
    medium: Medium,
    *,
    audience: Audience = Audience.TEENAGER,
    moves: Mapping[str, str] = _NO_MOVES,
    turn: int = 0,
) -> str:
    """Say what to do next; `moves` are the next moves' words by cell.

    `turn` takes the next of several ways to say it.
    """
    said = _what(judgement, medium, moves)
    parts = [_phrase(name, audience, turn).format(**filled) for name, filled in said]
    return " ".join(" ".join(parts).split())[:LONGEST]


def _what(
    judgement: Judgement, medium: Medium, moves: Mapping[str, str]
) -> list[tuple[str, dict[str, str]]]:
    """Choose what to say: names of phrases, each with what fills its braces."""
    finding = _first(judgement)
    if finding is not None:
        filled = _about(finding, judgement, medium, moves)
        greeting = [_greeting(judgement)] if finding.kind in _GREETED else []
        is_dark = finding.kind is FindingKind.VALUES and finding.towards == "dark"
        return [
            *greeting,
            (f"{finding.kind.value}-dark" if is_dark else finding.kind.value, filled),
        ]
    away = _away(judgement)
    if away:
        worst = max(away, key=past_room)
        filled = {
            "cell": cell_words(worst.label),
            "reason": f"{worst.reason[:1].lower()}{worst.reason[1:]}",
            "move": moves.get(worst.id, ""),
        }
        return [_greeting(judgement), ("strays", filled)]
    unsure = [cell.label for cell in judgement.cells if cell.verdict is Verdict.LOOK]
    if len(unsure) > judgement.count(Verdict.HOLDS):
        return [("unsure", {})]
    if unsure:
        return [("some-unsure", {"cells": cells_words(unsure)})]
    return [("praise-row" if has(judgement.exercise, Trait.ONE_SCALE) else "praise", {})]


def _first(judgement: Judgement) -> Finding | None:
    """Give the finding to speak of: what is only polish waits while cells stray."""
    straying = bool(_away(judgement))
    return next((f for f in judgement.findings if not (straying and f.kind in _AFTER_STRAYS)), None)


def first_finding(judgement: Judgement) -> str:
    """Name what a sentence would speak of first, for a phrase book.

    A kind of finding; "strays" where single cells stray, "praise" where nothing does.
    """
    finding = _first(judgement)
    if finding is not None:
        return finding.kind.value
    return "strays" if _away(judgement) else "praise"


def _away(judgement: Judgement) -> list[CellJudgement]:
    return [c for c in judgement.cells if c.verdict in (Verdict.DRIFTS, Verdict.OFF)]


def _greeting(judgement: Judgement) -> tuple[str, dict[str, str]]:
    held = judgement.count(Verdict.HOLDS)
    read = len(judgement.cells) - judgement.count(Verdict.LOOK)
    return ("some-hold" if held else "none-hold", {"held": str(held), "all": str(read)})


def _about(
    finding: Finding, judgement: Judgement, medium: Medium, moves: Mapping[str, str]
) -> dict[str, str]:
    labels = {cell.id: cell.label for cell in judgement.cells}
    named = [labels[cell] for cell in finding.cells]
    acting = finding.cells[:1]
    if finding.kind is FindingKind.TOGETHER:
        acting = (who_moves(judgement, finding.cells),)
    elif finding.kind is FindingKind.ORDER:
        acting = tuple(cell for cell in finding.cells if cell in moves)[:1]
    mover = next((cell for cell in acting if cell in moves), None)
    return {
        "cells": cells_words(named),
        "Cells": opening(cells_words(named)),
        "Cell": opening(cell_words(named[0])) if named else "",
        "tube": finding.tube,
        "own": finding.own,
        "towards": _end(finding),
        "move": "" if mover is None else _at(labels[mover], moves[mover], finding),
        "by": step_words(finding.amount),
        "how": _how(finding.kind, medium),
        "coat": "layer" if medium.is_dry else "coat",
    }


def _at(label: str, move: str, finding: Finding) -> str:
    """Say at which of two cells a move is meant."""
    if finding.kind not in (FindingKind.TOGETHER, FindingKind.ORDER):
        return move
    return f"{opening(cell_words(label))}: {move[:1].lower()}{move[1:]}"


def _end(finding: Finding) -> str:
    is_end_of_value = finding.kind is FindingKind.BUNCHED and finding.towards in ("dark", "light")
    return f"the {finding.towards} end" if is_end_of_value else finding.towards


def _how(kind: FindingKind, medium: Medium) -> str:
    if kind is FindingKind.SHORT_DARK:
        return "press another layer into it" if medium.is_dry else "use the black thick, no white"
    return "leave the paper bare" if medium.is_dry else "take clean white with a clean brush"


def _phrase(name: str, audience: Audience, turn: int) -> str:
    ways = _PHRASES[name][audience.value]
    return ways[turn % len(ways)]


_PHRASES: dict[str, dict[str, list[str]]] = tomllib.loads(_TABLE.read_text(encoding="utf-8"))
