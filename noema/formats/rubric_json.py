"""Rubrics as JSON (docs/formats.md)."""

from typing import cast

from noema.core.exercises.skills import Skill
from noema.core.judging.rubric import USUAL_RUBRIC, Rubric

Json = dict[str, object]


def rubric_to_json(rubric: Rubric) -> Json:
    """Give a rubric as plain values."""
    return {
        "names": list(rubric.names),
        "weights": {
            kind: {skill.value: weight for skill, weight in of_kind.items()}
            for kind, of_kind in rubric.weights.items()
        },
        "out_of": rubric.out_of,
    }


def rubric_from_json(values: Json | None) -> Rubric:
    """Read back what `rubric_to_json` wrote; nothing is the usual rubric."""
    if values is None:
        return USUAL_RUBRIC
    weights = cast(dict[str, dict[str, float]], values["weights"])
    written = {
        kind: {Skill(name): float(weight) for name, weight in of_kind.items()}
        for kind, of_kind in weights.items()
    }
    return Rubric(
        names=tuple(cast(list[str], values["names"])),
        # Kinds that came after a school wrote its rubric have their usual weights.
        weights={**USUAL_RUBRIC.weights, **written},
        out_of=cast(int | None, values["out_of"]),
    )
