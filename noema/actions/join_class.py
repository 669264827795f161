"""A student comes in with the class's code and their own card."""

from sqlalchemy.orm import Session

from noema.core.errors import NotAllowed
from noema.core.joining.card import holder, plain_code
from noema.store.pupils import PupilRow, class_to_join, pupils_of_class

_NOBODY = "That code and card don't belong together: look at both again, or ask your teacher."


def join_class(session: Session, secret: str, code: str, words: str) -> PupilRow:
    """Give the student whose card it is, or refuse without saying which of the two was wrong."""
    found = class_to_join(session, plain_code(code))
    pupils = () if found is None else pupils_of_class(session, found.class_id)
    cards = [(pupil.id, pupil.card_serial) for pupil in pupils] or [(0, 0)]
    student_id = holder(secret, words, cards)
    for pupil in pupils:
        if pupil.id == student_id:
            return pupil
    raise NotAllowed(_NOBODY)
