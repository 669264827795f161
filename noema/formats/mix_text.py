"""A mix as people type it: "lemon-yellow:4, phthalo-blue:1", volumes as squeezed."""

import re

from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import PaintSet

MOST_AMOUNT = 1_000_000.0

_ONE = re.compile(r"\s*(?P<tube>[^:]*?)\s*(?::\s*(?P<amount>.*?)\s*)?$")


def mix_from_text(text: str, paints: PaintSet) -> tuple[Part, ...]:
    """Read a mix; an amount left out counts as 1. Refuses the first fault with its column.

    >>> from noema.core.pigments.shelf import builtin_set
    >>> [(p.tube.name, p.amount) for p in mix_from_text("magenta: 4, white", builtin_set("all"))]
    [('magenta', 4.0), ('titanium-white', 1.0)]
    """
    parts: list[Part] = []
    start = 0
    for piece in text.split(","):
        parts.append(_part(piece, start, paints))
        start += len(piece) + 1
    return tuple(parts)


def mix_to_text(parts: tuple[Part, ...]) -> str:
    """Write a mix as it can be read again."""
    return ", ".join(f"{part.tube.name}:{part.amount:g}" for part in parts)


def _part(piece: str, start: int, paints: PaintSet) -> Part:
    found = _ONE.match(piece)
    assert found is not None  # every group is optional
    name, amount = found["tube"], found["amount"]
    column = start + found.start("tube") + 1
    if not name:
        raise BadPaint(
            gettext(
                "column %(column)s: a tube's name is missing; write tube:amount, tube:amount",
                column=column,
            )
        )
    try:
        tube = paints.tube(name)
    except BadPaint as wrong:
        raise BadPaint(
            gettext("column %(column)s: %(wrong)s", column=column, wrong=wrong)
        ) from wrong
    if amount is None:
        return Part(tube=tube, amount=1.0)
    column = start + found.start("amount") + 1
    try:
        volume = float(amount)
    except ValueError as wrong:
        raise BadPaint(
            gettext(
                "column %(column)s: the amount “%(amount)s” is not a number",
                column=column,
                amount=amount,
            )
        ) from wrong
    if not 0.0 < volume <= MOST_AMOUNT:
        raise BadPaint(
            gettext(
                "column %(column)s: the amount must be above 0 and not above a million",
                column=column,
            )
        )
    return Part(tube=tube, amount=volume)
