"""What a look saw, as JSON between the process that looked and whichever is asked for it."""

from typing import Any

from noema.core.photo.aiming import Aim, Glance
from noema.core.photo.reading import SheetFlag


def glance_to_json(seen: Glance) -> dict[str, Any]:
    """Write it by the names of what was seen."""
    return {
        "corners": [list(corner) for corner in seen.corners],
        "aims": [aim.name for aim in seen.aims],
        "flags": [flag.name for flag in seen.flags],
        "code": seen.code,
    }


def glance_from_json(body: dict[str, Any]) -> Glance:
    """Read it back."""
    return Glance(
        corners=tuple((x, y) for x, y in body["corners"]),
        aims=tuple(Aim[name] for name in body["aims"]),
        flags=tuple(SheetFlag[name] for name in body["flags"]),
        code=body["code"],
    )
