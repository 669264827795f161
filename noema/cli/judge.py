"""noema judge READING.json: verdicts and advice as JSON."""

import json
from pathlib import Path

import click

from noema.core.coaching.value_scale import next_step
from noema.core.errors import BadExercise, BadFile
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.value_scale import KIND, ValueScale
from noema.core.judging.judge import judge
from noema.formats.judgement_json import judgement_to_json
from noema.formats.reading_json import reading_from_text

_KEYS = {"even": Key.EVEN, "named": Key.EVEN, "own-ends": Key.OWN_ENDS}


@click.command("judge")
@click.argument("reading_file", type=click.Path(path_type=Path))
@click.option("--exercise", default=KIND)
@click.option("--medium", type=click.Choice([m.value for m in Medium]), default="acrylic")
@click.option("--key", type=click.Choice(list(_KEYS)), default="even")
@click.option("--level", type=click.Choice([lv.value for lv in Level]), default="beginner")
@click.option("--json", "as_json", is_flag=True, help="Print JSON (the only form there is).")
def command(
    reading_file: Path, exercise: str, medium: str, key: str, level: str, as_json: bool
) -> None:
    """Judge a reading; `named` for a value scale is the even scale of fixed ends."""
    if exercise != KIND:
        raise BadExercise(f"There is no exercise “{exercise}” yet: use {KIND}.")
    reading = reading_from_text(reading_file.read_text(encoding="utf-8"))
    if not reading.found:
        raise BadFile("The reading found no sheet: there is nothing to judge.")
    scale = ValueScale(steps=len(reading.cells), medium=Medium(medium))
    judgement = judge(reading, scale, _KEYS[key], Level(level))
    answer = {
        "sheet": reading.sheet,
        "exercise": exercise,
        **judgement_to_json(judgement),
        "advice": next_step(judgement, scale.medium),
    }
    click.echo(json.dumps(answer))
