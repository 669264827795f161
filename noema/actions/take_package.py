"""A school system's package of rosters is looked at, then taken; twice the same changes nothing."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date

from sqlalchemy.orm import Session

from noema.actions.make_class import make_class
from noema.core.language import N_, gettext
from noema.core.planning.unit import Unit, monday_of
from noema.formats.oneroster import READ, Package, RosterDoubt, Row
from noema.formats.roster import LONGEST_NAME
from noema.store.classes import classes_of_school
from noema.store.erasure import enrol_in, leave_class
from noema.store.people import lock_school
from noema.store.sourced import (
    SourcedRow,
    add_student,
    enrolled_of_school,
    keep_sourced,
    names_of_students,
    rename_class,
    rename_student,
    sourced_of_school,
)

_GONE = ("tobedeleted", "inactive")
_USUAL_WEEKS = 12
_LONGEST_CLASS = 80

Pair = tuple[str, str]  # kind and sourcedId


@dataclass(kw_only=True)
class Changes:
    """What taking a package would change, by name."""

    new_classes: dict[str, str] = field(default_factory=dict)  # sourcedId: name
    renamed_classes: dict[str, tuple[str, str]] = field(default_factory=dict)  # was, is
    new_students: dict[str, str] = field(default_factory=dict)
    renamed_students: dict[str, tuple[str, str]] = field(default_factory=dict)
    joining: list[Pair] = field(default_factory=list)  # class and user by sourcedId
    leaving: list[Pair] = field(default_factory=list)
    doubts: list[RosterDoubt] = field(default_factory=list)

    @property
    def nothing(self) -> bool:
        """Whether everything is as the package says."""
        return not any(
            (
                self.new_classes,
                self.renamed_classes,
                self.new_students,
                self.renamed_students,
                self.joining,
                self.leaving,
            )
        )


@dataclass(frozen=True, kw_only=True)
class _Known:
    rows: dict[Pair, SourcedRow]
    class_names: dict[int, str]
    student_names: dict[int, str]
    enrolled: frozenset[tuple[int, int]]

    def of(self, kind: str, sourced_id: str) -> SourcedRow | None:
        return self.rows.get((kind, sourced_id))


def changes_of(session: Session, school_id: int, package: Package) -> Changes:
    """Say what taking a package would change, without changing anything."""
    known = _known(session, school_id)
    changes = Changes(doubts=list(package.doubts))
    classes = package.tables["classes"]
    names = _class_names(classes, known)
    for number, name in names.items():
        kept = known.of("classes", number)
        if kept is None or kept.class_id is None:
            changes.new_classes[number] = name
        elif known.class_names.get(kept.class_id, name) != name:
            changes.renamed_classes[number] = (known.class_names[kept.class_id], name)
    places = list(_places(package, changes))
    for _, _, user in places:
        name = _name(package.tables["users"][user])
        kept = known.of("users", user)
        if kept is None or kept.student_id is None:
            changes.new_students[user] = name
        elif known.student_names.get(kept.student_id, name) != name:
            changes.renamed_students[user] = (known.student_names[kept.student_id], name)
    _note_places(places, known, changes)
    _note_namesakes(changes)
    return changes


def take_package(session: Session, school_id: int, package: Package, today: date) -> Changes:
    """Change what a package says is otherwise; whole or, when anything is refused, not at all."""
    lock_school(session, school_id)
    known = _known(session, school_id)
    changes = changes_of(session, school_id, package)
    class_ids = {n: r.class_id for (k, n), r in known.rows.items() if k == "classes"}
    student_ids = {n: r.student_id for (k, n), r in known.rows.items() if k == "users"}
    for number, name in changes.new_classes.items():
        unit, term = _unit(package, package.tables["classes"][number], today)
        class_ids[number] = make_class(session, school_id, name, unit.starts_on, unit.weeks, term)
    # Two classes may have changed names with each other: both give up theirs first.
    for number in changes.renamed_classes:
        rename_class(session, class_ids[number] or 0, f"~ {class_ids[number]}")
    for number, (_, name) in changes.renamed_classes.items():
        rename_class(session, class_ids[number] or 0, name)
    for number, name in changes.new_students.items():
        student_ids[number] = add_student(session, school_id, name)
    for number, (_, name) in changes.renamed_students.items():
        rename_student(session, student_ids[number] or 0, name)
    for of_class, user in changes.joining:
        enrol_in(session, student_ids[user] or 0, class_ids[of_class] or 0)
    for of_class, user in changes.leaving:
        leave_class(session, student_ids[user] or 0, class_ids[of_class] or 0)
    for kind in READ:
        for number, row in package.tables.get(kind, {}).items():
            keep_sourced(
                session,
                school_id,
                SourcedRow(
                    kind=kind,
                    sourced_id=number,
                    body=dict(row),
                    class_id=class_ids.get(number) if kind == "classes" else None,
                    student_id=student_ids.get(number) if kind == "users" else None,
                ),
            )
    return changes


def _known(session: Session, school_id: int) -> _Known:
    rows = sourced_of_school(session, school_id)
    classes = [
        one
        for over in (False, True)
        for one in classes_of_school(session, school_id, archived=over)
    ]
    return _Known(
        rows={(row.kind, row.sourced_id): row for row in rows},
        class_names={one.id: one.name for one in classes},
        student_names=names_of_students(session, school_id),
        enrolled=enrolled_of_school(session, school_id),
    )


def _class_names(classes: Mapping[str, Row], known: _Known) -> dict[str, str]:
    """Name the classes that go on, each otherwise than any other."""
    own = {found.class_id for number in classes if (found := known.of("classes", number))}
    taken = {name.casefold() for n, name in known.class_names.items() if n not in own}
    names: dict[str, str] = {}
    for number, row in classes.items():
        if row.get("status", "").lower() in _GONE:
            continue
        plain = " ".join(row.get("title", "").split())[: _LONGEST_CLASS - 8] or "Class"
        code = row.get("classCode", "")[:6]
        name, n = plain, 2
        while name.casefold() in taken:
            name = f"{plain} {code}".strip() if code and n == 2 else f"{plain} ({n})"
            n += 1
        taken.add(name.casefold())
        names[number] = name
    return names


_NO_USER = N_("Its user isn't in the package: left out.")
_NO_CLASS = N_("Its class isn't in the package: left out.")


def _places(package: Package, changes: Changes) -> Iterator[tuple[bool, str, str]]:
    """Give every student's place that makes sense: stays or leaves, class, user."""
    users, classes = package.tables["users"], package.tables["classes"]
    for line, row in enumerate(package.tables["enrollments"].values(), start=2):
        if row.get("role", "student").lower() != "student":
            continue
        user, of_class = row.get("userSourcedId", ""), row.get("classSourcedId", "")
        stays = row.get("status", "").lower() not in _GONE
        if user not in users or of_class not in classes:
            words = gettext(_NO_USER if user not in users else _NO_CLASS)
            changes.doubts.append(RosterDoubt(table="enrollments", line=line, words=words))
        elif not _name(users[user]):
            words = gettext("Its user has no name: left out.")
            changes.doubts.append(RosterDoubt(table="enrollments", line=line, words=words))
        elif classes[of_class].get("status", "").lower() not in _GONE:
            gone = users[user].get("status", "").lower() in _GONE
            yield stays and not gone, of_class, user


