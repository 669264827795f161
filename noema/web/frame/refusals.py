"""Refusals as a status and a page: the one place."""

import logging
from dataclasses import dataclass

from flask import Response, g, render_template, request
from flask_login import AnonymousUserMixin, current_user
from sqlalchemy.exc import DataError, OperationalError
from werkzeug.exceptions import HTTPException, SecurityError

from noema.core.errors import (
    NotAllowed,
    NotFound,
    OutOfDate,
    Refused,
    StoreAway,
    StoreFull,
    TooManyTries,
)
from noema.core.language import N_, gettext
from noema.web.frame.page import Frame, Stage, frame

_STATUS = {
    NotFound: 404,
    NotAllowed: 403,
    OutOfDate: 409,
    TooManyTries: 429,
    StoreFull: 507,
    StoreAway: 503,
}
_REFUSED = 422

_OUR_FAULT = N_("Something went wrong on our side. Nothing was lost: go back and try again.")
_ELSEWHERE = N_("Noema isn't at this address: use the one on your card or from your school.")
_AWAY = N_("The database doesn't answer just now. Nothing is lost: this page tries again.")
_UNKEEPABLE = N_("Something that was sent can't be kept: go back, and write it another way.")
_AGAIN_S = 5
_LOG = logging.getLogger(__name__)
_SERVER_SAYS = {
    400: N_(
        "This page was open too long or came from elsewhere: go back, load it again and repeat."
    ),
    404: N_("There is no such page: go back, or begin again at the top left."),
    405: N_("This address can't be used that way: go back and use the button."),
    413: N_("That is more than can be sent at once: send fewer or smaller photographs."),
}


@dataclass(frozen=True, kw_only=True)
class RefusalPage:
    """One sentence and a way back."""

    frame: Frame | None
    sentence: str
    back: str


def status_of(refusal: Refused) -> int:
    """Give the HTTP status of a refusal."""
    return _STATUS.get(type(refusal), _REFUSED)


def show_refusal(refusal: Refused) -> tuple[str, int]:
    """Answer with the sentence, as a page or as the notice of a page that stays."""
    in_frame = hasattr(current_user, "teacher")
    return _answer(str(refusal), in_frame=in_frame), status_of(refusal)


def show_http_error(wrong: HTTPException) -> tuple[str, int]:
    """Answer what the server itself refuses in the same way."""
    if isinstance(wrong, SecurityError):  # of such a host no page has an address
        return gettext(_ELSEWHERE), 400
    status = wrong.code or 500
    return _answer(gettext(_SERVER_SAYS.get(status, _OUR_FAULT)), in_frame=False), status


def show_away(wrong: OperationalError) -> Response:
    """Say that the database is away; a page that was only looked at tries again by itself."""
    _LOG.error("The database doesn't answer: %s", wrong.orig)
    g._login_user = AnonymousUserMixin()  # who asks can't be looked up either
    answer = Response(_answer(gettext(_AWAY), in_frame=False), status=503)
    answer.headers["Retry-After"] = str(_AGAIN_S)
    if request.method == "GET":
        answer.headers["Refresh"] = str(_AGAIN_S)
    return answer


def show_unkeepable(_wrong: DataError) -> tuple[str, int]:
    """Answer what the database can't hold: a number too large, a text with bytes that are none."""
    return _answer(gettext(_UNKEEPABLE), in_frame=False), 400


def _answer(sentence: str, *, in_frame: bool) -> str:
    page = RefusalPage(
        frame=frame(Stage.NONE) if in_frame else None,
        sentence=sentence,
        back=request.referrer or "/",
    )
    name = "frame/notice.html" if request.headers.get("HX-Request") else "frame/refusal.html"
    return render_template(name, page=page)
