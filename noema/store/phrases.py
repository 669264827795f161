"""A school's phrase book: what its teachers wrote, by what was found."""

from collections.abc import Collection
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Select, delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.tables import Phrase

_MOST_OFFERED = 3


@dataclass(frozen=True, kw_only=True)
class PhraseRow:
    """One sentence of the book."""

    id: int
    finding: str
    words: str


def keep_phrase(session: Session, school_id: int, finding: str, words: str) -> None:
    """Keep a teacher's words; words already in the book become the latest."""
    row = insert(Phrase).values(school_id=school_id, finding=finding, words=words)
    session.execute(
        row.on_conflict_do_update(
            index_elements=["school_id", "finding", "words"], set_={"used_at": func.now()}
        )
    )


def phrases_for(
    session: Session, school_id: int, findings: Collection[str]
) -> tuple[PhraseRow, ...]:
    """What did teachers last write where something like this was found?"""
    question = select(Phrase).where(Phrase.school_id == school_id, Phrase.finding.in_(findings))
    return _rows(session, question.order_by(Phrase.used_at.desc()).limit(_MOST_OFFERED))


def phrase_book(session: Session, school_id: int) -> tuple[PhraseRow, ...]:
    """What is in a school's phrase book?"""
    question = select(Phrase).where(Phrase.school_id == school_id)
    return _rows(session, question.order_by(Phrase.finding, Phrase.used_at.desc()))


def drop_phrase(session: Session, school_id: int, phrase_id: int) -> None:
    """Take a sentence out of the book."""
    gone = session.scalar(
        delete(Phrase)
        .where(Phrase.school_id == school_id, Phrase.id == phrase_id)
        .returning(Phrase.id)
    )
    if gone is None:
        raise NotFound(gettext("There is no such sentence in your phrase book."))


def _rows(session: Session, question: Select[*tuple[Any, ...]]) -> tuple[PhraseRow, ...]:
    return tuple(
        PhraseRow(id=row.id, finding=row.finding, words=row.words)
        for row in session.scalars(question)
    )
