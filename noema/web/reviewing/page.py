"""What the review desk shows of one sheet."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import cast

from flask import request

from noema.actions.say_to import sentence_of
from noema.actions.work_out_exercise import exercise_of, for_sheet
from noema.core.coaching.advice import first_finding
from noema.core.coaching.moves import Move
from noema.core.exercises.catalogue import has, kind_of
from noema.core.exercises.kind import Trait
from noema.core.exercises.media import Medium
from noema.core.exercises.painted_keys import as_painted
from noema.core.judging.judgement import CellJudgement, Judgement, past_tolerance
from noema.core.judging.review import Review, ReviewState, Verb
from noema.core.judging.skills import SkillMark, mark_of, skill_marks
from noema.core.judging.tally import mostly_strays
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, gettext, written
from noema.core.photo.hints import hints
from noema.core.photo.knowledge import Knowledge, knowledge_sentence
from noema.core.photo.reading import SheetFlag
from noema.core.words.amounts import cell_words
from noema.core.words.findings import finding_words
from noema.core.words.moves import move_words
from noema.core.words.reasons import reason_words
from noema.formats.facts_json import facts_from_json
from noema.formats.judgement_json import judgement_from_json, tally_from_json
from noema.formats.layout_json import layout_from_json
from noema.formats.photo_file import upright_size
from noema.formats.rubric_json import rubric_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school
from noema.store.base import Json
from noema.store.decisions import RecordLine, record_of
from noema.store.desk import BehindDesk, behind_desk
from noema.store.phrases import PhraseRow, phrases_for
from noema.store.reviews import AttemptRow, attempts_of_school, earlier_attempt, place_in_queue
from noema.web.drawings.asked_plot import AskedPlot, make_asked_plot
from noema.web.drawings.stair import Stair, make_stair
from noema.web.drawings.strip import Strip, TinyStrip, make_strip, make_tiny_strips
from noema.web.frame.clock import here, short_moment
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, files, me
from noema.web.reviewing.look import VIEWS, Look, look_of
from noema.web.reviewing.numbers import NumberLine, number_lines
from noema.web.reviewing.queue import Done, decided_just_now
from noema.web.reviewing.sight import (
    Sight,
    sight_of_key,
    sight_of_photograph,
    sight_of_sheet,
)


@dataclass(frozen=True, kw_only=True)
class Earlier:
    """The attempt before this one."""

    photograph_id: int
    strip: TinyStrip
    sentence: str  # that was written then


@dataclass(frozen=True, kw_only=True)
class DeskPage:
    """One sheet on the desk."""

    frame: Frame
    attempt: AttemptRow
    assignment: AssignmentRow
    judgement: Judgement
    review: Review
    strip: Strip
    stair: Stair | None  # of a value scale; the other kinds have a plot of their own
    plot: AskedPlot | None
    sight: Sight  # the sheet as the chosen view shows it
    key: Sight | None  # drawn beside it, where asked for
    earlier: Earlier | None
    hints: tuple[str, ...]  # about the photograph, and what its reading went by
    asks: str  # before most of a sheet that strays is accepted
    may_add: bool  # another picture of the sheet may be read together with this one
    other_print: str  # said where it isn't what the assignment's printer lays
    place: str  # such as 3 of 24
    before: int | None  # photograph to go back to
    after: int | None
    look: Look
    cell: CellJudgement
    numbers: tuple[NumberLine, ...]  # of the cell
    cell_verdict: str  # the word that counts
    cell_before: str
    cell_after: str
    move: str  # what to do next with the cell; empty where it holds
    reason: str  # why the cell has its verdict
    findings: tuple[str, ...]  # what the sheet shows
    views: dict[str, str]
    skills: tuple[SkillMark, ...]
    mark: float | None  # where the school wants one
    out_of: int | None
    record: tuple[str, ...]  # lines for people, newest first
    lines: int
    done: Done | None
    suggestion: str  # what to write when sending back
    phrases: tuple[PhraseRow, ...]  # written before where the same was found


def desk_page(photograph_id: int) -> DeskPage:
    """Collect everything about one sheet."""
    asked_for = [photograph_id, request.args.get("done", photograph_id, type=int)]
    attempt, done = attempts_of_school(db(), me().school_id, asked_for)
    behind = behind_desk(db(), photograph_id)
    judgement, layout = judgement_from_json(behind.judgement), layout_from_json(behind.layout)
    assignment = assignment_of_school(db(), me().school_id, attempt.assignment_id)
    queue = place_in_queue(db(), me().school_id, photograph_id)
    lines = record_of(db(), photograph_id)
    ids = [one.id for one in judgement.cells]
    wanted = request.args.get("cell", "")
    look = look_of(request.args, wanted if wanted in ids else _most_telling(judgement))
    place = ids.index(look.cell)
    verdict = attempt.review.overruled.get(look.cell, judgement.cells[place].verdict)
    rubric = rubric_from_json(behind.rubric)
    skills = skill_marks(judgement, attempt.review, rubric)
    is_scale = has(judgement.exercise, Trait.ONE_SCALE) and behind.cells is None
    phrases = phrases_for(db(), me().school_id, [first_finding(judgement)])
    names = {one.id: one.label for one in judgement.cells}
    return DeskPage(
        frame=frame(Stage.REVIEW),
        attempt=attempt,
        assignment=assignment,
        judgement=judgement,
        review=attempt.review,
        strip=make_strip(judgement, attempt.review),
        stair=make_stair(judgement) if is_scale else None,
        plot=None if is_scale else _plot(assignment, behind, judgement),
        sight=_photographed(behind, judgement, look.cell)
        if look.view == "photograph"
        else sight_of_sheet(layout, judgement, look.cell),
        key=sight_of_key(layout, judgement, look.cell) if look.view == "key" else None,
        earlier=_earlier(attempt),
        hints=(*_gentler(judgement, assignment, attempt), *_hints(behind.reading)),
        asks=_asks(attempt) if "sure" in request.args else "",
        may_add=attempt.review.state is ReviewState.OPEN,
        other_print=knowledge_sentence(
            one for one in _knowledge(behind.reading) if one is Knowledge.OTHER_PRINT
        ),
        place=gettext("decided")
        if queue.number is None
        else gettext("%(number)s of %(waiting)s", number=queue.number, waiting=queue.waiting),
        before=queue.before,
        after=queue.after,
        look=look,
        cell=judgement.cells[place],
        numbers=number_lines(judgement.cells[place]),
        cell_verdict=gettext(verdict.value),
        cell_before=ids[max(place - 1, 0)],
        cell_after=ids[min(place + 1, len(ids) - 1)],
        move=_move(behind, judgement, look.cell, assignment.medium),
        reason=reason_words(judgement.cells[place].reason),
        findings=tuple(finding_words(one, judgement) for one in judgement.findings),
        views={name: gettext(words) for name, words in VIEWS.items()},
        skills=skills,
        mark=mark_of(skills, rubric),
        out_of=rubric.out_of,
        record=tuple(_said(line, names) for line in reversed(lines)),
        lines=len(lines),
        done=decided_just_now(done) if "done" in request.args else None,
        suggestion=_suggestion(attempt, phrases, lines),
        phrases=phrases,
    )


def next_in_queue(photograph_id: int) -> int | None:
    """Give the sheet that comes after one, round to the first."""
    place = place_in_queue(db(), me().school_id, photograph_id)
    return place.after or place.first


def _most_telling(judgement: Judgement) -> str:
    """Begin where a finding is, or at the cell that strays most."""
    found = next((finding.cells[0] for finding in judgement.findings if finding.cells), None)
    return found or max(judgement.cells, key=past_tolerance).id


def _move(behind: BehindDesk, judgement: Judgement, cell: str, medium: Medium) -> str:
    if cell not in behind.moves:
        return ""
    return move_words(facts_from_json(Move, behind.moves[cell]), medium, judgement.own_tubes)


def _plot(assignment: AssignmentRow, behind: BehindDesk, judgement: Judgement) -> AskedPlot:
    """Draw the exercise's own plot: expected as judged, joined to what was painted."""
    asked = as_painted(
        for_sheet(exercise_of(db(), assignment), behind.cells).asked,
        {cell.id: cell.expected_lab for cell in judgement.cells},
    )
    painted = {cell.id: cell.painted_lab for cell in judgement.cells}
    return make_asked_plot(asked, kind_of(asked.kind).plot, behind.table, painted)


