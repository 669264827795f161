"""Cards for students, to print and cut, and when they see what was read."""

from dataclasses import dataclass
from urllib.parse import urlencode

import segno
from flask import Blueprint, redirect, render_template, url_for
from markupsafe import Markup
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.replace_card import replace_card
from noema.actions.show_readings import show_readings
from noema.core.joining.card import card_words
from noema.store.classes import ClassRow, class_of_school
from noema.store.students import JoinRow, StudentRow, card_holders_of_class, join_of_class
from noema.web.frame.forms import Said, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import address_of, card_secret, db, me

cards = Blueprint("cards", __name__)

_QUIET = 2  # modules of white round a code
_MASK = 3


@dataclass(frozen=True, kw_only=True)
class StudentCard:
    """One student's card."""

    student: StudentRow
    words: str
    picture: Markup  # the QR code, as SVG


@dataclass(frozen=True, kw_only=True)
class CardsPage:
    """A class's cards."""

    frame: Frame
    row: ClassRow
    joining: JoinRow
    door: str  # the address to type
    cards: tuple[StudentCard, ...]


class ShowForm(Form):
    """Whether students see readings at once."""

    at_once = Said("at-once", name="shows")


@cards.get("/classes/<int:class_id>/cards")
def of_class(class_id: int) -> str:
    """Show every card of a class."""
    row = class_of_school(db(), me().school_id, class_id)
    joining = join_of_class(db(), class_id)
    page = CardsPage(
        frame=frame(Stage.PLAN),
        row=row,
        joining=joining,
        door=_door(),
        cards=tuple(_card(joining, student) for student in card_holders_of_class(db(), class_id)),
    )
    return render_template("joining/cards.html", page=page)


@cards.post("/classes/<int:class_id>/students/<int:student_id>/card")
def replace(class_id: int, student_id: int) -> Response:
    """End a lost card; the new one stands in its place."""
    replace_card(db(), me().school_id, class_id, student_id)
    return redirect(url_for("cards.of_class", class_id=class_id), 303)


@cards.post("/classes/<int:class_id>/showing")
def show(class_id: int) -> Response:
    """Say when students see readings."""
    at_once = read_form(ShowForm).at_once.data
    show_readings(db(), me().school_id, class_id, at_once=at_once)
    return redirect(url_for("class_settings.of_settings", class_id=class_id), 303)


def _door() -> str:
    return address_of(url_for("joining.join"))


def _card(joining: JoinRow, student: StudentRow) -> StudentCard:
    words = card_words(card_secret(), student.id, student.card_serial)
    # Behind the hash: browsers send it to nobody, so that no log and no proxy sees a card.
    told = urlencode({"code": joining.join_code, "card": "-".join(words)})
    # Readers take any mask; weighing all eight is most of the time that a class's cards take.
    code = segno.make(f"{_door()}#{told}", error="m", micro=False, mask=_MASK)
    picture = code.svg_inline(border=_QUIET, omitsize=True, svgclass="qr", lineclass=None)
    return StudentCard(student=student, words=" ".join(words), picture=Markup(picture))
