"""noema amounts KIND: how much of each tube a class needs, as JSON."""

import json
from typing import Any

import click

from noema.cli.asking import exercise_options, question_of
from noema.core.exercises.media import Medium
from noema.core.planning.amounts import amounts_of
from noema.formats.amounts_json import amounts_to_json


@click.command("amounts")
@click.argument("kind")
@exercise_options
@click.option("--medium", type=click.Choice([m.value for m in Medium]), default="acrylic")
@click.option("--people", type=click.IntRange(1, 400), default=24)
@click.option("--json", "as_json", is_flag=True, help="Print JSON (the only form there is).")
def command(kind: str, medium: str, people: int, as_json: bool, **options: Any) -> None:
    """Work out how much paint an exercise takes."""
    asked = question_of(kind, **options).asked()
    amounts = amounts_of(asked, Medium(medium), people)
    click.echo(json.dumps(amounts_to_json(amounts), ensure_ascii=False))
