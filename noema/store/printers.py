"""Printers and what they lay, and reference cards."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import cast

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.core.photo.card import ReferenceCard
from noema.core.photo.knowledge import Known, Srgb
from noema.core.photo.learned_print import LearnedPrint
from noema.store.base import Json
from noema.store.paint_tables import CardRow, PrinterRow
from noema.store.tables import Assignment, SchoolClass

_DIGITS = 4


@dataclass(frozen=True, kw_only=True)
class PrinterLook:
    """One time a printer's page was looked at."""

    how: str  # in words, such as: photographed beside Card of 18
    source: str  # printer calibration or meter
    labs: Mapping[Srgb, Known]
    photograph_sha256: str | None = None  # None where it was measured


@dataclass(frozen=True, kw_only=True)
class Learned:
    """What a printer was learned to lay from photographs of its sheets, and which they were."""

    print: LearnedPrint
    counted: int  # photographs of its sheets there were then, whether they helped or not


@dataclass(frozen=True, kw_only=True)
class Printer:
    """A school's printer."""

    id: int
    name: str
    looks: tuple[PrinterLook, ...]
    learned: Learned | None  # None while nothing is
    learns_from: datetime | None  # since when its ink and paper are what they are


@dataclass(frozen=True, kw_only=True)
class OwnedCard:
    """A school's reference card."""

    id: int
    card: ReferenceCard


def printers_of_school(session: Session, school_id: int) -> tuple[Printer, ...]:
    """Which printers does a school have, by name?"""
    question = select(PrinterRow).where(PrinterRow.school_id == school_id).order_by(PrinterRow.name)
    return tuple(_printer(row) for row in session.scalars(question))


def printer_of_school(session: Session, school_id: int, printer_id: int) -> Printer:
    """Which printer is this, if it is one of the school's?"""
    return _printer(_row(session, school_id, printer_id))


def printer_of_assignment(session: Session, assignment_id: int) -> Printer | None:
    """Which printer lays an assignment's sheets, as far as it was said?"""
    row = session.scalar(
        select(PrinterRow)
        .join(Assignment, Assignment.printer_id == PrinterRow.id)
        .where(Assignment.id == assignment_id)
    )
    return None if row is None else _printer(row)


def latest_printer_of_class(session: Session, class_id: int) -> Printer | None:
    """Which printer laid what a class was given last, as far as it was said?"""
    row = session.scalar(
        select(PrinterRow)
        .join(Assignment, Assignment.printer_id == PrinterRow.id)
        .where(Assignment.class_id == class_id)
        .order_by(Assignment.id.desc())
        .limit(1)
    )
    return None if row is None else _printer(row)


def printer_to_learn(session: Session, printer_id: int) -> Printer | None:
    """Which printer is this, if nobody calibrated it? Locked, so that no other job learns it."""
    question = select(PrinterRow).where(
        PrinterRow.id == printer_id, func.jsonb_array_length(PrinterRow.measured) == 0
    )
    row = session.scalar(question.with_for_update())
    return None if row is None else _printer(row)


def set_learned(session: Session, printer_id: int, learned: Learned) -> None:
    """Keep what a printer was learned to lay."""
    session.get_one(PrinterRow, printer_id).learned = _learned_to_json(learned)
    session.flush()


def add_printer(session: Session, school_id: int, name: str) -> int:
    """Add a printer and give its number."""
    same = select(PrinterRow.id).where(PrinterRow.school_id == school_id, PrinterRow.name == name)
    if session.scalar(same) is not None:
        raise Refused(
            gettext("There is a printer called “%(name)s” already: choose another name.", name=name)
        )
    row = PrinterRow(school_id=school_id, name=name, measured=[])
    session.add(row)
    session.flush()
    return row.id


def add_look(session: Session, school_id: int, printer_id: int, look: PrinterLook) -> None:
    """Add what one look at a printer's page gave."""
    row = _row(session, school_id, printer_id)
    row.measured = [*row.measured, _look_to_json(look)]
    session.flush()


def set_printer(session: Session, assignment_id: int, printer_id: int | None) -> None:
    """Say which printer lays an assignment's sheets."""
    session.execute(
        update(Assignment).where(Assignment.id == assignment_id).values(printer_id=printer_id)
    )