def _note_places(places: list[tuple[bool, str, str]], known: _Known, changes: Changes) -> None:
    for stays, of_class, user in places:
        class_row, user_row = known.of("classes", of_class), known.of("users", user)
        ids = (class_row and class_row.class_id, user_row and user_row.student_id)
        is_in = ids in known.enrolled
        pair = (of_class, user)
        if stays and not is_in and pair not in changes.joining:
            changes.joining.append(pair)
        if not stays and is_in and pair not in changes.leaving:
            changes.leaving.append(pair)
    joined = {user for _, user in changes.joining}
    # Somebody who only leaves, and never came, needs no record.
    changes.new_students = {n: s for n, s in changes.new_students.items() if n in joined}


def _note_namesakes(changes: Changes) -> None:
    seen: dict[str, str] = {}
    for number, name in changes.new_students.items():
        if name.casefold() in seen:
            words = gettext(
                "%(name)s stands there twice under different numbers: perhaps the same person.",
                name=name,
            )
            changes.doubts.append(RosterDoubt(table="users", line=0, words=words))
        seen[name.casefold()] = number


def _name(row: Row) -> str:
    both = (
        f"{row.get('preferredFirstName') or row.get('givenName', '')} {row.get('familyName', '')}"
    )
    return " ".join(both.split())[:LONGEST_NAME]


def _unit(package: Package, row: Row, today: date) -> tuple[Unit, str]:
    """Find when a class's unit begins, its weeks and its term from the package's sessions."""
    sessions = package.tables.get("academicSessions", {})
    for number in row.get("termSourcedIds", "").split(","):
        term = sessions.get(number.strip())
        if term is None:
            continue
        begins, ends = _day(term.get("startDate", "")), _day(term.get("endDate", ""))
        if begins and ends and ends > begins:
            return Unit.between(begins, ends), term.get("title", "")
    return Unit(starts_on=monday_of(today), weeks=_USUAL_WEEKS), ""


def _day(text: str) -> date | None:
    try:
        return date.fromisoformat(text[:10])
    except ValueError:
        return None
