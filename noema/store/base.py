"""The common ground of all tables. Times are UTC."""

from collections.abc import Iterable
from datetime import datetime
from enum import Enum

from sqlalchemy import CheckConstraint, MetaData, func
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

Json = dict[str, object]
_JSONB = JSONB(none_as_null=True)  # what isn't there is NULL, however its row came

SECRET = {"secret": True}
"""Marks a column that opens doors: it leaves in no export and is found by no search."""


class Base(DeclarativeBase):
    """The common ground of all tables."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_N_label)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {
        datetime: TIMESTAMP(timezone=True),
        Json: _JSONB,
        list[str]: _JSONB,
        list[float]: _JSONB,
        list[Json]: _JSONB,
    }


def one_of(column: str, members: type[Enum]) -> CheckConstraint:
    return one_of_codes(column, [member.value for member in members])


def one_of_codes(column: str, codes: Iterable[str]) -> CheckConstraint:
    allowed = ", ".join(f"'{code}'" for code in codes)
    return CheckConstraint(f"{column} IN ({allowed})", name=f"{column}_known")


def made_now() -> Mapped[datetime]:
    return mapped_column(server_default=func.now())
