"""One transaction a request: kept when the answer is good, dropped when it isn't."""

from dataclasses import dataclass
from typing import cast

from flask import Flask, Response, current_app, g, request
from flask_login import current_user
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from noema.devices.colour_meter import ColourMeter
from noema.devices.file_store import FileStore
from noema.devices.looks import Looks
from noema.devices.mail import Outbox
from noema.devices.piece_store import PieceStore
from noema.store.engine import Sessions
from noema.store.people import TeacherRow
from noema.store.students import StudentRow

_KEY = "noema_parts"
_FIRST_BAD_STATUS = 400


@dataclass(frozen=True, kw_only=True)
class Parts:
    """What the pages need from outside."""

    sessions: Sessions
    files: FileStore
    meter: ColourMeter | None  # none: readings are typed or come in files
    pieces: PieceStore  # photographs on their way
    looks: Looks  # at what cameras see
    outbox: Outbox
    mail_from: str  # whom Noema's own letters are from
    card_secret: str  # students' cards are worked out from it
    student_idle_s: int  # after which a student's session on a shared device is over
    address: str  # where people reach the pages; empty: wherever they were asked for


def attach(app: Flask, parts: Parts) -> None:
    """Give every request its own session."""
    app.extensions[_KEY] = parts
    app.after_request(_keep)
    app.teardown_request(_drop)


def db() -> Session:
    """Give this request's session."""
    if "db" not in g:
        g.db = _parts().sessions()
    return cast(Session, g.db)


def sessions() -> Sessions:
    """Give the maker of sessions, for what mustn't wait for the answer."""
    return _parts().sessions


def files() -> FileStore:
    """Give the file store."""
    return _parts().files


def meter() -> ColourMeter | None:
    """Give the colour meter, if one is connected."""
    return _parts().meter


def looks() -> Looks:
    """Give where what cameras see is looked at."""
    return _parts().looks


def pieces() -> PieceStore:
    """Give where photographs wait that are on their way."""
    return _parts().pieces


def outbox() -> Outbox:
    """Give where mail goes out."""
    return _parts().outbox


def mail_from() -> str:
    """Give whom Noema's own letters are from."""
    return _parts().mail_from


def card_secret() -> str:
    """Give what students' cards are worked out from."""
    return _parts().card_secret


def address_of(path: str) -> str:
    """Give a page's whole address, for paper: by the setting, whatever a request claims."""
    return (_parts().address or request.host_url).rstrip("/") + path


def student_idle_s() -> int:
    """Give the seconds after which a student's session on a shared device is over."""
    return _parts().student_idle_s


def me() -> TeacherRow:
    """Give the teacher who asks."""
    return cast(TeacherRow, current_user.teacher)


def the_student() -> StudentRow:
    """Give the student who asks."""
    return cast(StudentRow, current_user.student)


def _parts() -> Parts:
    return cast(Parts, current_app.extensions[_KEY])


def _keep(response: Response) -> Response:
    session: Session | None = g.get("db")
    if session is not None and response.status_code < _FIRST_BAD_STATUS:
        try:
            session.commit()
        except DBAPIError as wrong:  # so late, nobody else would answer it in a sentence
            return current_app.make_response(current_app.handle_user_exception(wrong))
    return response


def _drop(_wrong: BaseException | None) -> None:
    session: Session | None = g.pop("db", None)
    if session is not None:
        session.close()
