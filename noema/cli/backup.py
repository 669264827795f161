"""noema backup FILE: the database and the file store together, in one tar with hashes."""

from pathlib import Path

import click

from noema.devices.database_dump import dump_database
from noema.devices.file_store import LocalFiles
from noema.formats.backup import write_backup
from noema.settings import files_folder, settings_from


@click.command("backup")
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False))
def command(file: Path) -> None:
    """Write the database and every stored file into one tar, with their hashes.

    The secret key is not in it: keep that too, or students need new cards.
    """
    settings = settings_from()
    # The database first: files are never changed, so every file it speaks of is there afterwards.
    dump = dump_database(settings.database_url)
    count = write_backup(file, dump, LocalFiles(files_folder(settings)).every())
    click.echo(f"{file}: the database and {count} files, {file.stat().st_size:,} bytes.")
