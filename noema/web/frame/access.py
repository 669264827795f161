"""Who may pass: teachers everywhere, students only on their own pages, visitors at the doors."""

from dataclasses import dataclass
from time import time

from flask import redirect, request, session, url_for
from flask_login import UserMixin, current_user, login_user
from werkzeug.wrappers import Response

from noema.core.errors import NotAllowed
from noema.core.language import gettext
from noema.store.people import TeacherRow, teacher_by_id
from noema.store.students import StudentRow, student_by_id
from noema.web.frame.request import db, student_idle_s
from noema.web.language.catalogues import begin_anew

OPEN_TO_ALL = frozenset(
    {
        "logging_in.log_in",
        "logging_in.log_in_now",
        "joining.join",
        "joining.join_now",
        "language.choose",
        "static",
        "today.health",
        "today.favicon",
    }
)
OF_STUDENTS = frozenset({"painting"})
"""Features whose pages are a student's own; every other is a teacher's."""
_OF_BOTH = frozenset({"joining.leave"})

_TEACHER, _STUDENT = "teacher", "student"
_SEEN, _OWN_DEVICE = "seen_at", "own_device"


@dataclass(frozen=True)
class User(UserMixin):  # type: ignore[misc]  # it comes without types
    """A logged-in teacher."""

    teacher: TeacherRow

    @property
    def time_zone(self) -> str:
        """The school's time zone."""
        return self.teacher.time_zone

    def get_id(self) -> str:
        """Give what the session keeps."""
        return f"{_TEACHER} {self.teacher.id}"


@dataclass(frozen=True)
class StudentUser(UserMixin):  # type: ignore[misc]  # it comes without types
    """A student who came in with a card; the session ends with the card."""

    student: StudentRow

    @property
    def time_zone(self) -> str:
        """The school's time zone."""
        return self.student.time_zone

    def get_id(self) -> str:
        """Give what the session keeps."""
        return f"{_STUDENT} {self.student.id} {self.student.card_serial}"


def load_user(user_id: str) -> User | StudentUser | None:
    """Find who a session belongs to."""
    kind, *numbers = user_id.split(" ")
    if not numbers or not all(number.isdigit() for number in numbers):
        return None
    if kind == _TEACHER:
        teacher = teacher_by_id(db(), int(numbers[0]))
        return None if teacher is None else User(teacher)
    student = student_by_id(db(), int(numbers[0]))
    if student is None or str(student.card_serial) != numbers[-1] or _has_idled():
        return None
    return StudentUser(student)


def let_in(student: StudentRow, *, own_device: bool) -> None:
    """Begin a student's session; on a shared device it ends soon after the last touch."""
    begin_anew()
    session.permanent = own_device
    session[_OWN_DEVICE] = own_device
    session[_SEEN] = int(time())
    login_user(StudentUser(student))


def _has_idled() -> bool:
    return not session.get(_OWN_DEVICE) and time() - session.get(_SEEN, 0) > student_idle_s()


def require_log_in() -> Response | None:
    """Send a visitor to their door, and from there back; keep students to their own pages."""
    if request.endpoint in OPEN_TO_ALL:
        return None
    of_student = request.blueprint in OF_STUDENTS
    if not current_user.is_authenticated:
        door = "joining.join" if of_student else "logging_in.log_in"
        wanted = request.full_path if request.method == "GET" else None
        return redirect(url_for(door, wanted=wanted))
    is_student = isinstance(current_user._get_current_object(), StudentUser)
    if is_student:
        session[_SEEN] = int(time())
    if request.endpoint in _OF_BOTH or is_student == of_student:
        return None
    if is_student:
        raise NotAllowed(gettext("That page is your teacher's: go back to your own."))
    raise NotAllowed(
        gettext("That page is for students: leave, then come in with a student's card.")
    )
