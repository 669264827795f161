"""noema judge READING.json: verdicts and advice as JSON."""

import json
from dataclasses import replace
from pathlib import Path

import click

from noema.cli.asking import Question, exercise_options, question_of
from noema.core.coaching.advice import advice
from noema.core.coaching.audience import Audience
from noema.core.coaching.moves import next_moves
from noema.core.errors import BadExercise, BadFile
from noema.core.exercises.asked import Asked, Lab
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.painted_keys import as_painted
from noema.core.exercises.value_scale import KIND, ValueScale, plain_scale
from noema.core.judging.judge import judge
from noema.core.judging.review import Review
from noema.core.judging.rubric import USUAL_RUBRIC
from noema.core.judging.skills import skill_marks
from noema.core.photo.reading import Reading
from noema.formats.judgement_json import judgement_to_json
from noema.formats.reading_json import reading_from_text


@click.command("judge")
@click.argument("reading_file", type=click.Path(path_type=Path))
@click.option("--exercise", default=KIND)
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
    **options,
) -> None:
    """Judge a reading as the exercise it was printed for."""
    reading = _read(reading_file)
    question = question_of(exercise, **options)
    asked = printed = _asked(question, len(reading.cells), Medium(medium))
    if question.key is Key.TEACHER:
        if teacher is None:
            raise BadExercise("The key teacher needs --teacher: a reading of the teacher's sheet.")
        asked = as_painted(asked, _teachers_labs(_read(teacher), asked))
    plain = question.is_plain_scale and question.key is Key.PAINTS
    paints = None if question.is_plain_scale else question.paints
    judgement = judge(
        reading,
        asked,
        Key.NAMED if plain else question.key,
        Level(level),
        paints=paints,
        printed=printed,
    )
    moves = {m.cell: m.words for m in next_moves(judgement, printed, paints, Medium(medium))}
    rubric = skill_marks(judgement, Review(), USUAL_RUBRIC)
    answer = {
        "sheet": reading.sheet,
        **judgement_to_json(judgement),
        "moves": moves,
        "skills": {mark.skill.value: mark.level for mark in rubric},
        "advice": advice(judgement, Medium(medium), audience=Audience(audience), moves=moves),
    }
    click.echo(json.dumps(answer))


def _asked(question: Question, cells: int, medium: Medium) -> Asked:
    """Work out the exercise; a value scale has as many steps as were read."""
    if question.is_plain_scale:
        return plain_scale(ValueScale(steps=cells, medium=medium))
    if question.kind.name == KIND and question.wanted.steps is None:
        question = replace(question, wanted=replace(question.wanted, steps=cells))
    return question.asked()


def _teachers_labs(reading: Reading, asked: Asked) -> dict[str, Lab]:
    """Take a teacher's colours; refuses a sheet of another exercise."""
    labs = {cell.id: cell.lab for cell in reading.cells}
    if set(labs) != {cell.id for cell in asked.cells}:
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
