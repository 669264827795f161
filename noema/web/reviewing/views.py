"""The review desk: one sheet after the other, the teacher's word final."""

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from noema.actions.review_sheet import review_sheet
from noema.core.errors import Refused
from noema.core.judging.review import Decision, Verb
from noema.core.judging.verdict import Verdict
from noema.web.frame.request import db, me
from noema.web.reviewing.page import desk_page, next_in_queue, pile_page

reviewing = Blueprint("reviewing", __name__)

_MOVES_ON = (Verb.ACCEPT, Verb.SEND_BACK)


@reviewing.get("/review")
def pile() -> str:
    """Show every sheet that waits, as strips."""
    return render_template(
        "reviewing/pile.html", page=pile_page(request.args.get("done", type=int))
    )


@reviewing.get("/review/<int:photograph_id>")
def desk(photograph_id: int) -> str:
    """Show one sheet on the desk."""
    page = desk_page(
        photograph_id,
        cell=request.args.get("cell"),
        view=request.args.get("view", ""),
        done=request.args.get("done", type=int),
    )
    return render_template("reviewing/desk.html", page=page)


@reviewing.post("/review/<int:photograph_id>/decide")
def decide(photograph_id: int) -> Response:
    """Record a decision, then show what comes next."""
    decision = _decision()
    after = next_in_queue(photograph_id)
    review_sheet(
        db(),
        school_id=me().school_id,
        teacher_id=me().id,
        photograph_id=photograph_id,
        decision=decision,
        lines_seen=request.form.get("seen", type=int),
    )
    if decision.verb in _MOVES_ON and after is not None:
        return redirect(url_for("reviewing.desk", photograph_id=after, done=photograph_id), 303)
    if decision.verb in _MOVES_ON:
        return redirect(url_for("reviewing.pile", done=photograph_id), 303)
    cell = decision.cell or request.form.get("cell")
    return redirect(url_for("reviewing.desk", photograph_id=photograph_id, cell=cell), 303)


def _decision() -> Decision:
    verdict = request.form.get("verdict")
    try:
        return Decision(
            verb=Verb(request.form.get("verb", "")),
            cell=request.form.get("cell") or None,
            verdict=Verdict(verdict) if verdict else None,
            sentence=request.form.get("sentence", "").strip() or None,
        )
    except ValueError as wrong:
        raise Refused("That decision isn't one of the choices: choose a button.") from wrong
