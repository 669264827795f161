"""noema judge READING.json: verdicts and advice as JSON."""

import json
from dataclasses import replace
from pathlib import Path

import click

from noema.cli.asking import Question, exercise_options, question_of
from noema.core.coaching.advice import advice
from noema.core.errors import BadExercise, BadFile
from noema.core.exercises.asked import Asked, Lab
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.painted_keys import as_painted
from noema.core.exercises.value_scale import KIND, ValueScale, plain_scale
from noema.core.judging.judge import judge
from noema.core.photo.reading import Reading
from noema.formats.judgement_json import judgement_to_json
from noema.formats.reading_json import reading_from_text


@click.command("judge")
@click.argument("reading_file", type=click.Path(path_type=Path))
@click.option("--exercise", default=KIND)
@exercise_options
@click.option("--medium", type=click.Choice([m.value for m in Medium]), default="acrylic")
@click.option("--level", type=click.Choice([lv.value for lv in Level]), default="beginner")
@click.option(
    "--teacher", type=click.Path(path_type=Path), help="A reading of the teacher's sheet."
)
@click.option("--json", "as_json", is_flag=True, help="Print JSON (the only form there is).")
def command(
    reading_file: Path,
    exercise: str,
    medium: str,
    level: str,
    teacher: Path | None,
    as_json: bool,
    **options,
) -> None:
    """Judge a reading as the exercise it was printed for."""
    reading = _read(reading_file)
    question = question_of(exercise, **options)
    asked = _asked(question, len(reading.cells), Medium(medium))
    if question.key is Key.TEACHER:
        if teacher is None:
            raise BadExercise("The key teacher needs --teacher: a reading of the teacher's sheet.")
        asked = as_painted(asked, _teachers_labs(_read(teacher), asked))
    plain = question.is_plain_scale and question.key is Key.PAINTS
    judgement = judge(reading, asked, Key.NAMED if plain else question.key, Level(level))
    answer = {
        "sheet": reading.sheet,
        **judgement_to_json(judgement),
        "advice": advice(judgement, Medium(medium)),
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
