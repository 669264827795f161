"""Colours go into the logbook: painted cells, mixes of the bench, swatched tubes, notes."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy.orm import Session

from noema.core.bench.practice import Practice, parts_in
from noema.core.bench.says import task_words
from noema.core.bench.seen import Lab, colours_of
from noema.core.bench.task import Amount
from noema.core.errors import Refused
from noema.core.exercises.asked import Asked
from noema.core.judging.judgement import Judgement
from noema.core.language import gettext
from noema.core.logbook.entry import Entry, EntryKind
from noema.core.photo.reading import Reading
from noema.core.pigments.fit import Swatch
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.shelf import PaintSet
from noema.formats.logbook import logbook_from_csv, parts_from_text
from noema.store.bench import KeptPractice
from noema.store.logbook import (
    LogScope,
    LogSource,
    add_entries,
    count_entries,
    forget_photograph,
    source_of_reading,
)
from noema.store.students import StudentRow

MOST_OF_ONE = 20_000
"""Entries one person's logbook holds: more than anybody paints in years."""


def log_cells(
    session: Session,
    reading_id: int,
    title: str,
    asked: Asked,
    judgement: Judgement,
    reading: Reading,
) -> None:
    """Put a sheet's painted cells in, in place of what an earlier reading put in."""
    source = source_of_reading(session, reading_id)
    if source is None or source.photograph_id is None:  # a teacher's own sheet is a key
        return
    forget_photograph(session, source.photograph_id)
    cells, seen = {one.id: one for one in asked.cells}, {one.id: one for one in reading.cells}
    add_entries(
        session,
        source,
        [
            Entry(
                kind=EntryKind.CELL,
                title=f"{title}, {one.label}",
                lab=seen[one.id].lab,
                parts=amounts_of(cells[one.id].parts) if one.id in cells else (),
                asked=one.expected_lab,
            )
            for one in judgement.cells
            if one.measured and one.id in seen
        ],
    )


def log_mixes(
    session: Session, kept: KeptPractice, school_id: int, practice: Practice, now: datetime
) -> None:
    """Put the piles of a go that ended in."""
    colours = colours_of(practice.palette, practice.bench.paints)
    title = task_words(practice.task).title
    source = LogSource(
        school_id=school_id,
        class_id=kept.class_id,
        student_id=kept.student_id,
        practice_id=kept.id,
        made_at=now,
    )
    entries = []
    for name, colour in colours.items():
        goal = practice.task.goal_of(name)
        parts = parts_in(practice.palette.piles[name], practice.bench)
        entries.append(
            Entry(
                kind=EntryKind.MIX,
                title=gettext("%(title)s, pile %(name)s", title=title, name=name),
                lab=colour.lab,
                parts=amounts_of(parts),
                asked=goal.lab if goal is not None and not goal.let_down else None,
            )
        )
    add_entries(session, source, entries)


def log_swatches(session: Session, school_id: int, label: str, swatches: Sequence[Swatch]) -> None:
    """Put a tube's measured swatches in."""
    add_entries(
        session,
        LogSource(school_id=school_id),
        [
            Entry(
                kind=EntryKind.TUBE,
                title=f"{label}, {one.label}",
                lab=one.lab,
                parts=amounts_of(one.mixed_with),
            )
            for one in swatches
        ],
    )


def add_note(
    session: Session,
    source: LogSource,
    *,
    title: str,
    parts: str,
    words: str,
    lab: Lab | None,
    paints: PaintSet,
) -> None:
    """Put a note in; without a colour of its own, that of its parts in these tubes."""
    if not title:
        raise Refused(gettext("Say what colour it is, such as: the grey of the rooftops."))
    _has_room(session, source, 1)
    amounts = parts_from_text(parts)
    if lab is None and not amounts:
        raise Refused(gettext("Say the parts, such as ultramarine:3, burnt-sienna:2, or a colour."))
    if lab is None:
        mixed = [Part(tube=paints.tube(one.tube), amount=one.volume) for one in amounts]
        lightness, a, b = lab_of_parts(mixed, paints.binder.dry).tolist()
        lab = (lightness, a, b)
    entry = Entry(kind=EntryKind.NOTE, title=title, lab=lab, parts=amounts, words=words)
    add_entries(session, source, [entry])


def bring_in(session: Session, source: LogSource, text: str) -> int:
    """Put the entries of a CSV in; gives how many there were."""
    entries = logbook_from_csv(text)
    _has_room(session, source, len(entries))
    add_entries(session, source, entries)
    return len(entries)


def own_source(student: StudentRow, class_id: int | None) -> LogSource:
    """Give what a student's own entries go back to."""
    return LogSource(school_id=student.school_id, class_id=class_id, student_id=student.id)


def amounts_of(parts: Sequence[Part]) -> tuple[Amount, ...]:
    """Give parts by the names of their tubes."""
    return tuple(Amount(tube=part.tube.name, volume=part.amount) for part in parts)


def _has_room(session: Session, source: LogSource, more: int) -> None:
    scope = LogScope(
        school_id=source.school_id, class_id=source.class_id, student_id=source.student_id
    )
    if count_entries(session, scope) + more > MOST_OF_ONE:
        raise Refused(
            gettext("A logbook holds %(most)s entries: take some out first.", most=MOST_OF_ONE)
        )
