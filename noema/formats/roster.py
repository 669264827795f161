"""Rosters as teachers have them: a name a line, or CSV from some spreadsheet.

Nothing is guessed silently: what is taken and what isn't is given back line by line.
"""

import codecs
import csv
import unicodedata
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import Enum
from io import StringIO

from noema.core.errors import BadRoster
from noema.core.language import N_, gettext

MOST_NAMES = 200
LONGEST_NAME = 60
_JOINERS = "\u200c\u200d"  # which scripts such as Persian's and Malayalam's are spelt with

_BOMS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)
_FULL = (
    *("name", "display name", "full name", "student", "student name"),
    *("vollständiger name", "schüler", "schülerin", "nombre completo", "alumno", "alumna"),
    *("nom complet", "élève"),
)
_FIRST = (
    *("first name", "firstname", "given name", "givenname", "forename"),
    *("vorname", "nombre", "prénom", "prenom"),
)
_LAST = (
    *("last name", "lastname", "surname", "family name", "familyname"),
    *("nachname", "familienname", "apellido", "apellidos", "nom", "nom de famille"),
)
_IN_CLASS = N_("%(name)s is already in the class: left out.")
_TWICE = N_("%(name)s stands here twice: left out.")


HEADERS = ("name", "student", "first name", "forename", "surname", "last name")
"""Of the headers that are known, those to tell people of."""

_SEPARATORS = ("\t", ";", ",")


class RosterOrder(Enum):
    """How a name stands in the columns of a list without a header."""

    SURNAME_FIRST = N_("surname, first name")
    FIRST_NAME_FIRST = N_("first name, surname")
    WHOLE = N_("the whole name in one column")


@dataclass(frozen=True, kw_only=True)
class Remark:
    """Something about one line of a roster."""

    line: int  # from 1, as a spreadsheet counts
    text: str  # the line, shortened
    words: str


@dataclass(frozen=True, kw_only=True)
class Roster:
    """The names found, and the lines that gave none."""

    names: tuple[str, ...]
    remarks: tuple[Remark, ...]
    order: RosterOrder | None = None  # in which columns were read that no header names


def roster_text(data: bytes) -> str:
    """Decode a roster file as UTF-8, UTF-16 or Latin-1, whichever it can be."""
    encoding = next((name for bom, name in _BOMS if data.startswith(bom)), None)
    if encoding is None and data.count(0) > len(data) // 4:
        encoding = "utf-16-be" if data[:1] == b"\0" else "utf-16-le"
    for name in [encoding] if encoding else ["utf-8", "cp1252", "latin-1"]:
        try:
            text = data.decode(name)
            break
        except UnicodeDecodeError:
            continue
    else:
        raise BadRoster(
            gettext("The file can't be read as text: save it as CSV with UTF-8 and try again.")
        )
    if "\0" in text or data[:4] in (b"PK\x03\x04", b"%PDF"):
        raise BadRoster(gettext("This is no text file: save the list as CSV and choose that file."))
    return text


def read_roster(text: str, already: Iterable[str] = (), order: RosterOrder | None = None) -> Roster:
    """Find the names in a roster; `already` are those who are in the class.

    Columns without a header are read in an order: the one given, or the one they look like.
    """
    rows = _rows(text)
    header = _header(rows)
    if header is None and (columns := _columns(rows)):
        order = order or (
            RosterOrder.SURNAME_FIRST if len(columns.names) > 1 else RosterOrder.WHOLE
        )
        rows, header = _ordered(columns, order)
    else:
        order = None
    known = {_same(name): _IN_CLASS for name in already}
    names: list[str] = []
    remarks: list[Remark] = []
    for line, row in rows if header is None else rows[1:]:
        name, trouble = _name(row, header)
        if trouble is None and _same(name) in known:
            trouble = gettext(known[_same(name)], name=name)
        if trouble is None:
            names.append(name)
            known[_same(name)] = _TWICE
        else:
            remarks.append(Remark(line=line, text=", ".join(row)[:60], words=trouble))
    if len(names) > MOST_NAMES:
        raise BadRoster(
            gettext(
                "%(count)s names are more than a class: give at most %(most_names)s.",
                count=len(names),
                most_names=MOST_NAMES,
            )
        )
    return Roster(names=tuple(names), remarks=tuple(remarks), order=order)


