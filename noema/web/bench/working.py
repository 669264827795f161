"""What a student's and a teacher's bench have in common: showing a go, doing, ending."""

from collections.abc import Callable
from datetime import UTC, datetime

from flask import redirect, render_template, request
from werkzeug.wrappers import Response

from noema.actions.practise import answered, do, end, held, practice_from, undo
from noema.core.bench.says import foreseen_words
from noema.store.bench import KeptPractice
from noema.store.paints import hue_words
from noema.web.bench.acting import (
    ASKS,
    AtHandForm,
    BenchForm,
    Do,
    acts_for,
    at_hand,
    prediction,
    undone,
)
from noema.web.bench.page import Around, answer_to, bench_page
from noema.web.frame.forms import read_form
from noema.web.frame.request import db

Answer = Response | str


def shown(kept: KeptPractice, around: Around, school_id: int) -> str:
    """Show a go as it is."""
    at = at_hand(read_form(AtHandForm, request.args), practice_from(kept))
    table = hue_words(db(), school_id).table
    page = bench_page(kept, at, around, table, request.args.get("answer", "")[:300])
    return render_template(_template(), page=page)


def worked(
    practice_id: int, find: Callable[[], KeptPractice], around: Around, school_id: int
) -> Answer:
    """Do what a button says, and show what came of it."""
    form, table = read_form(BenchForm), hue_words(db(), school_id).table
    kept = held(db(), practice_id, find, form.acts.data or 0)
    practice = practice_from(kept)
    at = at_hand(form, practice)
    said = form.do.data
    if said in ASKS:
        answered(db(), kept)
        answer = answer_to(said, practice, at.pile, table)
    elif said is Do.UNDO:
        undo(db(), kept, undone(practice.acts))
        answer = ""
    else:
        acts = acts_for(said, at, practice)
        answer = foreseen_words(do(db(), kept, acts, prediction(form), table))
    if request.headers.get("HX-Request"):
        return render_template(
            "bench/bench.html", page=bench_page(find(), at, around, table, answer)
        )
    return redirect(f"{around.here}?{at.query(answer=answer)}", 303)


def ended(kept: KeptPractice, around: Around, school_id: int) -> Answer:
    """End a go and show how it went."""
    end(db(), kept, school_id, datetime.now(UTC))
    return redirect(around.here, 303)


def _template() -> str:
    return "bench/bench.html" if request.headers.get("HX-Request") else "bench/whole.html"
