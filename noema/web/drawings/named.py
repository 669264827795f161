"""Names and values beside swatches, for who doesn't tell hues apart by eye; on demand."""

from collections.abc import Sequence
from dataclasses import dataclass

from flask import has_request_context, session

from noema.core.colour.hvc import hvcs_of
from noema.core.colour.names import NEUTRAL_WORD_BELOW, USUAL_HUES, HueTable
from noema.core.language import N_, gettext, written
from noema.core.sheet.layout import Triple

_KEPT = "names"
_LIGHT_FROM = 5.5  # value from which black letters stand out better than white ones


@dataclass(frozen=True, kw_only=True)
class SwatchName:
    """What stands on a swatch."""

    name: str
    value: str
    ink: str  # of the letters


def names_shown() -> bool:
    """Say whether who looks wants names on swatches."""
    return has_request_context() and session.get(_KEPT) == "1"


def show_names(*, wanted: bool) -> None:
    """Keep that for this browser."""
    session[_KEPT] = "1" if wanted else ""


def names_of(labs: Sequence[Triple], table: HueTable = USUAL_HUES) -> tuple[SwatchName, ...]:
    """Name some colours by the twelve hues, or as greys, with their value to a half."""
    if not labs:
        return ()
    return tuple(
        SwatchName(
            name=gettext(N_("grey"))
            if hvc.hue100 is None or hvc.chroma < NEUTRAL_WORD_BELOW
            else table.nearest(hvc.hue100, 12).name,
            value=written(round(2.0 * hvc.value) / 2.0),
            ink="#111111" if hvc.value >= _LIGHT_FROM else "#ffffff",
        )
        for hvc in hvcs_of(list(labs))
    )
