"""A logbook as a spreadsheet, JSON, CGATS.17, a strip of swatches and a palette; in from CSV."""

import csv
from collections.abc import Iterator, Sequence
from io import StringIO
from xml.sax.saxutils import escape

import orjson

from noema.core.bench.task import Amount
from noema.core.colour.hvc import hvcs_of
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import BadFile, Refused
from noema.core.language import gettext
from noema.core.logbook.entry import Entry, EntryKind
from noema.formats.hvc_json import hvc_to_json
from noema.formats.measurements import Sample, samples_to_cgats
from noema.formats.spreadsheet import as_written, plain_text

FORMAT = "noema-logbook/1"
COLUMNS = ("kind", "title", "L", "a", "b", "parts", "words", "made_on")
MOST_ENTRIES = 50_000
_LONGEST = 400
_SIDE, _ACROSS = 40, 12


def logbook_csv(entries: Sequence[Entry]) -> str:
    """Write entries as CSV, a line each; parts as tube:volume."""
    out = StringIO()
    table = csv.writer(out)
    table.writerow(COLUMNS)
    for one in entries:
        table.writerow(
            [
                one.kind.value,
                plain_text(one.title),
                *(f"{number:.2f}" for number in one.lab),
                plain_text(parts_text(one.parts)),
                plain_text(one.words),
                one.made_on,
            ]
        )
    return out.getvalue()


def logbook_from_csv(text: str) -> tuple[Entry, ...]:
    """Read entries; refuses the first line that isn't one, by its number.

    Columns are found by their names; only L, a and b are needed.
    """
    reader = csv.DictReader(StringIO(text.lstrip("\ufeff")))
    lacking = [name for name in ("L", "a", "b") if name not in (reader.fieldnames or ())]
    if lacking:
        raise BadFile(
            gettext(
                "The logbook has no column “%(name)s”: its first line names L, a, b, and title, "
                "parts, words if you like.",
                name=lacking[0],
            )
        )
    return tuple(_entries(reader))


def logbook_json(entries: Sequence[Entry]) -> bytes:
    """Write entries as JSON, format noema-logbook/1."""
    hvcs = hvcs_of([one.lab for one in entries]) if entries else []
    told = [
        {
            "kind": one.kind.value,
            "title": one.title,
            "lab": [round(number, 3) for number in one.lab],
            "hvc": hvc_to_json(hvc),
            "asked": None if one.asked is None else [round(number, 3) for number in one.asked],
            "parts": {part.tube: part.volume for part in one.parts},
            "words": one.words,
            "made_on": one.made_on or None,
        }
        for one, hvc in zip(entries, hvcs, strict=True)
    ]
    return orjson.dumps({"format": FORMAT, "entries": told}, option=orjson.OPT_INDENT_2)


def logbook_cgats(entries: Sequence[Entry]) -> str:
    """Write entries' colours as CGATS.17."""
    return samples_to_cgats([Sample(name=one.title, lab=one.lab) for one in entries])


def logbook_svg(entries: Sequence[Entry]) -> str:
    """Draw entries as swatches, a dozen a row, each with its title; nearest sRGB colours."""
    rows = -(-len(entries) // _ACROSS)
    fills = lab_to_hex([one.lab for one in entries]) if entries else []
    swatches = [
        f'<rect x="{_SIDE * (n % _ACROSS)}" y="{_SIDE * (n // _ACROSS)}" width="{_SIDE}" '
        f'height="{_SIDE}" fill="{fill}"><title>{escape(one.title)}</title></rect>'
        for n, (one, fill) in enumerate(zip(entries, fills, strict=True))
    ]
    size = f"0 0 {_SIDE * _ACROSS} {_SIDE * max(rows, 1)}"
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{size}">'
    return "\n".join([head, *swatches, "</svg>", ""])


def logbook_gpl(entries: Sequence[Entry], name: str) -> str:
    """Write entries as a GIMP palette: red, green and blue of 255, then the title."""
    fills = lab_to_hex([one.lab for one in entries]) if entries else []
    rows = []
    for one, fill in zip(entries, fills, strict=True):
        red, green, blue = (int(fill[n : n + 2], 16) for n in (1, 3, 5))
        rows.append(f"{red:3d} {green:3d} {blue:3d}\t{_one_line(one.title)}")
    head = ["GIMP Palette", f"Name: {_one_line(name)}", "Columns: 12", "#"]
    return "\n".join([*head, *rows, ""])


def parts_text(parts: Sequence[Amount]) -> str:
    """Write parts so that they can be read again.

    >>> parts_text([Amount(tube="rose", volume=3.0), Amount(tube="cyan", volume=1.0)])
    'rose:3, cyan:1'
    """
    return ", ".join(f"{part.tube}:{part.volume:g}" for part in parts)


def parts_from_text(text: str) -> tuple[Amount, ...]:
    """Read parts; an amount left out counts as 1. Any tube may be named.

    >>> [(part.tube, part.volume) for part in parts_from_text("rose: 3, cyan")]
    [('rose', 3.0), ('cyan', 1.0)]
    """
    found = []
    for piece in text.split(","):
        tube, _, amount = (one.strip() for one in piece.partition(":"))
        if not tube:
            continue
        try:
            volume = float(amount) if amount else 1.0
        except ValueError:
            volume = 0.0
        if not 0.0 < volume < 1e6:
            raise Refused(
                gettext(
                    "“%(piece)s” is no part: write tube:volume, tube:volume.",
                    piece=piece.strip()[:40],
                )
            )
        found.append(Amount(tube=tube[:60], volume=volume))
    return tuple(found)


def _entries(reader: "csv.DictReader[str]") -> Iterator[Entry]:
    for number, row in enumerate(reader, start=2):
        if number > MOST_ENTRIES:
            raise BadFile(gettext("At most %(most)s entries are taken.", most=MOST_ENTRIES))
        try:
            lab = float(row["L"] or ""), float(row["a"] or ""), float(row["b"] or "")
        except (TypeError, ValueError) as wrong:
            raise BadFile(
                gettext("Line %(number)s: L, a and b must be numbers.", number=number)
            ) from wrong
        if not (0.0 <= lab[0] <= 100.0 and max(abs(lab[1]), abs(lab[2])) <= 150.0):
            raise BadFile(
                gettext("Line %(number)s: this is no colour paint can have.", number=number)
            )
        kind = row.get("kind") or EntryKind.NOTE.value
        try:
            yield Entry(
                kind=EntryKind(kind),
                title=_written(row, "title")[:200] or gettext("entry %(count)s", count=number - 1),
                lab=lab,
                parts=parts_from_text(_written(row, "parts")),
                words=_written(row, "words")[:_LONGEST],
                made_on=_written(row, "made_on")[:10],
            )
        except ValueError as wrong:
            raise BadFile(
                gettext("Line %(number)s: “%(kind)s” is no kind.", number=number, kind=kind[:20])
            ) from wrong
        except Refused as wrong:
            raise BadFile(
                gettext("Line %(number)s: %(wrong)s", number=number, wrong=wrong)
            ) from wrong


def _written(row: dict[str, str], name: str) -> str:
    return as_written(row.get(name) or "")


def _one_line(text: str) -> str:
    return " ".join(text.split())
