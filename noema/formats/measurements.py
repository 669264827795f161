"""Measured colours in: CGATS.17 text, CSV, or lines typed by hand; always Lab under D50.

CGATS.17 (ISO 28178 describes the same keywords): BEGIN_DATA_FORMAT names the columns, LAB_L LAB_A
LAB_B among them, BEGIN_DATA holds a sample a line. CSV has a header with L, a and b columns.
"""

import csv
import io
import shlex
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from noema.core.errors import BadFile
from noema.core.language import gettext

MOST_SAMPLES = 10_000
_NAMES = ("sample_name", "name", "label", "sample", "sample_id", "id")
_COLUMNS = (("lab_l", "l*", "l"), ("lab_a", "a*", "a"), ("lab_b", "b*", "b"))
_SAID = ("L*", "a*", "b*")


@dataclass(frozen=True, kw_only=True)
class Sample:
    """One measured colour."""

    name: str
    lab: tuple[float, float, float]  # D50, 2 degree observer


def samples_from_bytes(content: bytes) -> tuple[Sample, ...]:
    """Read a measurement file; refuses by line and column what can't be read."""
    for encoding in ("utf-8-sig", "latin-1"):
        try:
            return samples_from_text(content.decode(encoding))
        except UnicodeDecodeError:
            continue
    raise BadFile(gettext("The file isn't text: export the measurements as CGATS.17 or CSV."))


def samples_from_text(text: str) -> tuple[Sample, ...]:
    """Read CGATS.17 text or CSV.

    >>> samples_from_text("name,L,a,b\\nmasstone,45.1,62.0,44.5")
    (Sample(name='masstone', lab=(45.1, 62.0, 44.5)),)
    """
    lines = text.splitlines()
    if any(line.strip().upper() == "BEGIN_DATA" for line in lines):
        samples = _cgats(lines)
    else:
        samples = _csv(text)
    if not samples:
        raise BadFile(
            gettext("The file holds no measured colours: export it again with Lab values.")
        )
    if len(samples) > MOST_SAMPLES:
        raise BadFile(
            gettext(
                "The file holds more than %(most_samples)s colours: send the swatches only.",
                most_samples=MOST_SAMPLES,
            )
        )
    return samples


def samples_to_cgats(samples: Sequence[Sample]) -> str:
    """Write CGATS.17 text, Lab under D50, 2 degree observer."""
    head = [
        "CGATS.17",
        'ORIGINATOR "Noema"',
        'ILLUMINATION_NAME "D50"',
        'OBSERVER_ANGLE "2"',
        "NUMBER_OF_FIELDS 4",
        "BEGIN_DATA_FORMAT",
        "SAMPLE_NAME LAB_L LAB_A LAB_B",
        "END_DATA_FORMAT",
        f"NUMBER_OF_SETS {len(samples)}",
        "BEGIN_DATA",
    ]
    rows = ['"{}" {:.3f} {:.3f} {:.3f}'.format(_plain(s.name), *s.lab) for s in samples]
    return "\n".join([*head, *rows, "END_DATA", ""])


def lab_from_text(text: str, what: str) -> tuple[float, float, float]:
    """Read one typed Lab: three numbers with commas or spaces between."""
    parts = text.replace(";", " ").replace(",", " ").split()
    if len(parts) != 3:
        raise BadFile(
            gettext("%(what)s: type three numbers, L a b, such as 45.1 62.0 44.5.", what=what)
        )
    return _lab(parts, what)


def _cgats(lines: list[str]) -> tuple[Sample, ...]:
    columns: list[str] = []
    samples: list[Sample] = []
    section = ""
    for number, line in enumerate(lines, start=1):
        word = line.strip().upper()
        if word in ("BEGIN_DATA_FORMAT", "BEGIN_DATA"):
            section = word
        elif word.startswith("END_DATA"):
            section = ""
        elif word and section == "BEGIN_DATA_FORMAT":
            columns += word.lower().split()
        elif word and not word.startswith("#") and section == "BEGIN_DATA":
            samples.append(_sample(_words(line, number), columns, number, len(samples) + 1))
    return tuple(samples)


def _csv(text: str) -> tuple[Sample, ...]:
    lines = [line for line in text.splitlines() if line.strip() and not line.startswith("#")]
    if not lines:
        return ()
    separator = max(";\t,", key=lines[0].count)
    rows = csv.reader(io.StringIO(text, newline=None), delimiter=separator)
    columns: list[str] = []
    samples: list[Sample] = []
    for row in _rows(rows):
        cells = [cell.strip() for cell in row]
        if not any(cells) or cells[0].startswith("#"):
            continue
        if not columns:
            columns = [cell.lower() for cell in cells]
            continue
        samples.append(_sample(cells, columns, rows.line_num, len(samples) + 1))
    return tuple(samples)


def _rows(reader: Iterable[list[str]]) -> Iterator[list[str]]:
    try:
        yield from reader
    except csv.Error as wrong:
        raise BadFile(
            gettext("the file's rows can't be told apart: save it as CSV again")
        ) from wrong


def _words(line: str, number: int) -> list[str]:
    try:
        return shlex.split(line)
    except ValueError as wrong:
        raise BadFile(
            gettext("line %(number)s: a quotation mark isn't closed", number=number)
        ) from wrong


def _sample(cells: list[str], columns: list[str], number: int, count: int) -> Sample:
    places = [_place(columns, names) for names in _COLUMNS]
    if None in places:
        said = _SAID[places.index(None)]
        raise BadFile(
            gettext(
                "line %(number)s: no column for %(said)s; the file needs L*, a* and b* (D50)",
                number=number,
                said=said,
            )
        )
    if len(cells) != len(columns):
        raise BadFile(
            gettext(
                "line %(number)s: %(found)s columns where the header has %(columns)s",
                number=number,
                found=len(cells),
                columns=len(columns),
            )
        )
    named = _place(columns, _NAMES)
    lab = _lab([cells[place] for place in places if place is not None], f"line {number}")
    return Sample(name=f"sample {count}" if named is None else cells[named], lab=lab)


def _place(columns: list[str], names: tuple[str, ...]) -> int | None:
    return next((columns.index(name) for name in names if name in columns), None)


def _lab(cells: list[str], where: str) -> tuple[float, float, float]:
    numbers = []
    for said, cell in zip(_SAID, cells, strict=True):
        try:
            number = float(cell.replace(",", "."))
        except ValueError as wrong:
            raise BadFile(
                gettext("%(where)s: %(said)s is not a number", where=where, said=said)
            ) from wrong
        if not abs(number) <= 200.0:
            raise BadFile(
                gettext("%(where)s: %(said)s is not a colour's number", where=where, said=said)
            )
        numbers.append(number)
    if not 0.0 <= numbers[0] <= 100.0:
        raise BadFile(gettext("%(where)s: L* lies outside 0 to 100", where=where))
    return numbers[0], numbers[1], numbers[2]


def _plain(name: str) -> str:
    return name.replace('"', "'")
