"""A school's rubric and phrase book."""

from dataclasses import dataclass
from itertools import product

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.write_rubric import rubric_of, write_rubric
from noema.core.errors import Refused
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.skills import Skill
from noema.core.judging.rubric import LEVELS, Rubric
from noema.core.language import gettext
from noema.core.words.findings import subjects
from noema.store.phrases import PhraseRow, drop_phrase, phrase_book
from noema.web.frame.forms import Exactly, Said, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me

rubrics = Blueprint("rubrics", __name__)


@dataclass(frozen=True, kw_only=True)
class WeightsLine:
    """The weights of one kind of exercise."""

    name: str
    label: str
    weights: tuple[tuple[str, str], ...]  # skill and weight as written


@dataclass(frozen=True, kw_only=True)
class RubricPage:
    """The rubric to be edited, and the phrase book."""

    frame: Frame
    skills: tuple[str, ...]
    names: tuple[str, ...]
    lines: tuple[WeightsLine, ...]
    out_of: str
    phrases: tuple[PhraseRow, ...]
    subjects: dict[str, str]  # what a phrase is about, in words
    kept: bool
    sentence: str = ""


class RubricForm(Form):
    """The levels' names, a weight for each skill of each kind, and what a mark is out of."""

    usual = Said("1")
    out_of = Exactly()


for _n in range(LEVELS):
    setattr(RubricForm, f"level{_n}", Exactly())
for _kind, _skill in product(KINDS, Skill):
    setattr(RubricForm, f"{_kind}.{_skill.value}", Exactly())


@rubrics.get("/rubric")
def rubric() -> str:
    """Show what counts for each kind, the levels' names, and the phrase book."""
    page = _page(rubric_of(db(), me().school_id), kept="kept" in request.args)
    return render_template("rubrics/rubric.html", page=page)


@rubrics.post("/rubric")
def write() -> Response | tuple[str, int]:
    """Keep the rubric as written, or go back to the usual one."""
    form = read_form(RubricForm)
    if form.usual.data:
        write_rubric(db(), me().school_id, None)
        return redirect(url_for("rubrics.rubric", kept=1), 303)
    try:
        write_rubric(db(), me().school_id, _written(form))
    except Refused as refusal:
        db().rollback()
        page = _as_sent(form, str(refusal))
        return render_template("rubrics/rubric.html", page=page), status_of(refusal)
    return redirect(url_for("rubrics.rubric", kept=1), 303)


@rubrics.post("/phrases/<int:phrase_id>/drop")
def drop(phrase_id: int) -> Response:
    """Take a sentence out of the phrase book."""
    drop_phrase(db(), me().school_id, phrase_id)
    return redirect(url_for("rubrics.rubric"), 303)


def _page(now: Rubric, *, kept: bool) -> RubricPage:
    lines = tuple(
        WeightsLine(
            name=name,
            label=gettext(kind_of(name).label),
            weights=tuple(
                (skill.value, f"{now.of_kind(name).get(skill, 0.0):g}") for skill in Skill
            ),
        )
        for name in KINDS
    )
    return RubricPage(
        frame=frame(Stage.PLAN),
        skills=tuple(skill.value for skill in Skill),
        names=now.names,
        lines=lines,
        out_of="" if now.out_of is None else str(now.out_of),
        phrases=phrase_book(db(), me().school_id),
        subjects=subjects(),
        kept=kept,
    )


def _as_sent(form: RubricForm, sentence: str) -> RubricPage:
    """Show what was sent once more, so that it can be put right."""
    lines = tuple(
        WeightsLine(
            name=name,
            label=gettext(kind_of(name).label),
            weights=tuple((skill.value, form[f"{name}.{skill.value}"].data) for skill in Skill),
        )
        for name in KINDS
    )
    return RubricPage(
        frame=frame(Stage.PLAN),
        skills=tuple(skill.value for skill in Skill),
        names=tuple(form[f"level{n}"].data for n in range(LEVELS)),
        lines=lines,
        out_of=form.out_of.data,
        phrases=phrase_book(db(), me().school_id),
        subjects=subjects(),
        kept=False,
        sentence=sentence,
    )


def _written(form: RubricForm) -> Rubric:
    out_of = form.out_of.data.strip()
    return Rubric(
        names=tuple(form[f"level{n}"].data.strip() for n in range(LEVELS)),
        weights={
            name: {skill: _number(form[f"{name}.{skill.value}"].data, name) for skill in Skill}
            for name in KINDS
        },
        out_of=None if not out_of else int(_number(out_of, gettext("the mark"))),
    )


def _number(given: str, what: str) -> float:
    text = given.strip().replace(",", ".") or "0"
    try:
        return float(text)
    except ValueError as wrong:
        raise Refused(
            gettext("“%(text)s” is no number: look at %(what)s.", text=text[:20], what=what)
        ) from wrong