def usual_printer(session: Session, school_id: int) -> int | None:
    """Which printer did a school print on last? Before it did: the one it added last.

    A calibrated one goes before.
    """
    given = session.execute(
        select(Assignment.printer_id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .where(SchoolClass.school_id == school_id)
        .order_by(Assignment.id.desc())
        .limit(1)
    ).first()
    if given is not None and given.printer_id is not None:
        return int(given.printer_id)
    return session.scalar(
        select(PrinterRow.id)
        .where(PrinterRow.school_id == school_id)
        .order_by((func.jsonb_array_length(PrinterRow.measured) > 0).desc(), PrinterRow.id.desc())
        .limit(1)
    )


def forget_looks(session: Session, school_id: int, printer_id: int) -> None:
    """Begin a printer's calibration anew; what was learned of it is forgotten as well."""
    row = _row(session, school_id, printer_id)
    row.measured = []
    row.learned = None
    row.learns_from = datetime.now(UTC)
    session.flush()


def cards_of_school(session: Session, school_id: int) -> tuple[OwnedCard, ...]:
    """Which reference cards does a school have?"""
    question = select(CardRow).where(CardRow.school_id == school_id).order_by(CardRow.name)
    return tuple(
        OwnedCard(
            id=row.id,
            card=card_of(row),
        )
        for row in session.scalars(question)
    )


def card_of_school(session: Session, school_id: int, card_id: int) -> OwnedCard:
    """Which card is this, if it is one of the school's?"""
    found = next((one for one in cards_of_school(session, school_id) if one.id == card_id), None)
    if found is None:
        raise NotFound(gettext("There is no such reference card in your school."))
    return found


def card_of(row: CardRow) -> ReferenceCard:
    """Give a kept card as the reader knows it."""
    labs = tuple(cast(list[tuple[float, float, float]], row.labs["labs"]))
    return ReferenceCard(name=row.name, columns=row.columns, rows=row.rows, labs=labs)


def add_card(session: Session, school_id: int, card: ReferenceCard) -> int:
    """Keep a reference card and give its number."""
    same = select(CardRow.id).where(CardRow.school_id == school_id, CardRow.name == card.name)
    if session.scalar(same) is not None:
        raise Refused(
            gettext(
                "There is a card called “%(name)s” already: choose another name.", name=card.name
            )
        )
    labs: Json = {"labs": [list(lab) for lab in card.labs]}
    row = CardRow(
        school_id=school_id, name=card.name, columns=card.columns, rows=card.rows, labs=labs
    )
    session.add(row)
    session.flush()
    return row.id


def _row(session: Session, school_id: int, printer_id: int) -> PrinterRow:
    question = select(PrinterRow).where(
        PrinterRow.school_id == school_id, PrinterRow.id == printer_id
    )
    row = session.scalar(question.with_for_update())
    if row is None:
        raise NotFound(gettext("There is no such printer in your school."))
    return row


def _printer(row: PrinterRow) -> Printer:
    looks = tuple(_look_from_json(one) for one in row.measured)
    return Printer(
        id=row.id,
        name=row.name,
        looks=looks,
        learned=None if row.learned is None else _learned_from_json(row.learned),
        learns_from=row.learns_from,
    )


def _look_to_json(look: PrinterLook) -> Json:
    return {
        "how": look.how,
        "source": look.source,
        "labs": _labs_to_json(look.labs),
        "photograph": look.photograph_sha256,
    }


def _look_from_json(body: Json) -> PrinterLook:
    photograph = cast(str | None, body.get("photograph"))  # earlier looks don't name theirs
    return PrinterLook(
        how=str(body["how"]),
        source=str(body["source"]),
        labs=_labs_from_json(body["labs"]),
        photograph_sha256=photograph,
    )


def _learned_to_json(learned: Learned) -> Json:
    found = learned.print
    return {
        "labs": _labs_to_json(found.labs),
        "without": {camera: _labs_to_json(labs) for camera, labs in found.without.items()},
        "photographs": found.photographs,
        "since": found.since.isoformat(),
        "counted": learned.counted,
    }


def _learned_from_json(body: Json) -> Learned:
    without = cast(dict[str, object], body["without"])
    found = LearnedPrint(
        labs=_labs_from_json(body["labs"]),
        without={camera: _labs_from_json(labs) for camera, labs in without.items()},
        photographs=cast(int, body["photographs"]),
        since=date.fromisoformat(str(body["since"])),
    )
    return Learned(print=found, counted=cast(int, body["counted"]))


def _labs_to_json(labs: Mapping[Srgb, Known]) -> Json:
    """Write Lab, sigma and, where greys share one, a dot gain, by what was sent."""
    return {
        "-".join(str(part) for part in sent): [
            *(round(part, _DIGITS) for part in (*known.lab, known.sigma)),
            *([] if known.gain is None else [round(known.gain, _DIGITS)]),
        ]
        for sent, known in labs.items()
    }


def _labs_from_json(body: object) -> dict[Srgb, Known]:
    labs = {}
    for name, values in cast(dict[str, Sequence[float]], body).items():
        red, green, blue = (int(part) for part in name.split("-"))
        lightness, a, b, sigma, *gain = values
        labs[red, green, blue] = Known(
            lab=(lightness, a, b), sigma=sigma, gain=gain[0] if gain else None
        )
    return labs
