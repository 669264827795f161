"""Logging in with a passkey, which stands for password and code."""

from flask import Blueprint, Response, url_for

from noema.actions import passkeys as actions
from noema.core.joining.deeds import Deed
from noema.web.frame.access import let_teacher_in
from noema.web.frame.noted import note
from noema.web.frame.passkey import answered, asked, site
from noema.web.frame.request import db


def add_routes(logging_in: Blueprint) -> None:
    """Add the two steps."""
    logging_in.post("/log-in/passkey/begin")(begin_passkey)
    logging_in.post("/log-in/passkey")(by_passkey)


def begin_passkey() -> Response:
    """Ask the browser who it is."""
    return asked(actions.ask_who(site()))


def by_passkey() -> dict[str, str]:
    """Let in whose passkey answered."""
    answer, challenge = answered()
    teacher = actions.who_answers(db(), answer, challenge, site())
    let_teacher_in(teacher)
    note(Deed.CAME_IN, by=teacher)
    return {"to": url_for("today.home")}
