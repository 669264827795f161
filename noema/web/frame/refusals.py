"""Refusals as a status and a page: the one place."""

from dataclasses import dataclass

from flask import render_template, request
from flask_login import current_user

from noema.core.errors import NotAllowed, NotFound, OutOfDate, Refused, StoreFull
from noema.web.frame.page import Frame, Stage, frame

_STATUS = {NotFound: 404, NotAllowed: 403, OutOfDate: 409, StoreFull: 507}
_REFUSED = 422


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
    page = RefusalPage(
        frame=frame(Stage.NONE) if current_user.is_authenticated else None,
        sentence=str(refusal),
        back=request.referrer or "/",
    )
    name = "frame/notice.html" if request.headers.get("HX-Request") else "frame/refusal.html"
    return render_template(name, page=page), status_of(refusal)
