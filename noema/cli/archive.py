"""noema archive SCHOOL: a school, or one of its classes, as one zip."""

from pathlib import Path

import click

from noema.actions.archive_school import archive_school
from noema.core.errors import NotFound
from noema.devices.stores_at import files_at
from noema.formats.backup import own_file
from noema.settings import settings_from
from noema.store.engine import open_engine, open_sessions
from noema.store.people import school_by_name


@click.command("archive")
@click.argument("school")
@click.option("--class-id", type=int, help="Only this class and what it rests on.")
@click.option("--out", required=True, type=click.Path(path_type=Path, dir_okay=False))
def command(school: str, class_id: int | None, out: Path) -> None:
    """Write a school's archive."""
    settings = settings_from()
    sessions = open_sessions(open_engine(settings.database_url))
    with sessions() as session:
        school_id = school_by_name(session, school)
    if school_id is None:
        raise NotFound(f"There is no school called “{school}”.")
    files = files_at(settings.files, settings.old_files)
    packed = archive_school(sessions, files, school_id, class_id)
    with own_file(out) as file:
        file.writelines(packed.chunks)
    click.echo(f"{out}: {out.stat().st_size:,} bytes.")
    if packed.missing:
        click.echo(f"{packed.missing} pictures weren't found: the manifest names them.", err=True)
