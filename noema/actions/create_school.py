"""A school and its first teacher begin."""

from email_validator import EmailNotValidError, validate_email
from sqlalchemy.orm import Session

from noema.actions import passwords
from noema.actions.common_passwords import is_common
from noema.actions.set_time_zone import checked_time_zone
from noema.core.errors import Refused
from noema.core.joining.role import StaffRole
from noema.core.language import ENGLISH, gettext
from noema.store.people import add_school, add_teacher, school_by_name, teacher_by_email

SHORTEST_PASSWORD = 10


def create_school(
    session: Session,
    school: str,
    email: str,
    name: str,
    password: str,
    time_zone: str = "UTC",
    language: str = ENGLISH,
) -> int:
    """Make a school with one teacher who can log in; gives the school's number."""
    if not school.strip() or school_by_name(session, school.strip()) is not None:
        raise Refused(
            gettext(
                "There is already a school called “%(school)s”, or the name is empty.",
                school=school,
            )
        )
    school_id = add_school(session, school.strip(), checked_time_zone(time_zone), language)
    add_colleague(session, school_id, email, name, password, StaffRole.ADMINISTRATOR)
    return school_id


def add_colleague(
    session: Session,
    school_id: int,
    email: str,
    name: str,
    password: str,
    role: StaffRole = StaffRole.TEACHER,
) -> int:
    """Let another person who works at a school log in; gives their number."""
    email = checked_email(email)
    if not name.strip():
        raise Refused(gettext("Give the name the teacher is called by."))
    check_password(password)
    if teacher_by_email(session, email) is not None:
        raise Refused(
            gettext("Somebody already logs in as %(email)s: use another address.", email=email)
        )
    hashed = passwords.HASHER.hash(password)
    return add_teacher(session, school_id, email, name.strip(), hashed, role)


def check_password(password: str) -> None:
    """Refuse a password that is too short, or that everybody tries first."""
    if len(password) < SHORTEST_PASSWORD:
        raise Refused(
            gettext(
                "The password is too short: use at least %(shortest_password)s characters.",
                shortest_password=SHORTEST_PASSWORD,
            )
        )
    if is_common(password):
        raise Refused(
            gettext("That password is among those everybody tries first: think of another.")
        )


def checked_email(email: str) -> str:
    """Give an address in lower case, as people log in with it; refuses what is none."""
    try:
        # Whether mail arrives there is found out by sending some, not by asking name servers.
        found = validate_email(email.strip(), check_deliverability=False)
    except EmailNotValidError as wrong:
        raise Refused(
            gettext(
                "“%(email)s” is no e-mail address: give one such as name@school.example.",
                email=email,
            )
        ) from wrong
    return found.normalized.lower()
