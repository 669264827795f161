"""The made-up scenes that ship with Noema, to paint from; tools/draw_scenes.py draws them."""

from pathlib import Path

from noema.core.errors import Refused
from noema.core.language import N_, gettext

FOLDER = Path(__file__).parent

SCENES = {
    "still-life": N_("Still life on a table"),
    "harbour": N_("Harbour"),
    "hedge": N_("Hedge in sun and shadow"),
    "head": N_("Carved head in three lights"),
    "rooftops": N_("Rooftops"),
    "bird": N_("Bird"),
}
"""Their names and what people call them."""


def scene_bytes(name: str) -> bytes:
    """Give a scene's PNG; refuses a name that is none of theirs."""
    if name not in SCENES:
        raise Refused(gettext("Choose one of the scenes shown."))
    return (FOLDER / f"{name}.png").read_bytes()
