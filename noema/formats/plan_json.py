"""A plan as JSON, format noema-plan/1."""

from collections.abc import Mapping, Sequence

from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.frame import SchoolFrame
from noema.core.planning.saying import Unmet
from noema.core.planning.timeline import LessonPart, PlannedLesson
from noema.formats.frame_json import change_of

FORMAT = "noema-plan/1"
Json = dict[str, object]


def plan_to_json(
    frame: SchoolFrame, plans: Mapping[str, ClassPlan], unmet: Sequence[Unmet]
) -> Json:
    """Give a plan as the contract's JSON, lessons and the rack in time."""
    lessons = [
        (one.lesson.at, class_id, one) for class_id, own in plans.items() for one in own.lessons
    ]
    rack = [time for own in plans.values() for time in own.rack]
    return {
        "format": FORMAT,
        "lessons": [
            _lesson(class_id, one) for _, class_id, one in sorted(lessons, key=lambda x: x[:2])
        ],
        "rack": [
            {
                "from": time.begins.isoformat(),
                "to": time.ends.isoformat(),
                "exercise": time.wish,
                "class": time.class_id,
                "sheets": time.sheets,
            }
            for time in sorted(rack, key=lambda time: (time.begins, time.class_id, time.wish))
        ],
        "due": {
            f"{class_id}/{wish}": due.isoformat()
            for class_id, own in plans.items()
            for wish in own.steps
            if wish in own.met and (due := own.due(wish)) is not None
        },
        "unmet": [
            {
                "class": one.class_id,
                "exercise": one.wish,
                "sentence": one.lack.words,
                "ways": [
                    {"sentence": way.fact.words, "change": change_of(frame, way.frame)}
                    for way in one.ways
                ],
            }
            for one in unmet
        ],
    }


def _lesson(class_id: str, one: PlannedLesson) -> Json:
    return {
        "class": class_id,
        "at": one.lesson.at.isoformat(),
        "minutes": one.lesson.minutes,
        "parts": [_part(part) for part in one.parts],
    }


def _part(part: LessonPart) -> Json:
    said: Json = {"what": part.doing.value}
    if part.wish is not None:
        said["exercise"] = part.wish
    if part.cells:
        said["cells"] = list(part.cells)
    if part.again:
        said["again"] = True
    return said | {"minutes": part.minutes, "from": part.begins_min}
