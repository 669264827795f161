"""noema read PHOTO… --layout layout.json: one line of JSON a photograph."""

import json
from pathlib import Path

import click

from noema.core.errors import BadFile
from noema.core.photo.read import read_photo
from noema.formats.layout_json import layout_from_text
from noema.formats.photo_file import check_photo, open_photo
from noema.formats.reading_json import reading_to_json


@click.command("read")
@click.argument("photos", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--layout", "layout_file", required=True, type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print JSON (the only form there is).")
def command(photos: tuple[Path, ...], layout_file: Path, as_json: bool) -> None:
    """Read photographs of a sheet."""
    layout = layout_from_text(layout_file.read_text(encoding="utf-8"))
    for path in photos:
        data = path.read_bytes()
        try:
            check_photo(data)
            picture = open_photo(data)
        except BadFile as wrong:
            raise BadFile(f"{path.name}: {wrong}") from wrong
        reading = read_photo(picture, layout).reading
        click.echo(json.dumps(reading_to_json(reading, str(path))))
