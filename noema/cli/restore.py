"""noema restore FILE: a backup in the place of the database, its files into the file store."""

from pathlib import Path

import click

from noema.devices.database_dump import restore_database
from noema.devices.stores_at import files_at
from noema.formats.backup import open_backup
from noema.settings import settings_from


@click.command("restore")
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False, exists=True))
@click.option(
    "--key-file",
    type=click.Path(path_type=Path, dir_okay=False, exists=True),
    help="Holds the age key of a backup that is encrypted.",
)
def command(file: Path, key_file: Path | None) -> None:
    """Put a backup in the place of the database, and its files into the file store."""
    settings = settings_from()
    with open_backup(file, _key_in(key_file)) as backup:
        files = files_at(settings.files, settings.old_files)
        for body in backup.files():
            files.put(body)
        restore_database(settings.database_url, backup.dump)
        click.echo(f"Restored the database and {backup.count} files, every hash as it was.")


def _key_in(key_file: Path | None) -> str:
    """Give the key of a file as age-keygen writes it: comments, then a line with the key."""
    if key_file is None:
        return ""
    lines = key_file.read_text(encoding="utf-8").splitlines()
    return next((line for line in lines if line and not line.startswith("#")), "")
