"""Lamps and sensors: what a camera makes of a reflectance, before tone, noise and files.

Lamps and a sensor with filters side by side, as phones have, are measured ones (data/, made by
tools/make_optics.py); the sensor is bent a little, so that no two cameras are the same. A camera
balances its white, multiplies by a matrix fitted to everyday colours, and some make colours
livelier than they are.
"""

from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from noema.core.colour.lab import lab_to_xyz
from noema.core.colour.spectra import WAVELENGTHS_NM, XYZ_WEIGHTS
from noema.core.colour.srgb import LINEAR_TO_XYZ_D50
from noema.core.photo.sample import LUMINANCE
from noema.stand_ins.spectra import everyday_spectra

Floats = NDArray[np.float64]

_DATA = Path(__file__).parent / "data"
_DAYLIGHT = ("D50", "D55", "D65", "D75")
_SHIFT_NM, _WIDER = 6.0, 0.06  # one sigma of how a channel differs from the measured one
_CROSSTALK = 0.08  # most of a channel that its neighbours let through


@dataclass(frozen=True, kw_only=True, eq=False)
class Optics:
    """One camera under one light."""

    sees: Floats  # (31, 3): raw response to a reflectance of 1 in each band, white balanced
    matrix: Floats  # (3, 3) to linear sRGB
    liveliness: float  # >1 makes colours more intense than they are
    lamp: str = ""  # the measured one, whatever daylight was added

    def seen(self, reflectance: Floats) -> Floats:
        """Give the linear camera RGB (n, 3) of reflectances (n, 31); white is near 1, 1, 1."""
        linear = reflectance @ self.sees @ self.matrix.T
        grey = (linear @ LUMINANCE)[:, None]
        return np.asarray(grey + self.liveliness * (linear - grey))


def draw_optics(rng: Generator, preset: str) -> Optics:
    """Take some phone under some lamp: daylight for `easy`, whatever hangs there otherwise."""
    easy = preset == "easy"
    lamps, sensors = _table("lamps.csv"), _table("sensors.csv")
    names = [n for n in lamps if n in _DAYLIGHT] if easy else list(lamps)
    lamp = str(rng.choice(names))
    power = lamps[lamp]
    if not easy:  # some daylight comes in as well
        power = power + rng.uniform(0.0, 0.8) * lamps["D65"]
    plain = np.stack([sensors[letter] for letter in "rgb"], axis=-1)
    sensor = _bent(plain, rng)
    raw = power[:, None] * sensor
    balance = 1.0 / raw.sum(axis=0)
    balance = balance * np.exp(rng.normal(0.0, 0.01 if easy else 0.04, 3))
    reference = lamps["D55"][:, None] * sensor
    return Optics(
        sees=raw * balance,
        matrix=_matrix(reference / reference.sum(axis=0)),
        liveliness=float(np.exp(rng.normal(0.03, 0.04 if easy else 0.09))),
        lamp=lamp,
    )


def _bent(sensor: Floats, rng: Generator) -> Floats:
    """Shift and widen each channel a little, and let some of its neighbours through."""
    bent = np.empty_like(sensor)
    for channel in range(3):
        shift, wide = rng.normal(0.0, _SHIFT_NM), np.exp(rng.normal(0.0, _WIDER))
        middle = float(np.average(WAVELENGTHS_NM, weights=sensor[:, channel]))
        at = middle + (WAVELENGTHS_NM - middle - shift) / wide
        bent[:, channel] = np.interp(at, WAVELENGTHS_NM, sensor[:, channel])
    through = rng.uniform(0.0, _CROSSTALK, (3, 3)) * (1.0 - np.eye(3))
    return np.asarray(bent @ (np.eye(3) + through))


def _matrix(sees: Floats) -> Floats:
    """Fit raw to linear sRGB over everyday colours, keeping white white."""
    spectra = everyday_spectra()
    wanted = spectra @ XYZ_WEIGHTS @ np.linalg.inv(LINEAR_TO_XYZ_D50).T
    wanted = wanted / (lab_to_xyz([100.0, 0.0, 0.0]) @ np.linalg.inv(LINEAR_TO_XYZ_D50).T)
    raw = spectra @ sees
    # Rows sum to one: fit the differences from the last channel.
    rows = []
    for channel in range(3):
        known = raw[:, :2] - raw[:, 2:]
        two = np.linalg.lstsq(known, wanted[:, channel] - raw[:, 2])[0]
        rows.append([two[0], two[1], 1.0 - two.sum()])
    return np.array(rows)


@cache
def _table(name: str) -> dict[str, Floats]:
    lines = (_DATA / name).read_text(encoding="utf-8").splitlines()
    rows = [line.split(",") for line in lines if not line.startswith("#")]
    values = np.array(rows[1:], dtype=float)
    return {column: values[:, n] for n, column in enumerate(rows[0]) if n}


def _eye() -> Optics:
    back = np.linalg.inv(LINEAR_TO_XYZ_D50).T
    return Optics(sees=XYZ_WEIGHTS @ back / _WHITE, matrix=np.eye(3), liveliness=1.0)


_WHITE = lab_to_xyz([100.0, 0.0, 0.0]) @ np.linalg.inv(LINEAR_TO_XYZ_D50).T
EYE = _eye()
"""No camera at all: linear sRGB as the colours are."""
