"""Rubrics as JSON (docs/formats.md)."""

from dataclasses import replace
from typing import cast

from noema.core.judging.rubric import USUAL_RUBRIC, Rubric
from noema.core.language import N_
from noema.formats.plain import Json, from_plain, to_plain

_RUBRIC = N_("rubric")


def rubric_to_json(rubric: Rubric) -> Json:
    """Give a rubric as plain values."""
    return cast(Json, to_plain(rubric, {}))


def rubric_from_json(values: Json | None) -> Rubric:
    """Read back what `rubric_to_json` wrote; nothing is the usual rubric."""
    if values is None:
        return USUAL_RUBRIC
    written = from_plain(Rubric, values, _RUBRIC)
    # Kinds that came after a school wrote its rubric have their usual weights.
    return replace(written, weights={**USUAL_RUBRIC.weights, **written.weights})
