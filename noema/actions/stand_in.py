"""Which tube of a school's cupboard could stand in for one that lacks."""

from sqlalchemy.orm import Session

from noema.actions.cupboard import cupboard_of
from noema.actions.frames import frames_of_school, workshop_of
from noema.actions.lesson_facts import asked_of
from noema.core.errors import NotFound, Refused
from noema.core.exercises.media import Medium
from noema.core.language import gettext
from noema.core.planning.instead import Neighbour, neighbours
from noema.store.paints import all_tubes, hue_words

_MOST_CLASSES = 6  # whose exercises are tried


def neighbours_of(
    session: Session, school_id: int, tube: str, medium: str
) -> tuple[str, tuple[Neighbour, ...]]:
    """Give what the tube is called, and what could stand in, tried on exercises of its medium."""
    known = all_tubes(session, school_id)
    if tube not in known or medium not in [one.value for one in Medium if not one.is_dry]:
        raise NotFound(gettext("There is no such tube: choose one of the cupboard."))
    left = cupboard_of(session, school_id).left
    names = {one.paint.tube for one in left if one.left_ml > 0 and one.paint.medium.value == medium}
    there = [known[name] for name in sorted(names) if name in known]
    table, tried = hue_words(session, school_id).table, 0
    for one, _, frame in frames_of_school(session, school_id):
        wishes = [
            wish
            for wish in frame.classes[0].unit
            if wish.medium.value == medium and wish.set_ref is not None
        ]
        if not wishes or tried >= _MOST_CLASSES:
            continue
        tried += 1
        shop = workshop_of(session, school_id, one.id)
        asked = asked_of(shop, {wish.id: wish for wish in wishes}, [wish.id for wish in wishes])
        try:
            paints = shop.paints_of(wishes[0].set_ref)
        except Refused:  # its set is gone from the shelf
            continue
        found = neighbours(tube, paints, asked.values(), there, table)
        if found:
            return known[tube].label, found
    return known[tube].label, ()
