"""Judgements as JSON, for `noema judge` and the records (docs/formats.md)."""

from collections.abc import Iterator
from math import inf
from typing import Any, cast

from noema.core.exercises.catalogue import FIRST_KIND
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.skills import Skill
from noema.core.judging.closeness import Difficulty
from noema.core.judging.judgement import (
    CellJudgement,
    Drift,
    Evenness,
    Finding,
    Judgement,
    Reason,
    Why,
)
from noema.core.judging.tally import Tally
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, Term
from noema.core.sheet.layout import Triple
from noema.formats.facts_json import facts_from_json, facts_to_json
from noema.formats.plain import Json, from_plain, to_plain
from noema.formats.said_json import resaid, sources_to_json

_JUDGEMENT = N_("judgement")
_DIGITS = {"largest": 3, "smallest": 3, "lab": 2}
_UNTOLD = [2.0, 2.0, 2.0]  # doubt of judgements that kept none
_BySkill = dict[str, dict[str, list[float]]]
_SKILLS = {skill.value: skill for skill in Skill}
_VERDICTS = {verdict.value: verdict for verdict in Verdict}


def judgement_to_json(judgement: Judgement) -> Json:
    """Give a judgement as plain values."""
    return {
        "judge": judgement.judge,
        "key": judgement.key.value,
        "level": judgement.level.value,
        "exercise": judgement.exercise,
        "stride": round(judgement.stride, 4),
        "evenness": to_plain(judgement.evenness, _DIGITS),
        "findings": [facts_to_json(finding) for finding in judgement.findings],
        **({"own_tubes": dict(judgement.own_tubes)} if judgement.own_tubes else {}),
        "cells": [_cell_to_json(cell) for cell in judgement.cells],
        **({"sources": sources} if (sources := sources_to_json(_texts(judgement))) else {}),
    }


def judgement_from_json(values: Json) -> Judgement:
    """Read back what `judgement_to_json` wrote."""
    sources = cast(Json, values.get("sources", {}))
    own_tubes = cast(dict[str, str], values.get("own_tubes", {}))
    return Judgement(
        judge=str(values["judge"]),
        key=Key(values["key"]),
        level=Level(values["level"]),
        # Judgements of the first version speak of value scales only.
        exercise=str(values.get("exercise", FIRST_KIND)),
        stride=cast(float, values["stride"]),
        evenness=from_plain(Evenness | None, values["evenness"], _JUDGEMENT),
        findings=tuple(_finding(f, sources) for f in cast(list[Json], values["findings"])),
        own_tubes={name: Term(label) for name, label in own_tubes.items()},
        cells=tuple(_cell(c, sources) for c in cast(list[Json], values["cells"])),
    )


def tally_to_json(tally: Tally) -> Json:
    """Give a tally as plain values, a list a quantity."""
    return {
        "ids": list(tally.ids),
        "painted": [_rounded(lab) for lab in tally.painted_labs],
        "expected": [_rounded(lab) for lab in tally.expected_labs],
        "drift": [round(drift, 3) for drift in tally.drifts],
        "sigma": [round(sigma, 4) for sigma in tally.sigmas],
        "verdict": [verdict.value for verdict in tally.verdicts],
        "skills": {
            skill.value: {cell: [round(a, 3), round(s, 3)] for cell, (a, s) in by_cell.items()}
            for skill, by_cell in tally.skills.items()
        },
    }


def tally_from_json(values: Json, *, skills: bool = False) -> Tally:
    """Read back what `tally_to_json` wrote; tables of hundreds go without skills."""
    lists = cast(dict[str, list[Any]], values)
    return Tally(
        ids=tuple(lists["ids"]),
        painted_labs=tuple(map(tuple, lists["painted"])),
        expected_labs=tuple(map(tuple, lists["expected"])),
        drifts=tuple(lists["drift"]),
        sigmas=tuple(lists["sigma"]),
        verdicts=tuple(_VERDICTS[word] for word in lists["verdict"]),
        skills={
            _SKILLS[name]: {cell: (pair[0], pair[1]) for cell, pair in by_cell.items()}
            for name, by_cell in cast(_BySkill, values.get("skills", {}) if skills else {}).items()
        },
    )


