"""noema expect KIND: each cell's expected colour, the mix that should give it, and why."""

from typing import Any

import click
import orjson

from noema.cli.asking import exercise_options, question_of
from noema.core.exercises.asked import Asked, AskedCell
from noema.core.exercises.piles import say_mixes
from noema.formats.asked_json import asked_to_json


@click.command("expect")
@click.argument("kind")
@exercise_options
@click.option("--json", "as_json", is_flag=True, help="One JSON object.")
def command(kind: str, as_json: bool, **options: Any) -> None:
    """Say what an exercise expects of every cell with a set of paints."""
    asked = question_of(kind, **options).asked()
    if as_json:
        click.echo(orjson.dumps(asked_to_json(asked)).decode())
        return
    _say(asked)


def _say(asked: Asked) -> None:
    mixes = say_mixes(asked)
    click.echo(asked.title)
    for band in asked.bands:
        if band.label:
            click.echo(f"{band.label}:")
        for cell in band.cells:
            click.echo(f"  {_line(cell, mixes.get(cell.id, ''))}")
    for concern in asked.concerns:
        click.echo(f"! {concern.sentence} ({concern.suggestion})")


def _line(cell: AskedCell, mix: str) -> str:
    hvc = f"{cell.hvc.notation} {cell.hvc.value:.1f}/{cell.hvc.chroma:.1f}"
    return f"{cell.id} {cell.label}: {hvc}  {mix}"
