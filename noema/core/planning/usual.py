"""Minutes a lesson needs besides painting, and what a plan leaves free; a school may change them.

From usual practice: a lesson of fifty minutes holds about thirty of painting, five to arrive and
hand out, five to show, eight to clean up and two to photograph or to lay sheets on the rack.
"""

from dataclasses import dataclass, replace
from math import ceil

from noema.core.planning.frame import Room


@dataclass(frozen=True, kw_only=True)
class Usual:
    """What is planned with."""

    set_up_min: int = 5  # arrive, hand out, sit down
    show_min: int = 5  # an exercise that begins
    remind_min: int = 2  # an exercise that goes on
    photograph_min: int = 2  # an exercise that is dry
    hand_back_min: int = 3  # sheets that went back
    clean_up_min: int = 8  # paint
    tidy_min: int = 4  # where nothing wet was used
    to_rack_min: int = 2  # wet sheets
    margin: float = 1.15  # painting is planned so much longer, for the slow
    redo_share: float = 1 / 3  # of an exercise's painting, for painting again what went back
    longest_redo_min: int = 20  # however long the exercise was
    redo_people: float = 0.5  # of a class, who have a sheet that went back
    review_h: int = 24  # from handing in until sheets can go back
    most_at_once: int = 2  # exercises painted in one lesson
    sharing: float = 1.0  # painting takes so much longer where brushes or palettes are shared


USUAL = Usual()
_PEOPLE_A_SINK = 12  # who wash up in the usual minutes
_PEOPLE_TO_TWO_JARS = 4


def usual_in(usual: Usual, room: Room, people: int) -> Usual:
    """Give what a class is planned with in its room.

    Who washes up waits for a sink, and who shares brushes, a palette or water waits for them: so
    many more minutes are needed as there are more people than places.

    >>> usual_in(USUAL, Room(sinks=1, palettes=20), 24).clean_up_min
    16
    """
    places = [one for one in (room.brushes, room.palettes) if one is not None]
    if room.jars is not None:
        places.append(max(room.jars // 2, 1) * _PEOPLE_TO_TWO_JARS)
    washing = usual.clean_up_min * people / (_PEOPLE_A_SINK * room.sinks)
    return replace(
        usual,
        clean_up_min=max(usual.clean_up_min, ceil(washing)),
        sharing=max([1.0, *(people / one for one in places)]),
    )
