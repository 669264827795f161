"""Hue, value and chroma as JSON: {"hue": "5.0R", "hue100": 5.0, "value": 4.1, "chroma": 12.3}."""

from noema.core.colour.hvc import HVC


def hvc_to_json(hvc: HVC) -> dict[str, object]:
    """Give the notation and its numbers; a neutral has hue N and no hue number."""
    return {
        "hue": hvc.notation,
        "hue100": None if hvc.hue100 is None else round(hvc.hue100, 2),
        "value": round(hvc.value, 3),
        "chroma": round(hvc.chroma, 2),
    }
