"""OneRoster CSV packages, 1.1 and 1.2 (IMS Global, OneRoster CSV Tables): a zip of CSV files.

What isn't needed to teach (addresses, phones, passwords) is left behind when a package is read.
"""

import csv
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from io import StringIO

from noema.core.errors import BadRoster, Refused
from noema.core.language import gettext
from noema.formats.roster import roster_text
from noema.formats.safe_zip import ZipLimits, read_zip, write_zip
from noema.formats.spreadsheet import as_written, plain_text

Row = Mapping[str, str]

TABLES: Mapping[str, tuple[str, ...]] = {
    "academicSessions": (
        "sourcedId", "status", "dateLastModified", "title", "type", "startDate", "endDate",
        "parentSourcedId", "schoolYear",
    ),
    "orgs": (
        "sourcedId", "status", "dateLastModified", "name", "type", "identifier", "parentSourcedId",
    ),
    "courses": (
        "sourcedId", "status", "dateLastModified", "schoolYearSourcedId", "title", "courseCode",
        "grades", "orgSourcedId", "subjects", "subjectCodes",
    ),
    "classes": (
        "sourcedId", "status", "dateLastModified", "title", "grades", "courseSourcedId",
        "classCode", "classType", "location", "schoolSourcedId", "termSourcedIds", "subjects",
        "subjectCodes", "periods",
    ),
    "users": (
        "sourcedId", "status", "dateLastModified", "enabledUser", "orgSourcedIds", "role",
        "username", "userIds", "givenName", "familyName", "middleName", "identifier", "email",
        "sms", "phone", "agentSourcedIds", "grades", "password",
    ),
    "enrollments": (
        "sourcedId", "status", "dateLastModified", "classSourcedId", "schoolSourcedId",
        "userSourcedId", "role", "primary", "beginDate", "endDate",
    ),
    "categories": ("sourcedId", "status", "dateLastModified", "title"),
    "lineItems": (
        "sourcedId", "status", "dateLastModified", "title", "description", "assignDate",
        "dueDate", "classSourcedId", "categorySourcedId", "gradingPeriodSourcedId",
        "resultValueMin", "resultValueMax",
    ),
    "results": (
        "sourcedId", "status", "dateLastModified", "lineItemSourcedId", "studentSourcedId",
        "scoreStatus", "score", "scoreDate", "comment",
    ),
}  # fmt: skip
"""The columns of each table that is written, in the order of version 1.1."""

READ = ("academicSessions", "orgs", "courses", "classes", "users", "enrollments")
_NEEDED = ("classes", "users", "enrollments")
_LEFT_BEHIND = frozenset(
    {"email", "sms", "phone", "password", "userIds", "agentSourcedIds", "username",
     "userMasterIdentifier", "preferredPronouns", "primaryOrgSourcedId"}
)  # fmt: skip
_LIMITS = ZipLimits(entries=40, bytes_in_all=64 * 2**20, bytes_an_entry=32 * 2**20)
_MOST_ROWS = 100_000
_LONGEST = 255


@dataclass(frozen=True, kw_only=True)
class RosterDoubt:
    """Something about one line of a package that a person should know."""

    table: str
    line: int  # as a spreadsheet counts
    words: str


@dataclass(frozen=True, kw_only=True)
class Package:
    """A package's rows by table, each under its sourcedId, and what was odd about others."""

    version: str
    tables: Mapping[str, Mapping[str, Row]]
    doubts: tuple[RosterDoubt, ...] = field(default=())


def read_package(data: bytes) -> Package:
    """Read a package; refuses what is none, and names the lines it leaves out."""
    try:
        files = read_zip(data, _LIMITS)
    except BadRoster:
        raise
    except Refused as wrong:
        raise BadRoster(str(wrong)) from wrong
    # Some systems put everything into a folder.
    by_name = {name.rsplit("/", 1)[-1].lower(): body for name, body in files.items()}
    missing = [name for name in _NEEDED if f"{name.lower()}.csv" not in by_name]
    if missing:
        raise BadRoster(
            gettext(
                "There is no %(missing)s.csv in it: export the whole OneRoster package.",
                missing=missing[0],
            )
        )
    doubts: list[RosterDoubt] = []
    tables = {
        name: _table(name, by_name[f"{name.lower()}.csv"], doubts)
        for name in READ
        if f"{name.lower()}.csv" in by_name
    }
    return Package(version=_version(by_name), tables=tables, doubts=tuple(doubts))


