"""noema school-system: a made-up school system that gives OneRoster packages and takes results."""

from pathlib import Path
from random import Random

import click

from noema.core.errors import BadFile
from noema.stand_ins.school_system import Mess, made_up_system, results_taken


@click.command("school-system")
@click.option("--give", type=click.Path(path_type=Path, dir_okay=False), help="Write a package.")
@click.option("--take", type=click.Path(path_type=Path, dir_okay=False, exists=True))
@click.option("--classes", type=click.IntRange(1, 20), default=2, show_default=True)
@click.option("--students", type=click.IntRange(1, 40), default=12, show_default=True)
@click.option("--seed", type=int, default=1, show_default=True)
@click.option("--messy", is_flag=True, help="Repeated users, lost enrollments, an old encoding.")
def command(
    give: Path | None, take: Path | None, classes: int, students: int, seed: int, messy: bool
) -> None:
    """Stand in for the school's other system: give a roster package, or take results."""
    if (give is None) == (take is None):
        raise BadFile("Say --give FILE or --take FILE.")
    if give is not None:
        mess = Mess(encoding="cp1252", repeats=2, lost=2, in_folder=True) if messy else Mess()
        give.write_bytes(made_up_system(Random(seed), classes, students).package(mess))
        click.echo(f"{give}: {classes} classes of {students}.")
    elif take is not None:
        wrong = results_taken(take.read_bytes())
        if wrong:
            raise BadFile(f"The results can't be taken: {'; '.join(wrong)}.")
        click.echo("The results are taken.")
