"""noema move-files: photographs from the store they were in to the one they are in now."""

import click

from noema.core.errors import Refused
from noema.devices.stores_at import MovingFiles, files_at
from noema.settings import settings_from


@click.command("move-files")
def command() -> None:
    """Move every file from NOEMA_OLD_FILES to NOEMA_FILES, while Noema is in use."""
    settings = settings_from()
    files = files_at(settings.files, settings.old_files)
    if not isinstance(files, MovingFiles):
        raise Refused("NOEMA_OLD_FILES isn't set: say there where photographs were kept before.")
    count = sum(1 for _ in files.move())
    click.echo(f"{count} files moved, every hash as it was.")
    left = files.left()
    if left:
        raise Refused(f"{left} files are still in the old store: see the log, or move once more.")
    click.echo("Nothing is left in the old store: take NOEMA_OLD_FILES out.")
