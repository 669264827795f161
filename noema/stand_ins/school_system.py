"""A school system that gives OneRoster packages, with the usual mess, and takes results back."""

from dataclasses import dataclass, replace
from random import Random

from noema.formats.oneroster import TABLES, Row, write_package
from noema.formats.safe_zip import ZipLimits, read_zip, write_zip

_CHANGED = "2026-11-20T07:00:00.000Z"
_LIMITS = ZipLimits(entries=40, bytes_in_all=64 * 2**20, bytes_an_entry=32 * 2**20)
_GIVEN = ("Aino", "Bela", "Caro", "Dov", "Élise", "Fritz", "Gül", "Håkon", "Inés", "Jörg")
_FAMILY = ("Ampel", "Böhm", "Clausen", "Dvořák", "Eki", "Fjeld", "Grün", "Holt", "Ibarra", "Jung")


@dataclass(frozen=True, kw_only=True)
class Mess:
    """What is wrong with a package."""

    encoding: str = "utf-8"  # cp1252 loses what it hasn't
    repeats: int = 0  # users that stand twice
    lost: int = 0  # enrollments whose user isn't there
    in_folder: bool = False


@dataclass(frozen=True, kw_only=True)
class SchoolSystem:
    """What the system knows: rows by table."""

    tables: dict[str, list[Row]]

    def package(self, mess: Mess | None = None) -> bytes:
        """Give a bulk package, messy or clean."""
        how = mess or Mess()
        tables = {name: list(rows) for name, rows in self.tables.items()}
        tables["users"] += tables["users"][: how.repeats]
        students = [row for row in tables["enrollments"] if row["role"] == "student"]
        gone = [
            {**row, "sourcedId": f"lost-{n}", "userSourcedId": f"nobody-{n}"}
            for n, row in enumerate(students[: how.lost])
        ]
        tables["enrollments"] += gone
        files = read_zip(write_package(tables), _LIMITS)
        folder = "export/" if how.in_folder else ""
        return write_zip(
            {
                f"{folder}{name}": body.decode().encode(how.encoding, "replace")
                for name, body in files.items()
            }
        )

    def renames(self, user: str, given: str, family: str) -> "SchoolSystem":
        """Give a student another name."""
        users = [
            {**row, "givenName": given, "familyName": family} if row["sourcedId"] == user else row
            for row in self.tables["users"]
        ]
        return replace(self, tables={**self.tables, "users": users})

    def takes_out(self, user: str) -> "SchoolSystem":
        """Mark all of a student's enrollments as to be deleted."""
        places = [
            {**row, "status": "tobedeleted"} if row["userSourcedId"] == user else row
            for row in self.tables["enrollments"]
        ]
        return replace(self, tables={**self.tables, "enrollments": places})


def made_up_system(rng: Random, classes: int = 2, students: int = 12) -> SchoolSystem:
    """Make up a school system with some classes of some students each and a teacher."""

    def number() -> str:
        return f"{rng.getrandbits(64):016x}"

    school, term, course, teacher = number(), number(), number(), number()
    active = {"status": "active", "dateLastModified": _CHANGED}
    class_rows: list[Row] = []
    users: list[Row] = [{
        **active, "sourcedId": teacher, "enabledUser": "true", "orgSourcedIds": school,
        "role": "teacher", "username": "teacher", "givenName": "Ines", "familyName": "Marlow",
        "email": "ines@saltmarsh.example",
    }]  # fmt: skip
    places: list[Row] = []
    for n in range(classes):
        of_class = number()
        class_rows.append({
            **active, "sourcedId": of_class, "title": f"Art {n + 1}", "courseSourcedId": course,
            "classCode": f"A{n + 1}", "classType": "scheduled", "schoolSourcedId": school,
            "termSourcedIds": term,
        })  # fmt: skip
        members = [(teacher, "teacher")]
        for _ in range(students):
            user = number()
            users.append({
                **active, "sourcedId": user, "enabledUser": "true", "orgSourcedIds": school,
                "role": "student", "username": user[:8], "givenName": rng.choice(_GIVEN),
                "familyName": f"{rng.choice(_FAMILY)}-{rng.choice(_FAMILY)}", "phone": "000",
            })  # fmt: skip
            members.append((user, "student"))
        places += [{
            **active, "sourcedId": number(), "classSourcedId": of_class,
            "schoolSourcedId": school, "userSourcedId": user, "role": role, "primary": "false",
        } for user, role in members]  # fmt: skip
    return SchoolSystem(
        tables={
            "orgs": [{**active, "sourcedId": school, "name": "Saltmarsh Road School",
                      "type": "school"}],
            "academicSessions": [{**active, "sourcedId": term, "title": "Autumn 2026",
                                  "type": "term", "startDate": "2026-10-19",
                                  "endDate": "2027-01-10", "schoolYear": "2027"}],
            "courses": [{**active, "sourcedId": course, "title": "Art", "courseCode": "ART",
                         "orgSourcedId": school}],
            "classes": class_rows,
            "users": users,
            "enrollments": places,
        }
    )  # fmt: skip


def results_taken(package: bytes) -> list[str]:
    """Take a results package as a school system would; gives what is wrong with it."""
    files = read_zip(package, _LIMITS)
    wrong = [f"{name}.csv is missing" for name in ("categories", "lineItems", "results")
             if f"{name}.csv" not in files]  # fmt: skip
    for name, columns in TABLES.items():
        head = files.get(f"{name}.csv", b"").decode().splitlines()[:1]
        if head and head[0] != ",".join(columns):
            wrong.append(f"{name}.csv has other columns")
    return wrong
