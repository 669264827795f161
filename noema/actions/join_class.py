"""A student comes in with the class's code and their own card."""

from sqlalchemy.orm import Session

from noema.core.errors import NotAllowed
from noema.core.joining.card import holder, plain_code
from noema.core.language import N_, gettext
from noema.store.students import StudentRow, card_holders_of_class, class_to_join

_NOBODY = N_("That code and card don't belong together: look at both again, or ask your teacher.")


def join_class(session: Session, secret: str, code: str, words: str) -> StudentRow:
    """Give the student whose card it is, or refuse without saying which of the two was wrong."""
    found = class_to_join(session, plain_code(code))
    students = () if found is None else card_holders_of_class(session, found.class_id)
    cards = [(student.id, student.card_serial) for student in students] or [(0, 0)]
    student_id = holder(secret, words, cards)
    for student in students:
        if student.id == student_id:
            return student
    raise NotAllowed(gettext(_NOBODY))