def _photographed(behind: BehindDesk, judgement: Judgement, chosen: str) -> Sight:
    size_px = upright_size(files().get(behind.sha256))
    return sight_of_photograph(behind.reading, size_px, judgement, chosen)


def _earlier(attempt: AttemptRow) -> Earlier | None:
    found = earlier_attempt(db(), me().school_id, attempt)
    if found is None:
        return None
    return Earlier(
        photograph_id=found.photograph_id,
        strip=make_tiny_strips([tally_from_json(found.tally)])[0],
        sentence=found.review.sentence or "",
    )


_LEVEL_SHOWS = 0.15  # value steps


def _hints(body: Json) -> tuple[str, ...]:
    said = list(hints([SheetFlag(flag) for flag in cast(list[str], body.get("flags", []))]))
    if (count := len(cast(list[object], body.get("photos", [])))) > 1:
        said.append(gettext("Read from %(count)s photographs together.", count=count))
    others = (one for one in _knowledge(body) if one is not Knowledge.OTHER_PRINT)
    said.append(knowledge_sentence(others))
    if (level := cast(float, body.get("sigma_level", 0.0))) >= _LEVEL_SHOWS:
        said.append(
            gettext(
                "All values of this sheet may be off together by %(level)s; steps from one to "
                "the next are surer.",
                level=written(level, ".1f"),
            )
        )
    return tuple(words for words in said if words)


