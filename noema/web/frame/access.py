"""Who may pass: teachers everywhere, students only on their own pages, visitors at the doors."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from flask import current_app, redirect, request, session, url_for
from flask_login import UserMixin, current_user, login_user, logout_user
from werkzeug.exceptions import SecurityError
from werkzeug.wrappers import Response

from noema.actions.come_in import Who, come_in, leave, note_seen, who_is_in
from noema.core.errors import NotAllowed
from noema.core.joining.role import Right
from noema.core.language import gettext
from noema.store.people import TeacherRow, teacher_by_id
from noema.store.reach import limit_to, reach_of_teacher
from noema.store.students import StudentRow, student_by_id
from noema.web.frame.devices import device_of
from noema.web.frame.request import db, me, sessions, student_idle_s
from noema.web.frame.rights import right_of
from noema.web.language.catalogues import begin_anew

OPEN_TO_ALL = frozenset(
    {
        "account.by_link",
        "account.follow",
        "account.forgot",
        "account.send_link",
        "by_school.begin",
        "by_school.come_back",
        "feed.calendar",
        "first_run.form",
        "first_run.found",
        "logging_in.begin_passkey",
        "logging_in.by_passkey",
        "logging_in.log_in",
        "logging_in.log_in_now",
        "logging_in.code",
        "logging_in.check_code",
        "joining.join",
        "joining.join_now",
        "language.choose",
        "language.name_swatches",
        "static",
        "health.answers",
        "health.lives",
        "health.metrics",
        "health.ready",
        "today.favicon",
    }
)
OF_STUDENTS = frozenset({"painting", "bench", "eye", "logbook", "own_pictures", "own_help"})
"""Features whose pages are a student's own; every other is a teacher's."""
_OF_BOTH = frozenset({"joining.leave"})

_TEACHER, _STUDENT = "teacher", "student"


@dataclass(frozen=True)
class User(UserMixin):  # type: ignore[misc]  # it comes without types
    """A logged-in teacher."""

    teacher: TeacherRow
    token: str

    @property
    def time_zone(self) -> str:
        """The school's time zone."""
        return self.teacher.time_zone

    @property
    def language(self) -> str | None:
        """Their own language, if they chose one."""
        return self.teacher.language

    @property
    def school_language(self) -> str:
        """The school's language."""
        return self.teacher.school_language

    @property
    def who(self) -> Who:
        """Whose log-in it is."""
        return Who(teacher_id=self.teacher.id)

    def get_id(self) -> str:
        """Give what the session keeps."""
        return f"{_TEACHER} {self.token}"


@dataclass(frozen=True)
class StudentUser(UserMixin):  # type: ignore[misc]  # it comes without types
    """A student who came in with a card; the session ends with the card."""

    student: StudentRow
    token: str

    @property
    def time_zone(self) -> str:
        """The school's time zone."""
        return self.student.time_zone

    @property
    def language(self) -> str | None:
        """Their own language, if they chose one."""
        return self.student.language

    @property
    def school_language(self) -> str:
        """The school's language."""
        return self.student.school_language

    @property
    def who(self) -> Who:
        """Whose log-in it is."""
        return Who(student_id=self.student.id)

    def get_id(self) -> str:
        """Give what the session keeps."""
        return f"{_STUDENT} {self.token}"


ASKED_BY_PAGES = {"today.stages"}
"""What pages ask for by themselves again and again: it doesn't keep a log-in going."""


def load_user(user_id: str) -> User | StudentUser | None:
    """Find who a session belongs to, while their log-in goes on."""
    _, _, token = user_id.partition(" ")
    now = datetime.now(UTC)
    found = who_is_in(db(), token, now) if token else None
    if found is None:
        return None
    if request.endpoint not in ASKED_BY_PAGES:
        note_seen(sessions(), token, found, now)
    if found.teacher_id is not None:
        teacher = teacher_by_id(db(), found.teacher_id)
        return None if teacher is None or teacher.is_disabled else _user(teacher, token)
    student = student_by_id(db(), found.student_id or 0)
    return None if student is None else StudentUser(student, token)


def _user(teacher: TeacherRow, token: str) -> User:
    """Give somebody who works at a school, and let them see their own classes alone."""
    if not teacher.role.sees_all_classes:
        limit_to(db(), reach_of_teacher(db(), teacher.id))
    return User(teacher, token)


def let_teacher_in(teacher: TeacherRow) -> None:
    """Begin a teacher's session."""
    begin_anew()
    session.permanent = True
    lasts: timedelta = current_app.permanent_session_lifetime
    who, device = Who(teacher_id=teacher.id), device_of(request.user_agent.string)
    token = come_in(db(), who, datetime.now(UTC), lasts, device)
    login_user(User(teacher, token))


def let_in(student: StudentRow, *, own_device: bool) -> None:
    """Begin a student's session; on a shared device it ends soon after the last touch."""
    begin_anew()
    session.permanent = own_device
    lasts: timedelta = current_app.permanent_session_lifetime
    if not own_device:
        lasts = timedelta(seconds=student_idle_s())
    token = come_in(db(), Who(student_id=student.id), datetime.now(UTC), lasts)
    login_user(StudentUser(student, token))


def let_out() -> None:
    """End the session of who asks, here and for any copy of it."""
    user = current_user._get_current_object()
    if isinstance(user, (User, StudentUser)):
        leave(db(), user.token)
    logout_user()
    begin_anew()


def _check_right() -> None:
    """Refuse what a role doesn't allow."""
    right = right_of(str(request.endpoint))
    if right not in me().role.rights:
        raise NotAllowed(
            gettext("Only an administrator of your school may do that: ask one.")
            if right is Right.RUN_SCHOOL
            else gettext("Assistants print, hand in and lay out: ask a teacher for this.")
        )


def require_log_in() -> Response | None:
    """Send a visitor to their door, and from there back; keep students to their own pages."""
    if request.endpoint in OPEN_TO_ALL:
        return None
    if isinstance(request.routing_exception, SecurityError):
        raise request.routing_exception  # asked for under a host that isn't ours
    of_student = request.blueprint in OF_STUDENTS
    if not current_user.is_authenticated and request.endpoint in ASKED_BY_PAGES:
        return Response(status=204)  # the page stays as it is
    if not current_user.is_authenticated:
        door = "joining.join" if of_student else "logging_in.log_in"
        wanted = request.full_path if request.method == "GET" else None
        return redirect(url_for(door, wanted=wanted))
    is_student = isinstance(current_user._get_current_object(), StudentUser)
    if request.endpoint in _OF_BOTH or (is_student and of_student):
        return None
    if not is_student and not of_student:
        _check_right()
        return None
    if is_student:
        raise NotAllowed(gettext("That page is your teacher's: go back to your own."))
    raise NotAllowed(
        gettext("That page is for students: leave, then come in with a student's card.")
    )
