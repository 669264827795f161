"""Refusals as a status and a page: the one place."""

from dataclasses import dataclass

from flask import render_template, request
from flask_login import current_user
from werkzeug.exceptions import HTTPException

from noema.core.errors import NotAllowed, NotFound, OutOfDate, Refused, StoreFull
from noema.core.language import N_, gettext
from noema.web.frame.page import Frame, Stage, frame

_STATUS = {NotFound: 404, NotAllowed: 403, OutOfDate: 409, StoreFull: 507}
_REFUSED = 422

_OUR_FAULT = N_("Something went wrong on our side. Nothing was lost: go back and try again.")
_SERVER_SAYS = {
    400: N_(
        "This page was open too long or came from elsewhere: go back, load it again and repeat."
    ),
    404: N_("There is no such page: go back, or begin again at the top left."),
    405: N_("This address can't be used that way: go back and use the button."),
    413: N_("That is more than can be sent at once: send fewer or smaller photographs."),
    429: N_("Too many tries in a short time: wait a minute, then try again."),
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
    status = wrong.code or 500
    return _answer(gettext(_SERVER_SAYS.get(status, _OUR_FAULT)), in_frame=False), status


def _answer(sentence: str, *, in_frame: bool) -> str:
    page = RefusalPage(
        frame=frame(Stage.NONE) if in_frame else None,
        sentence=sentence,
        back=request.referrer or "/",
    )
    name = "frame/notice.html" if request.headers.get("HX-Request") else "frame/refusal.html"
    return render_template(name, page=page)
