"""One sheet, printed, painted and photographed in ten minutes, without a class."""

from dataclasses import dataclass

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.try_one_sheet import hand_in_trial, trial_drawing, tried_sheet
from noema.core.errors import Refused
from noema.core.judging.review import Review
from noema.core.language import gettext
from noema.core.sheet.paper import Paper
from noema.formats.photo_file import MOST_BYTES
from noema.store.trials import trial_of_teacher
from noema.web.drawings.strip import Strip, make_strip
from noema.web.frame.forms import SentFile, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, files, me
from noema.web.printing.sizes import drawings_pdf

trial = Blueprint("trial", __name__)


@dataclass(frozen=True, kw_only=True)
class TrialPart:
    """What came of the trial so far; the part that is fetched again."""

    waits: bool
    strip: Strip | None
    sentence: str


@dataclass(frozen=True, kw_only=True)
class TrialPage(TrialPart):
    """The whole page."""

    frame: Frame


class TrialForm(Form):
    """A photograph of the trial sheet."""

    photo = SentFile(MOST_BYTES)


@trial.get("/trial")
def page() -> str:
    """Show the three steps, and what came of them."""
    kept = trial_of_teacher(db(), me().id)
    tried = None if kept is None else tried_sheet(kept)
    judged = None if tried is None else tried.judgement
    part = TrialPart(
        waits=kept is not None and tried is None,
        strip=None if judged is None else make_strip(judged, Review()),
        sentence="" if tried is None else tried.sentence,
    )
    if "HX-Request" in request.headers:
        return render_template("trial/tried.html", page=part)
    whole = TrialPage(frame=frame(Stage.NONE), **vars(part))
    return render_template("trial/trial.html", page=whole)


@trial.get("/trial/sheet-<paper>.pdf")
def sheet(paper: str) -> Response:
    """Give the trial sheet to print."""
    if paper not in {one.value for one in Paper}:
        raise Refused(gettext("That paper isn't on the list: choose A4 or Letter."))
    drawing = trial_drawing(Paper(paper), me().display_name)
    return drawings_pdf([drawing], gettext("Trial sheet"), "trial.pdf")


@trial.post("/trial")
def hand_in() -> AnyResponse:
    """Take its photograph."""
    data = read_form(TrialForm).photo.bytes
    if not data:
        raise Refused(gettext("Choose the photograph of your sheet first."))
    hand_in_trial(db(), files(), me().school_id, me().id, data)
    return redirect(f"{url_for('trial.page')}#tried", 303)
