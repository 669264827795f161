"""noema bench ACTS.json: what lies on a palette after each act, as JSON lines."""

from dataclasses import replace
from pathlib import Path

import click

from noema.cli.mix import paint_set
from noema.core.bench.acts import Bench
from noema.core.errors import BadFile
from noema.core.pigments.drying import Binder
from noema.formats.bench_json import acts_from_json, lines_of


@click.command("bench")
@click.argument("acts", type=click.Path(path_type=Path, dir_okay=False, exists=True))
@click.option("--json", "as_json", is_flag=True, help="Print JSON (the only form there is).")
def command(acts: Path, as_json: bool) -> None:
    """Mix by hand: play acts on a palette and print the state after each."""
    given = acts_from_json(acts.read_bytes())
    try:
        binder = Binder(given.medium)
    except ValueError as wrong:
        known = ", ".join(one.value for one in Binder)
        raise BadFile(f"The medium must be one of {known}, not “{given.medium}”.") from wrong
    paints = replace(paint_set(given.set_name), binder=binder)
    for line in lines_of(given, Bench(paints=paints)):
        click.echo(line)
