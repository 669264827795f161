"""noema judge READING.json: verdicts and advice as JSON."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import click

from noema.cli.asking import Question, exercise_options, question_of
from noema.core.coaching.advice import advise
from noema.core.coaching.audience import Audience
from noema.core.coaching.moves import Move, next_moves
from noema.core.errors import BadExercise, BadFile
from noema.core.exercises.asked import Asked, Lab
from noema.core.exercises.catalogue import FIRST_KIND, has
from noema.core.exercises.kind import Trait
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.options import given
from noema.core.exercises.painted_keys import as_painted
from noema.core.judging.judge import judge
from noema.core.judging.judgement import Judgement
from noema.core.judging.review import Review
from noema.core.judging.rubric import USUAL_RUBRIC
from noema.core.judging.skills import skill_marks
from noema.core.photo.reading import Reading
from noema.core.words.advice import advice_words
from noema.core.words.findings import finding_words
from noema.core.words.moves import move_words
from noema.core.words.reasons import reason_words
from noema.formats.facts_json import facts_to_json
from noema.formats.judgement_json import judgement_to_json
from noema.formats.reading_json import reading_from_text


@click.command("judge")
@click.argument("reading_file", type=click.Path(path_type=Path))
@click.option("--exercise", default=FIRST_KIND)
@exercise_options
@click.option("--medium", type=click.Choice([m.value for m in Medium]), default="acrylic")
@click.option("--audience", type=click.Choice([a.value for a in Audience]), default="teenager")
@click.option("--level", type=click.Choice([lv.value for lv in Level]), default="beginner")
@click.option(
    "--teacher", type=click.Path(path_type=Path), help="A reading of the teacher's sheet."
)
@click.option("--json", "as_json", is_flag=True, help="Print JSON (the only form there is).")
def command(
    reading_file: Path,
    exercise: str,
    medium: str,
    audience: str,
    level: str,
    teacher: Path | None,
    as_json: bool,
    **options: Any,
) -> None:
    """Judge a reading as the exercise it was printed for."""
    reading = _read(reading_file)
    question = question_of(exercise, **options)
    question = _with_cells(question, len(reading.cells))
    plain = question.plainly(Medium(medium))
    asked = printed = plain or question.asked()
    if question.key is Key.TEACHER:
        if teacher is None:
            raise BadExercise("The key teacher needs --teacher: a reading of the teacher's sheet.")
        asked = as_painted(asked, _teachers_labs(_read(teacher), asked))
    paints = None if plain else question.paints
    judgement = judge(
        reading,
        asked,
        Key.NAMED if plain and question.key is Key.PAINTS else question.key,
        Level(level),
        paints=paints,
        printed=printed,
    )
    moves = {move.cell: move for move in next_moves(judgement, printed, paints)}
    said = {cell: _move_said(move, judgement, Medium(medium)) for cell, move in moves.items()}
    rubric = skill_marks(judgement, Review(), USUAL_RUBRIC)
    answer = {
        "sheet": reading.sheet,
        **_said(judgement),
        "moves": said,
        "skills": {mark.skill.value: mark.level for mark in rubric},
        "advice": advice_words(advise(judgement, moves), Medium(medium), Audience(audience)),
    }
    click.echo(json.dumps(answer))


def _said(judgement: Judgement) -> dict[str, Any]:
    """Give a judgement's facts with their words beside them."""
    body: dict[str, Any] = judgement_to_json(judgement)
    for finding, facts in zip(judgement.findings, body["findings"], strict=True):
        facts["words"] = finding_words(finding, judgement)
    for cell, facts in zip(judgement.cells, body["cells"], strict=True):
        facts["reason"] = reason_words(cell.reason)
    return body


def _move_said(move: Move, judgement: Judgement, medium: Medium) -> dict[str, Any]:
    words = move_words(move, medium, judgement.own_tubes)
    return {**facts_to_json(move), "words": words}


def _with_cells(question: Question, cells: int) -> Question:
    """Take as many steps as were read of a kind that is one row of steps, where none are given."""
    if not has(question.kind.name, Trait.ONE_SCALE) or "steps" in given(question.options):
        return question
    options = question.kind.chosen({**given(question.options), "steps": cells})
    return replace(question, options=options)


def _teachers_labs(reading: Reading, asked: Asked) -> dict[str, Lab]:
    """Take a teacher's colours; refuses a sheet of another exercise."""
    labs = {cell.id: cell.lab for cell in reading.cells}
    if set(labs) != {cell.id for cell in asked.on_paper}:
        raise BadExercise(
            f"The teacher's sheet has {len(labs)} cells, which are not those of “{asked.title}”: "
            "give a reading of the same exercise."
        )
    return labs


def _read(path: Path) -> Reading:
    reading = reading_from_text(path.read_text(encoding="utf-8"))
    if not reading.found:
        raise BadFile("The reading found no sheet: there is nothing to judge.")
    return reading
