"""Colour spaces a camera's files may be in, with the ICC profile that says so (ICC.1:2022)."""

import struct
from enum import Enum

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.adaptation import D65_TO_D50
from noema.core.colour.srgb import LINEAR_TO_XYZ_D50

Floats = NDArray[np.float64]

_D65_XY = (0.3127, 0.3290)
_D50_XYZ = (0.9642, 1.0, 0.8249)


class Space(Enum):
    """A space a file's numbers may be in."""

    SRGB = "srgb"  # no profile: what everybody takes for granted
    DISPLAY_P3 = "display-p3"
    ADOBE_RGB = "adobe-rgb"


_PRIMARIES = {
    Space.DISPLAY_P3: ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060)),
    Space.ADOBE_RGB: ((0.640, 0.330), (0.210, 0.710), (0.150, 0.060)),
}
_SRGB_CURVE = (2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045)
_POWERS = {Space.DISPLAY_P3: _SRGB_CURVE, Space.ADOBE_RGB: (563 / 256, 1.0, 0.0, 0.0, 0.0)}


def from_linear_srgb(space: Space) -> Floats:
    """Give the matrix (3, 3) from linear sRGB to the space's linear numbers."""
    if space is Space.SRGB:
        return np.eye(3)
    return np.asarray(np.linalg.inv(_colorants(space)) @ LINEAR_TO_XYZ_D50 / 100.0)


def encoded(linear: Floats, space: Space) -> Floats:
    """Apply the space's curve to linear numbers 0..1 of any shape."""
    power, gain, offset, slope, knee = _POWERS.get(space, _SRGB_CURVE)
    upper = (np.maximum(linear, 0.0) ** (1.0 / power) - offset) / gain
    lower = linear / slope if slope else upper
    return np.where(linear < knee * slope, lower, upper)


def icc_profile(space: Space) -> bytes | None:
    """Write the space's profile, version 4, matrix and curve; None where files carry none."""
    if space is Space.SRGB:
        return None
    columns = _colorants(space).T
    curve = b"para" + bytes(4) + struct.pack(">HH", 3, 0) + _fixed(*_POWERS[space])
    tags = {
        b"desc": _words(space.value),
        b"cprt": _words("No rights are reserved."),
        b"wtpt": b"XYZ " + bytes(4) + _fixed(*_D50_XYZ),
        b"rXYZ": b"XYZ " + bytes(4) + _fixed(*columns[0]),
        b"gXYZ": b"XYZ " + bytes(4) + _fixed(*columns[1]),
        b"bXYZ": b"XYZ " + bytes(4) + _fixed(*columns[2]),
        b"rTRC": curve,
        b"gTRC": curve,
        b"bTRC": curve,
    }
    start = 128 + 4 + 12 * len(tags)
    table, body = b"", b""
    for name, content in tags.items():
        padded = content + bytes(-len(content) % 4)
        table += name + struct.pack(">II", start + len(body), len(content))
        body += padded
    size = start + len(body)
    return _head(size) + struct.pack(">I", len(tags)) + table + body


def _colorants(space: Space) -> Floats:
    xy = np.array(_PRIMARIES[space])
    xyz = np.column_stack([xy, 1.0 - xy.sum(axis=1)]).T
    x, y = _D65_XY
    amounts = np.linalg.solve(xyz, [x / y, 1.0, (1.0 - x - y) / y])
    return np.asarray(D65_TO_D50 @ (xyz * amounts))


def _head(size: int) -> bytes:
    head = struct.pack(">I4sI4s4s4s", size, bytes(4), 0x04000000, b"mntr", b"RGB ", b"XYZ ")
    head += struct.pack(">6H", 2026, 1, 1, 0, 0, 0) + b"acsp" + bytes(28) + _fixed(*_D50_XYZ)
    return head + bytes(128 - len(head))


def _fixed(*values: float) -> bytes:
    return struct.pack(f">{len(values)}i", *(round(value * 65536) for value in values))


def _words(text: str) -> bytes:
    coded = text.encode("utf-16-be")
    return (
        b"mluc" + bytes(4) + struct.pack(">II2s2sII", 1, 12, b"en", b"GB", len(coded), 28) + coded
    )
