"""Minutes a lesson needs besides painting, and what a plan leaves free; a school may change them.

From usual practice: a lesson of fifty minutes holds about thirty of painting, five to arrive and
hand out, five to show, eight to clean up and two to photograph or to lay sheets on the rack.
"""

from dataclasses import dataclass


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


USUAL = Usual()
