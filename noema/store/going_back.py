"""What every way back asks first: nothing that people put in may be lost by it."""

from alembic import op
from sqlalchemy import text

from noema.core.errors import Refused


def refuse_loss(*rows: str) -> None:
    """Refuse to go back while there are rows that the older tables have no place for.

    Each is a table, or a table and which of its rows: "sheet WHERE student_id IS NULL".
    """
    for those in rows:
        if op.get_bind().scalar(text(f"SELECT EXISTS (SELECT FROM {those})")):
            raise Refused(
                f"Going back would lose what is in {those.split()[0]}: restore a backup of the "
                "older version instead."
            )