def difficulty_to_json(difficulty: Difficulty) -> Json:
    """Give what an exercise asks of a hand as plain values."""
    return {
        skill.value: {cell: [round(ask, 4) for ask in asks] for cell, asks in by_cell.items()}
        for skill, by_cell in difficulty.items()
    }


def difficulty_from_json(values: Json) -> Difficulty:
    """Read back what `difficulty_to_json` wrote."""
    return {_SKILLS[name]: by_cell for name, by_cell in cast(_BySkill, values).items()}


def _texts(judgement: Judgement) -> Iterator[str]:
    """Give the names that a judgement says things of."""
    for cell in judgement.cells:
        yield from (cell.label, cell.reason.limit)
    for finding in judgement.findings:
        yield finding.row


def _finding(values: Json, sources: Json) -> Finding:
    # Judges up to the fifth kept words, and tubes by their labels: those words are what is said.
    told = {"told": values["words"]} if "words" in values else {}
    return facts_from_json(Finding, {**values, **told}, sources)


def _cell_to_json(cell: CellJudgement) -> Json:
    return {
        "id": cell.id,
        "label": cell.label,
        "expected": {"value": round(cell.expected_value, 3), "lab": _rounded(cell.expected_lab)},
        "painted": {"value": round(cell.painted_value, 3), "lab": _rounded(cell.painted_lab)},
        "drift": {"value": round(cell.drift, 3), "steps": round(cell.steps, 3)},
        "sigma_value": round(cell.sigma, 4),
        "tolerance_value": cell.tolerance,
        "hue": _drift_to_json(cell.hue),
        "chroma": _drift_to_json(cell.chroma),
        "jump": _drift_to_json(cell.jump),
        "lean": _drift_to_json(cell.lean),
        "craft": None if cell.craft is None else round(cell.craft, 3),
        "doubt": _rounded(cell.doubt),
        "beyond_hand": round(cell.beyond_hand, 2) if cell.beyond_hand < inf else None,
        "verdict": cell.verdict.value,
        "why": facts_to_json(cell.reason),
        "measured": cell.measured,
    }


def _cell(values: Json, sources: Json) -> CellJudgement:
    expected, painted, drift = (cast(Json, values[n]) for n in ("expected", "painted", "drift"))
    beyond_hand = values.get("beyond_hand")
    return CellJudgement(
        id=str(values["id"]),
        label=resaid(values["label"], sources),
        expected_value=cast(float, expected["value"]),
        expected_lab=_triple(expected["lab"]),
        painted_value=cast(float, painted["value"]),
        painted_lab=_triple(painted["lab"]),
        drift=cast(float, drift["value"]),
        sigma=cast(float, values["sigma_value"]),
        steps=cast(float, drift["steps"]),
        tolerance=cast(float, values["tolerance_value"]),
        hue=_drift(values["hue"]),
        chroma=_drift(values["chroma"]),
        verdict=Verdict(values["verdict"]),
        reason=_reason(values, sources),
        # Judgements of earlier versions say nothing of these.
        measured=bool(values.get("measured", values["verdict"] != Verdict.LOOK.value)),
        jump=_drift(values.get("jump")),
        lean=_drift(values.get("lean")),
        craft=cast(float | None, values.get("craft")),
        doubt=_triple(values.get("doubt", _UNTOLD)),
        beyond_hand=inf if beyond_hand is None else cast(float, beyond_hand),
    )


def _reason(values: Json, sources: Json) -> Reason:
    if "why" in values:
        return facts_from_json(Reason, values["why"], sources)
    # Judges up to the fifth kept words.
    holds = values["verdict"] == Verdict.HOLDS.value
    return Reason(why=Why.HOLDS if holds else Why.STRAYS, told=str(values["reason"]))


def _drift_to_json(drift: Drift | None) -> Json | None:
    if drift is None:
        return None
    return {
        "drift": round(drift.amount, 3),
        "sigma": round(drift.sigma, 4),
        "tolerance": drift.tolerance,
    }


def _drift(values: object) -> Drift | None:
    if values is None:
        return None
    numbers = cast(dict[str, float], values)
    return Drift(amount=numbers["drift"], sigma=numbers["sigma"], tolerance=numbers["tolerance"])


def _rounded(lab: Triple) -> object:
    return to_plain(lab, _DIGITS, "lab")


def _triple(values: object) -> Triple:
    return cast(Triple, from_plain(Triple, values, _JUDGEMENT))
