"""A series on paper is answered on a phone."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.eye_on_paper import answer_paper, rows_of_paper
from noema.core.seeing.paper import LETTERS, ROWS
from noema.web.frame.forms import TextLine, Whole, read_form
from noema.web.frame.request import db, the_student


class PaperCodeForm(Form):
    """The code at a page's top."""

    code = TextLine(most=20)


@dataclass(frozen=True, kw_only=True)
class EyePaperPage:
    """A page of paper that is answered here."""

    frame: None = None
    name: str
    code: str  # empty until it is known which
    rows: int
    letters: str = LETTERS


def add_routes(eye: Blueprint) -> None:
    """Put these pages among the eye's."""
    eye.get("/me/eye/paper")(paper)
    eye.post("/me/eye/paper")(paper_seen)


def paper() -> str:
    """Ask which page one has, then what is seen on it."""
    code = read_form(PaperCodeForm, request.args).code.data
    rows = rows_of_paper(db(), the_student().school_id, code) if code else ()
    page = EyePaperPage(name=the_student().display_name, code=code, rows=len(rows))
    return render_template("eye/paper.html", page=page)


def paper_seen() -> Response:
    """Keep what was seen on a page."""
    code, form = read_form(PaperCodeForm).code.data, read_form(_paper_form())
    chosen = [form[f"row{n}"].data for n in range(1, ROWS + 1)]
    number = answer_paper(db(), the_student(), code, chosen, datetime.now(UTC))
    return redirect(url_for("eye.of_one", series_id=number), 303)


def _paper_form() -> type[Form]:
    """Give a form with an answer a row."""
    return type("PaperForm", (Form,), {f"row{n}": Whole() for n in range(1, ROWS + 1)})
