"""noema bring-in FILE: an archive into an empty Noema."""

from pathlib import Path

import click

from noema.actions.archive_school import bring_in_archive
from noema.devices.stores_at import files_at
from noema.settings import settings_from
from noema.store.engine import bring_up_to_date, open_engine, open_sessions


@click.command("bring-in")
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False, exists=True))
def command(file: Path) -> None:
    """Bring an archive into an empty Noema."""
    settings = settings_from()
    engine = open_engine(settings.database_url)
    bring_up_to_date(engine)
    with open_sessions(engine).begin() as session:
        files = files_at(settings.files, settings.old_files)
        name = bring_in_archive(session, files, file, settings.database_url)
    click.echo(f"{name} is here. Give each teacher a password: noema password E-MAIL.")
