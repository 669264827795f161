"""The review desk: one sheet after the other, the teacher's word final."""

from urllib.parse import parse_qsl

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.datastructures import MultiDict
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.accept_holding import accept_holding, take_back
from noema.actions.match_photograph import give_to_another
from noema.actions.review_sheet import review_sheet
from noema.core.errors import Refused
from noema.core.judging.review import Decision, Verb
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, gettext
from noema.store.reviews import attempt_of_school
from noema.web.frame.forms import Exactly, Many, OneOf, OneOrNone, Said, TextLine, Whole, read_form
from noema.web.frame.request import db, me
from noema.web.reviewing.look import look_of
from noema.web.reviewing.page import asks_first, desk_page, next_in_queue
from noema.web.reviewing.queue import accepted_page, holding_page, queue_page
from noema.web.reviewing.whose import whose_page

reviewing = Blueprint("reviewing", __name__)

_NO_DECISION = N_("That decision isn't one of the choices: choose a button.")
_MOVES_ON = (Verb.ACCEPT, Verb.SEND_BACK)


class DecisionForm(Form):
    """What a teacher decides about a sheet, or one of its cells."""

    verb = OneOf(Verb, _NO_DECISION)
    cell = Exactly()
    verdict = OneOrNone(Verdict, _NO_DECISION)
    sentence = TextLine()
    seen = Whole()
    sure = Said("yes")
    look = Exactly()  # how the sheet was looked at, as the address says it


class SeenForm(Form):
    """The sheets that were shown, each as number:lines."""

    seen = Many()


class TakeBackForm(Form):
    """The photographs whose acceptance is undone."""

    photograph = Many()


class WhoseForm(Form):
    """The sheet a photograph shows."""

    sheet = Whole()


@reviewing.get("/review")
def queue() -> str:
    """Show every sheet that waits, as strips."""
    return render_template(
        "reviewing/queue.html",
        page=queue_page(request.args.get("done", type=int)),
    )


@reviewing.get("/review/<int:photograph_id>")
def desk(photograph_id: int) -> str:
    """Show one sheet on the desk."""
    return render_template("reviewing/desk.html", page=desk_page(photograph_id))


@reviewing.post("/review/<int:photograph_id>/decide")
def decide(photograph_id: int) -> Response:
    """Record a decision, then show what comes next."""
    given = read_form(DecisionForm)
    decision = Decision(
        verb=given.verb.data,
        cell=given.cell.data or None,
        verdict=given.verdict.data,
        sentence=given.sentence.data or None,
    )
    attempt = attempt_of_school(db(), me().school_id, photograph_id)
    if decision.verb is Verb.ACCEPT and not given.sure.data and asks_first(attempt):
        return redirect(url_for("reviewing.desk", photograph_id=photograph_id, sure=1), 303)
    after = next_in_queue(photograph_id)
    review_sheet(
        db(),
        school_id=me().school_id,
        teacher_id=me().id,
        photograph_id=photograph_id,
        decision=decision,
        lines_seen=given.seen.data,
    )
    if decision.verb in _MOVES_ON and after is not None:
        return redirect(url_for("reviewing.desk", photograph_id=after, done=photograph_id), 303)
    if decision.verb in _MOVES_ON:
        return redirect(url_for("reviewing.queue", done=photograph_id), 303)
    looked = MultiDict(parse_qsl(given.look.data))
    look = look_of(looked, decision.cell or looked.get("cell", ""))
    address = url_for("reviewing.desk", photograph_id=photograph_id)
    return redirect(f"{address}?{look.query}", 303)


@reviewing.get("/review/exercises/<int:assignment_id>/holding")
def holding(assignment_id: int) -> str:
    """Show the sheets of an exercise that plainly hold, side by side."""
    return render_template("reviewing/holding.html", page=holding_page(assignment_id))


@reviewing.post("/review/exercises/<int:assignment_id>/holding")
def accept_all(assignment_id: int) -> str:
    """Accept the sheets that were shown; who was decided on meanwhile is named."""
    accepted = accept_holding(
        db(),
        school_id=me().school_id,
        teacher_id=me().id,
        assignment_id=assignment_id,
        seen=_seen(),
    )
    page = accepted_page(assignment_id, accepted)
    return render_template("reviewing/accepted.html", page=page)


@reviewing.post("/review/exercises/<int:assignment_id>/take-back")
def take_all_back(assignment_id: int) -> Response:
    """Undo an acceptance of several sheets."""
    ids = tuple(int(one) for one in read_form(TakeBackForm).photograph.data if one.isdigit())
    take_back(
        db(),
        school_id=me().school_id,
        teacher_id=me().id,
        assignment_id=assignment_id,
        photograph_ids=ids,
    )
    return redirect(url_for("reviewing.holding", assignment_id=assignment_id), 303)


@reviewing.get("/review/<int:photograph_id>/whose")
def whose(photograph_id: int) -> str:
    """Ask which student's sheet a photograph shows."""
    return render_template("reviewing/whose.html", page=whose_page(photograph_id))


@reviewing.post("/review/<int:photograph_id>/whose")
def give(photograph_id: int) -> Response:
    """Give a photograph to another student's sheet; it is read again as that one."""
    give_to_another(
        db(),
        school_id=me().school_id,
        teacher_id=me().id,
        photograph_id=photograph_id,
        sheet_id=read_form(WhoseForm).sheet.data or 0,
    )
    return redirect(url_for("reviewing.queue"), 303)


def _seen() -> dict[int, int]:
    """Read "number:lines" of every sheet that was shown."""
    seen = {}
    for pair in read_form(SeenForm).seen.data:
        number, _, lines = pair.partition(":")
        if not (number.isdigit() and lines.isdigit()):
            raise Refused(gettext("That list can't be read: open the page again."))
        seen[int(number)] = int(lines)
    return seen
