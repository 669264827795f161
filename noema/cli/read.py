"""noema read PHOTO… --layout layout.json: one line of JSON a photograph, or a page of a scan."""

import json
from collections.abc import Iterator
from pathlib import Path

import click

from noema.core.errors import BadFile
from noema.core.photo.by_hand import read_by_hand
from noema.core.photo.card import ReferenceCard
from noema.core.photo.picture import Picture
from noema.core.photo.read import read_photo
from noema.core.photo.together import read_together
from noema.formats.layout_json import layout_from_text
from noema.formats.measurements import samples_from_bytes
from noema.formats.outline_json import outline_from_text
from noema.formats.photo_file import check_photo, open_photo
from noema.formats.reading_json import reading_to_json
from noema.formats.scan import is_scan, pages_of_scan


@click.command("read")
@click.argument("photos", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--layout", "layout_file", required=True, type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print JSON (the only form there is).")
@click.option("--card", type=click.Path(path_type=Path), help="Values of a card beside the sheet.")
@click.option("--card-columns", type=click.IntRange(1, 40), default=6, show_default=True)
@click.option("--together", is_flag=True, help="Read all of them as photographs of one sheet.")
@click.option("--outline", type=click.Path(path_type=Path), help="Where a person placed the cells.")
def command(
    photos: tuple[Path, ...],
    layout_file: Path,
    as_json: bool,
    card: Path | None,
    card_columns: int,
    together: bool,
    outline: Path | None,
) -> None:
    """Read photographs of a sheet."""
    layout = layout_from_text(layout_file.read_text(encoding="utf-8"))
    beside = None if card is None else _card(card, card_columns)
    placed = None if outline is None else outline_from_text(outline.read_text(encoding="utf-8"))
    readings = {}
    for path in photos:
        for name, picture in _pictures(path):
            if placed is None:
                read = read_photo(picture, layout, beside)
            else:
                read = read_by_hand(picture, placed, layout, beside)
            if together:
                readings[name] = read.reading
            else:
                click.echo(json.dumps(reading_to_json(read.reading, name)))
    if together:
        one = reading_to_json(read_together(list(readings.values())), next(iter(readings)))
        click.echo(json.dumps({**one, "photos": list(readings)}))


def _card(values: Path, columns: int) -> ReferenceCard:
    labs = tuple(sample.lab for sample in samples_from_bytes(values.read_bytes()))
    return ReferenceCard(name=values.stem, columns=columns, rows=len(labs) // columns, labs=labs)


def _pictures(path: Path) -> Iterator[tuple[str, Picture]]:
    data = path.read_bytes()
    try:
        if is_scan(data):
            for number, page in enumerate(pages_of_scan(data), start=1):
                yield f"{path}, page {number}", open_photo(page)
        else:
            check_photo(data)
            yield str(path), open_photo(data)
    except BadFile as wrong:
        raise BadFile(f"{path.name}: {wrong}") from wrong
