"""A school says which hue has which name, and which blue it calls warm."""

from collections.abc import Mapping

from sqlalchemy.orm import Session

from noema.core.colour.names import WarmBlue, hue_table_of
from noema.store.paints import HueWords, set_hue_words


def name_hues(
    session: Session, school_id: int, hue100_by_name: Mapping[str, float], warm_blue: WarmBlue
) -> None:
    """Change the school's words; refuses a table that doesn't go once round the wheel."""
    words = HueWords(table=hue_table_of(hue100_by_name), warm_blue=warm_blue)
    set_hue_words(session, school_id, words)
