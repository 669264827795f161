"""noema nearest: the entries of a logbook that come nearest to a colour."""

from pathlib import Path

import click
import orjson

from noema.core.errors import BadFile
from noema.core.logbook.entry import Entry, EntryKind, nearest
from noema.formats.logbook import logbook_from_csv
from noema.formats.measurements import lab_from_text, samples_from_bytes


@click.command("nearest")
@click.argument("logbook", type=click.Path(path_type=Path, dir_okay=False, exists=True))
@click.argument("lab")
@click.option("--json", "as_json", is_flag=True, help="One JSON object a line.")
def command(logbook: Path, lab: str, as_json: bool) -> None:
    """Print the ten entries of LOGBOOK nearest to a LAB colour, such as "52.1,18,-7"."""
    wanted = lab_from_text(lab, "LAB")
    entries = _entries(logbook.read_bytes())
    for near in nearest([one.lab for one in entries], wanted):
        click.echo(_line(entries[near.place], near.away, as_json))


def _entries(content: bytes) -> tuple[Entry, ...]:
    """Read a logbook's CSV, or measured samples, which have names and colours alone."""
    try:
        text = content.decode("utf-8")
    except UnicodeDecodeError as wrong:
        raise BadFile("The logbook isn't text: export it as CSV in UTF-8.") from wrong
    first = text.lstrip("\ufeff").partition("\n")[0].split(",")
    if {"L", "a", "b"} <= {name.strip() for name in first}:
        return logbook_from_csv(text)
    return tuple(
        Entry(kind=EntryKind.NOTE, title=sample.name, lab=sample.lab)
        for sample in samples_from_bytes(content)
    )


def _line(entry: Entry, away: float, as_json: bool) -> bytes | str:
    if not as_json:
        return f"{away:5.1f}  {entry.title}"
    return orjson.dumps(
        {
            "title": entry.title,
            "kind": entry.kind.value,
            "lab": list(entry.lab),
            "parts": {part.tube: part.volume for part in entry.parts},
            "made_on": entry.made_on or None,
            "de": round(away, 4),
        }
    )