def _rows(text: str) -> list[tuple[int, list[str]]]:
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    while lines and not lines[-1].strip():
        lines.pop()
    if not lines:
        return []
    delimiter = _delimiter(lines)
    if delimiter is None:
        return [(n, [line]) for n, line in enumerate(lines, start=1)]
    try:
        reader = csv.reader(StringIO("\n".join(lines)), delimiter=delimiter, strict=True)
        return [(reader.line_num, row) for row in reader]
    except csv.Error as wrong:
        raise BadRoster(
            gettext(
                "The list isn't proper CSV (%(wrong)s): check its quotation marks.", wrong=wrong
            )
        ) from (wrong)


@dataclass(frozen=True, kw_only=True)
class _Columns:
    rows: list[tuple[int, list[str]]]
    names: list[int]  # columns that hold words; others hold numbers, or a class such as 9B


def _columns(rows: Sequence[tuple[int, list[str]]]) -> _Columns | None:
    """Part lines of as many columns each, where they are; a name of one word has none."""
    lines = [(line, row[0]) for line, row in rows if row[0].strip()]
    for mark in _SEPARATORS:
        parted = [
            (line, [cell.strip() for cell in next(csv.reader([text], delimiter=mark))])
            for line, text in lines
        ]
        counts = {len(cells) for _, cells in parted}
        if len(counts) == 1 and counts != {1}:
            across = range(counts.pop())
            names = [n for n in across if all(_is_words(cells[n]) for _, cells in parted)]
            return _Columns(rows=parted, names=names) if names else None
    return None


def _is_words(cell: str) -> bool:
    return bool(cell) and not any(letter.isdigit() for letter in cell)


def _ordered(
    columns: _Columns, order: RosterOrder
) -> tuple[list[tuple[int, list[str]]], list[str]]:
    """Give columns the header that an order stands for."""
    header = ["" for _ in columns.rows[0][1]]
    called = {
        RosterOrder.WHOLE: (_FULL[0],),
        RosterOrder.SURNAME_FIRST: (_LAST[0], _FIRST[0]),
        RosterOrder.FIRST_NAME_FIRST: (_FIRST[0], _LAST[0]),
    }[order]
    for n, name in zip(columns.names, called, strict=False):
        header[n] = name
    return [(0, header), *columns.rows], header


def _delimiter(lines: Sequence[str]) -> str | None:
    """Say what parts the columns; only a header line makes a list CSV."""
    for mark in _SEPARATORS:
        cells = [_plain(cell) for cell in lines[0].split(mark)]
        if len(cells) > 1 and any(cell in (*_FULL, *_FIRST, *_LAST) for cell in cells):
            return mark
    return None


def _header(rows: Sequence[tuple[int, list[str]]]) -> list[str] | None:
    if not rows:
        return None
    cells = [_plain(cell) for cell in rows[0][1]]
    return cells if any(cell in (*_FULL, *_FIRST, *_LAST) for cell in cells) else None


def _name(row: Sequence[str], header: Sequence[str] | None) -> tuple[str, str | None]:
    if not any(cell.strip() for cell in row):
        return "", gettext("The line is empty: left out.")
    if header is None:
        parts = [row[0]]
    else:
        columns = dict(zip(header, row, strict=False))
        full = [columns[n] for n in _FULL if n in columns]
        both = [columns[n] for names in (_FIRST, _LAST) for n in names if n in columns]
        parts = full[:1] or both
    name = " ".join(" ".join(parts).split())
    if not name:
        return "", gettext("There is no name in this line: left out.")
    if len(name) > LONGEST_NAME:
        return "", gettext("A name has at most %(most)s letters: shorten it.", most=LONGEST_NAME)
    if not can_be_printed(name):
        return "", gettext("There are signs in it that can't be printed: type the name again.")
    return unicodedata.normalize("NFC", name), None


def can_be_printed(name: str) -> bool:
    """Say whether a name holds letters alone: no signs of control, but those that join letters.

    >>> can_be_printed("Zoë"), can_be_printed("Zo\\x07")
    (True, False)
    """
    return all(unicodedata.category(one)[0] != "C" or one in _JOINERS for one in name)


def _plain(cell: str) -> str:
    return " ".join(cell.replace("_", " ").replace('"', "").lower().split())


def _same(name: str) -> str:
    return unicodedata.normalize("NFKC", name).casefold()
