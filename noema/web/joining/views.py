"""Students come in with the class's code and their card, and leave again."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.join_class import join_class
from noema.core.errors import NotAllowed, TooManyTries
from noema.core.joining.card import plain_code
from noema.web.frame.access import let_in, let_out
from noema.web.frame.forms import Exactly, Said, read_form
from noema.web.frame.guessing import limits_of_card, slowed
from noema.web.frame.refusals import status_of
from noema.web.frame.request import card_secret, db
from noema.web.frame.ways_back import safe

joining = Blueprint("joining", __name__)


@dataclass(frozen=True, kw_only=True)
class JoinPage:
    """The students' door."""

    frame: None = None
    code: str = ""
    words: str = ""
    wanted: str = ""
    sentence: str = ""


class JoinForm(Form):
    """A class code and the words of a card."""

    code = Exactly()
    card = Exactly()
    wanted = Exactly()
    own_device = Said("own", name="device")


@joining.get("/join")
def join() -> str:
    """Show the door; what a card's QR code says is filled in by a script: it isn't sent."""
    page = JoinPage(wanted=safe(request.args.get("wanted", "")))
    return render_template("joining/join.html", page=page)


@joining.post("/join")
def join_now() -> Response | tuple[str, int]:
    """Check whose card it is and let them in."""
    given = read_form(JoinForm)
    code, words = given.code.data, given.card.data[:80]
    wanted = safe(given.wanted.data)
    try:
        student = slowed(
            limits_of_card(plain_code(code)), lambda: join_class(db(), card_secret(), code, words)
        )
    except (NotAllowed, TooManyTries) as refusal:
        page = JoinPage(code=plain_code(code), words=words, wanted=wanted, sentence=str(refusal))
        return render_template("joining/join.html", page=page), status_of(refusal)
    let_in(student, own_device=given.own_device.data)
    return redirect(wanted or url_for("painting.due"))


@joining.post("/leave")
def leave() -> Response:
    """End the session; what a device kept of it goes."""
    let_out()
    answer = redirect(url_for("joining.join"))
    answer.headers["Clear-Site-Data"] = '"cache", "storage"'
    return answer
