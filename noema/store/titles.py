"""What an assignment is called, to whoever reads."""

from typing import Any

from sqlalchemy import Row

from noema.core.language import said_again


def title_said(row: Row[*tuple[Any, ...]]) -> str:
    """Say a title in the reader's language, unless somebody called the assignment so."""
    return str(row.title if row.title_source is None else said_again(row.title_source))