def write_package(tables: Mapping[str, Iterable[Row]]) -> bytes:
    """Write a bulk package of version 1.1; columns a row hasn't are empty.

    Text that a spreadsheet would take for a formula gets an apostrophe, which is read back without.
    """
    files = {f"{name}.csv": _csv(TABLES[name], rows) for name, rows in tables.items()}
    properties = [
        {"propertyName": "manifest.version", "value": "1.0"},
        {"propertyName": "oneroster.version", "value": "1.1"},
        *(
            {"propertyName": f"file.{name}", "value": "bulk" if name in tables else "absent"}
            for name in (*TABLES, "classResources", "courseResources", "demographics", "resources")
        ),
        {"propertyName": "source.systemName", "value": "Noema"},
        {"propertyName": "source.systemCode", "value": "noema"},
    ]
    files["manifest.csv"] = _csv(("propertyName", "value"), properties)
    return write_zip(files)


def _version(files: Mapping[str, bytes]) -> str:
    if "manifest.csv" not in files:
        return "1.1"
    for row in _rows(files["manifest.csv"]):
        if row.get("propertyName", "").strip() == "oneroster.version":
            return row.get("value", "").strip()[:10] or "1.1"
    return "1.1"


def _table(name: str, data: bytes, doubts: list[RosterDoubt]) -> dict[str, Row]:
    found: dict[str, Row] = {}
    for line, row in enumerate(_rows(data), start=2):
        number = row.get("sourcedId", "")
        if not number:
            doubts.append(
                RosterDoubt(table=name, line=line, words=gettext("It has no sourcedId: left out."))
            )
        elif len(number) > _LONGEST:
            doubts.append(
                RosterDoubt(
                    table=name, line=line, words=gettext("Its sourcedId is too long: left out.")
                )
            )
        elif number in found:
            words = gettext(
                "The sourcedId %(number)s stands twice: only the first counts.", number=number[:40]
            )
            doubts.append(RosterDoubt(table=name, line=line, words=words))
        else:
            found[number] = row
    return found


def _rows(data: bytes) -> list[dict[str, str]]:
    text = roster_text(data).lstrip("\ufeff")
    try:
        reader = csv.DictReader(StringIO(text, newline=""), strict=True)
        rows: list[dict[str, str]] = []
        for row in reader:
            if len(rows) >= _MOST_ROWS:
                raise BadRoster(
                    gettext(
                        "There are over %(most_rows)s lines in it: export one school.",
                        most_rows=_MOST_ROWS,
                    )
                )
            rows.append(_clean(row))
    except csv.Error as wrong:
        raise BadRoster(
            gettext("A file in it isn't proper CSV (%(wrong)s): export it again.", wrong=wrong)
        ) from wrong
    return rows


def _clean(row: Mapping[str | None, str | list[str] | None]) -> dict[str, str]:
    """Keep what is needed to teach, without signs that can't be shown."""
    return {
        name.strip(): as_written("".join(c for c in value if c.isprintable()).strip())
        for name, value in row.items()
        if name is not None
        and isinstance(value, str)
        and name.strip() not in _LEFT_BEHIND
        and not name.strip().startswith("metadata.")
    }


def _csv(columns: Sequence[str], rows: Iterable[Row]) -> bytes:
    out = StringIO(newline="")
    writer = csv.DictWriter(out, columns, extrasaction="ignore", restval="", lineterminator="\r\n")
    writer.writeheader()
    for row in rows:
        writer.writerow({name: plain_text(value) for name, value in row.items()})
    return out.getvalue().encode()
