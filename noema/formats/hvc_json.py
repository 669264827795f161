"""Hue, value and chroma as JSON: {"hue": "5.0R", "hue100": 5.0, "value": 4.1, "chroma": 12.3}."""

from typing import cast

from noema.core.colour.hvc import HVC


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
    numbers = cast(dict[str, float | None], values)
    hue, value, chroma = (numbers[name] for name in ("hue100", "value", "chroma"))
    return HVC(
        hue100=None if hue is None else float(hue),
        value=float(cast(float, value)),
        chroma=float(cast(float, chroma)),
    )
