"""noema backup FILE: the database and the file store together, in one tar with hashes."""

from pathlib import Path
from tempfile import TemporaryDirectory

import click

from noema.devices.database_dump import dump_database
from noema.devices.stores_at import files_at
from noema.formats.backup import own_file, write_backup
from noema.settings import settings_from


@click.command("backup")
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False))
@click.option("--for", "key", default="", help="Encrypt it for an age public key, age1….")
def command(file: Path, key: str) -> None:
    """Write the database and every stored file into one tar, with their hashes.

    The secret key is not in it: keep that too, or students need new cards.
    """
    settings = settings_from()
    with TemporaryDirectory(dir=file.resolve().parent) as folder:
        dump = Path(folder) / "database.dump"
        own_file(dump).close()
        # The database first: files are never changed, so what it speaks of is there afterwards.
        dump_database(settings.database_url, dump)
        count = write_backup(file, dump, files_at(settings.files, settings.old_files).every(), key)
    click.echo(f"{file}: the database and {count} files, {file.stat().st_size:,} bytes.")