def _knowledge(body: Json) -> list[Knowledge]:
    return [Knowledge(one) for one in cast(list[str], body.get("knowledge", []))]


def asks_first(attempt: AttemptRow) -> bool:
    """Say whether the desk asks once more before a sheet is accepted."""
    return mostly_strays(tally_from_json(attempt.tally), attempt.review)


def _gentler(
    judgement: Judgement, assignment: AssignmentRow, attempt: AttemptRow
) -> tuple[str, ...]:
    """Say so where this student is judged more gently than the class."""
    if attempt.is_behind or judgement.level is assignment.level:
        return ()
    level = gettext(judgement.level.value)
    return (gettext("Judged as %(level)s, as you chose for this student.", level=level),)


def _asks(attempt: AttemptRow) -> str:
    if not asks_first(attempt):
        return ""
    return gettext("Most cells of this sheet stray. Accept it all the same?")


def _suggestion(
    attempt: AttemptRow, phrases: tuple[PhraseRow, ...], lines: Sequence[RecordLine]
) -> str:
    """Give what was written, a phrase just chosen from the book, or Noema's own sentence.

    What was sent back with a sentence and undone keeps the sentence.
    """
    chosen = request.args.get("phrase", type=int)
    words = next((phrase.words for phrase in phrases if phrase.id == chosen), None)
    return words or attempt.review.sentence or _taken_back(lines) or sentence_of(attempt)


def _taken_back(lines: Sequence[RecordLine]) -> str:
    """Give the sentence of a sheet that was sent back last, and then undone."""
    if not lines or lines[-1].decision.verb is not Verb.UNDO:
        return ""
    written = [one.decision for one in lines if one.decision.verb is not Verb.UNDO]
    return (written[-1].sentence or "") if written else ""


def _said(line: RecordLine, names: Mapping[str, str]) -> str:
    decision = line.decision
    step = cell_words(names.get(decision.cell or "", ""))
    given = {
        "teacher": line.teacher,
        "step": step,
        "when": short_moment(here(line.made_at)),
        "sentence": decision.sentence,
        "verdict": gettext((decision.verdict or Verdict.LOOK).value),
    }
    return gettext(_DID[decision.verb], **given)


_DID = {
    Verb.ACCEPT: N_("%(teacher)s accepted the sheet, %(when)s"),
    Verb.SEND_BACK: N_("%(teacher)s sent it back: “%(sentence)s”, %(when)s"),
    Verb.LEAVE_OUT: N_("%(teacher)s left %(step)s out, %(when)s"),
    Verb.COUNT: N_("%(teacher)s counted %(step)s again, %(when)s"),
    Verb.OVERRULE: N_("%(teacher)s said %(step)s %(verdict)s, %(when)s"),
    Verb.UNDO: N_("%(teacher)s undid the decision before, %(when)s"),
}
