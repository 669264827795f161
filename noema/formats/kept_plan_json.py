"""A class's plan as it is kept in its row, and its part of a frame."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime
from typing import Any, cast

import msgspec

from noema.core.language import said_again, source_of
from noema.core.planning.frame import ClassFrame, SchoolFrame
from noema.core.planning.kept import KeptPlan, KeptWork
from noema.core.planning.saying import LackFact, RemedyFact, Unmet, WayOut
from noema.formats.frame_json import frame_from_json, frame_to_json
from noema.formats.plain import as_builtins, plain_text

Json = dict[str, object]


def class_to_json(frame: SchoolFrame, class_id: str) -> Json:
    """Give a class's part of a frame."""
    classes = cast(list[Json], frame_to_json(frame)["classes"])
    return next(one for one in classes if one["id"] == class_id)


def class_from_json(frame: SchoolFrame, body: Mapping[str, object]) -> ClassFrame:
    """Read a class's part, to stand in a frame; refuses what couldn't be planned."""
    whole = {**frame_to_json(frame), "classes": [body]}
    return frame_from_json(msgspec.json.encode(whole, enc_hook=plain_text)).classes[0]


def kept_plan_to_json(plan: KeptPlan) -> Json:
    """Give a plan as it is kept."""
    return {
        "times": {
            wish: [at.isoformat(timespec="minutes") for at in some]
            for wish, some in plan.times.items()
        },
        "works": {
            wish: {**as_builtins(work), "title_source": source_of(work.title)}
            for wish, work in plan.works.items()
        },
        "moved": list(plan.moved),
        "unmet": [
            {
                "class": one.class_id,
                "lack": as_builtins(one.lack),
                "ways": [
                    {"fact": as_builtins(way.fact), "frame": frame_to_json(way.frame)}
                    for way in one.ways
                ],
            }
            for one in plan.unmet
        ],
    }


def _work(body: Mapping[str, Any]) -> KeptWork:
    kept = msgspec.convert(body, KeptWork)
    source = body.get("title_source")
    return kept if source is None else replace(kept, title=said_again(source))


def kept_plan_from_json(body: Mapping[str, Any]) -> KeptPlan:
    """Read what `kept_plan_to_json` wrote."""
    return KeptPlan(
        times={
            wish: tuple(datetime.fromisoformat(at) for at in some)
            for wish, some in body["times"].items()
        },
        works={wish: _work(work) for wish, work in body["works"].items()},
        moved=tuple(body["moved"]),
        unmet=tuple(
            Unmet(
                class_id=one["class"],
                wish=one["lack"]["wish"],
                lack=msgspec.convert(one["lack"], LackFact),
                ways=tuple(
                    WayOut(
                        fact=msgspec.convert(way["fact"], RemedyFact),
                        frame=frame_from_json(
                            msgspec.json.encode(way["frame"], enc_hook=plain_text)
                        ),
                    )
                    for way in one["ways"]
                ),
            )
            for one in body["unmet"]
        ),
    )
