"""One transaction a request: kept when the answer is good, dropped when it isn't."""

from dataclasses import dataclass
from typing import cast

from flask import Flask, Response, current_app, g
from flask_login import current_user
from sqlalchemy.orm import Session

from noema.devices.colour_meter import ColourMeter
from noema.devices.file_store import FileStore
from noema.store.engine import Sessions
from noema.store.people import TeacherRow

_KEY = "noema_parts"
_FIRST_BAD_STATUS = 400


@dataclass(frozen=True, kw_only=True)
class Parts:
    """What the pages need from outside."""

    sessions: Sessions
    files: FileStore
    meter: ColourMeter | None  # none: readings are typed or come in files


def attach(app: Flask, parts: Parts) -> None:
    """Give every request its own session."""
    app.extensions[_KEY] = parts
    app.after_request(_keep)
    app.teardown_request(_drop)


def db() -> Session:
    """Give this request's session."""
    if "db" not in g:
        g.db = cast(Parts, current_app.extensions[_KEY]).sessions()
    return cast(Session, g.db)


def files() -> FileStore:
    """Give the file store."""
    return cast(Parts, current_app.extensions[_KEY]).files


def meter() -> ColourMeter | None:
    """Give the colour meter, if one is connected."""
    return cast(Parts, current_app.extensions[_KEY]).meter


def me() -> TeacherRow:
    """Give the teacher who asks."""
    return cast(TeacherRow, current_user.teacher)


def _keep(response: Response) -> Response:
    session: Session | None = g.get("db")
    if session is not None and response.status_code < _FIRST_BAD_STATUS:
        session.commit()
    return response


def _drop(_wrong: BaseException | None) -> None:
    session: Session | None = g.pop("db", None)
    if session is not None:
        session.close()
