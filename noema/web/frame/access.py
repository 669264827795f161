"""Who may pass: every page asks for a log-in unless it is named here."""

from dataclasses import dataclass

from flask import redirect, request, url_for
from flask_login import UserMixin, current_user
from werkzeug.wrappers import Response

from noema.store.people import TeacherRow, teacher_by_id
from noema.web.frame.request import db

OPEN_TO_ALL = frozenset(
    {"logging_in.log_in", "logging_in.log_in_now", "static", "today.health", "today.favicon"}
)


@dataclass(frozen=True)
class User(UserMixin):
    """A logged-in teacher."""

    teacher: TeacherRow

    def get_id(self) -> str:
        """Give what the session keeps."""
        return str(self.teacher.id)


def load_user(user_id: str) -> User | None:
    """Find who a session belongs to."""
    teacher = teacher_by_id(db(), int(user_id)) if user_id.isdigit() else None
    return None if teacher is None else User(teacher)


def require_log_in() -> Response | None:
    """Send a visitor to the log-in page, and from there back to where they wanted to go."""
    if request.endpoint in OPEN_TO_ALL or current_user.is_authenticated:
        return None
    wanted = request.full_path if request.method == "GET" else None
    return redirect(url_for("logging_in.log_in", wanted=wanted))
