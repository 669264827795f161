"""Hue, value and chroma as JSON: {"hue": "5.0R", "hue100": 5.0, "value": 4.1, "chroma": 12.3}."""

from noema.core.colour.hvc import HVC
from noema.core.language import N_
from noema.formats.plain import from_plain

_COLOUR = N_("colour")


def hvc_to_json(hvc: HVC) -> dict[str, object]:
    """Give the notation and its numbers; a neutral has hue N and no hue number."""
    return {
        "hue": hvc.notation,
        "hue100": None if hvc.hue100 is None else round(hvc.hue100, 2),
        "value": round(hvc.value, 3),
        "chroma": round(hvc.chroma, 2),
    }


def hvc_from_json(values: object) -> HVC:
    """Read back what `hvc_to_json` wrote, by its numbers."""
    return from_plain(HVC, values, _COLOUR)
