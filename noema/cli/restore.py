"""noema restore FILE: a backup in the place of the database, its files into the file store."""

from pathlib import Path

import click

from noema.devices.database_dump import restore_database
from noema.devices.file_store import LocalFiles
from noema.formats.backup import read_backup
from noema.settings import files_folder, settings_from


@click.command("restore")
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False, exists=True))
def command(file: Path) -> None:
    """Put a backup in the place of the database, and its files into the file store."""
    settings = settings_from()
    kept = read_backup(file)
    files = LocalFiles(files_folder(settings))
    for body in kept.files:
        files.put(body)
    restore_database(settings.database_url, kept.dump)
    click.echo(f"Restored the database and {len(kept.files)} files, every hash as it was.")
