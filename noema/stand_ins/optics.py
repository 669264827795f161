"""Lamps and sensors: what a camera makes of a reflectance, before tone, noise and files.

Lamps and a sensor with filters side by side, as phones have, are measured ones (data/, made by
tools/make_optics.py); the sensor is bent a little, so that no two cameras are the same. Others have
wider or narrower filters, or layers one under the other that light reaches one after another. A
camera balances its white, multiplies by a matrix fitted to everyday colours, and some make colours
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
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.spectra import everyday_spectra

Floats = NDArray[np.float64]

_DATA = Path(__file__).parent / "data"
_DAYLIGHT = {Kinds.USUAL: ("D50", "D55", "D65"), Kinds.UNSEEN: ("D75",)}
_OTHER_LAMPS = {
    Kinds.USUAL: (
        *("A", "FL2", "FL7", "FL11", "FL12"),
        *("LED-B1", "LED-B2", "LED-B3", "LED-B4", "LED-BH1", "LED-V1", "LED-V2"),
    ),
    Kinds.UNSEEN: ("FL4", "LED-B5"),
}
_SHIFT_NM, _WIDER = 6.0, 0.06  # one sigma of how a channel differs from the measured one
_CROSSTALK = 0.08  # most of a channel that its neighbours let through
STACKED = 0.1
"""Share of cameras whose sensors have layers instead of filters."""

_AS_MEASURED = 0.7  # share of filters; the rest are wider or narrower
_TIMID = 0.0003  # how much less a matrix corrects, for noise's sake
_MUCH_WIDER = (0.15, 0.35)  # by how much, as a logarithm
_LAYERS_UM = ((4.5, 9.5), (0.9, 2.7), (0.06, 0.45))
"""Where red, green and blue are gathered, in micrometres from the top."""

_PER_UM_LOG = (0.98, 0.05, -0.38, -0.72)
"""How much light silicon takes away in a micrometre at 400, 500, 600 and 700 nm, logarithm."""


@dataclass(frozen=True, kw_only=True, eq=False)
class Optics:
    """One camera under one light."""

    sees: Floats  # (31, 3): raw response to a reflectance of 1 in each band, white balanced
    matrix: Floats  # (3, 3) to linear sRGB
    liveliness: float  # >1 makes colours more intense than they are
    lamp: str = ""  # the measured one, whatever daylight was added
    layered: bool = False  # the sensor has layers instead of filters

    def seen(self, reflectance: Floats) -> Floats:
        """Give the linear camera RGB (n, 3) of reflectances (n, 31); white is near 1, 1, 1."""
        linear = reflectance @ self.sees @ self.matrix.T
        grey = (linear @ LUMINANCE)[:, None]
        return np.asarray(grey + self.liveliness * (linear - grey))


def draw_lamp(rng: Generator, preset: str, kinds: Kinds = Kinds.USUAL) -> str:
    """Take some lamp: daylight for `easy`, whatever hangs there otherwise."""
    return str(rng.choice(_DAYLIGHT[kinds] + (() if preset == "easy" else _OTHER_LAMPS[kinds])))


def draw_optics(
    rng: Generator,
    preset: str,
    kinds: Kinds = Kinds.USUAL,
    *,
    stacked: bool | None = None,
    lamp: str | None = None,
    phone: Generator | None = None,
) -> Optics:
    """Take some phone under some lamp; either may be given.

    Whether its sensor has layers instead of filters may be given, too.
    """
    easy = preset == "easy"
    lamps = _table("lamps.csv")
    drawn = draw_lamp(rng, preset, kinds)
    lamp = lamp or drawn
    power = lamps[lamp]
    if not easy:  # some daylight comes in as well
        power = power + rng.uniform(0.0, 0.8) * lamps["D65"]
    own = rng.spawn(1)[0] if phone is None else phone
    body = phone or rng
    layers = own.random() < STACKED if stacked is None else stacked
    filters = _bent(_draw_filters(own, kinds), body)
    layered = bool(layers) and kinds is Kinds.USUAL
    sensor = _stacked(own) if layered else filters
    raw = power[:, None] * sensor
    balance = 1.0 / raw.sum(axis=0)
    balance = balance * np.exp(rng.normal(0.0, 0.01 if easy else 0.04, 3))
    reference = lamps["D55"][:, None] * sensor
    return Optics(
        sees=raw * balance,
        matrix=_matrix(reference / reference.sum(axis=0)),
        liveliness=float(np.exp(body.normal(0.03, 0.04 if easy else 0.09))),
        lamp=lamp,
        layered=layered,
    )


def _draw_filters(rng: Generator, kinds: Kinds) -> Floats:
    """Take a kind of sensor with filters side by side, (31, 3) of red, green and blue."""
    sensors = _table("sensors.csv")
    plain = np.stack([sensors[letter] for letter in "rgb"], axis=-1)
    if kinds is Kinds.UNSEEN:  # yellow filters in green's place
        return np.stack([plain[:, 0], plain[:, 1] + 0.7 * plain[:, 0], plain[:, 2]], axis=-1)
    if rng.random() < _AS_MEASURED:
        return plain
    return _widened(plain, float(np.exp(rng.choice([-1.0, 1.0]) * rng.uniform(*_MUCH_WIDER))))


def _widened(sensor: Floats, times: float) -> Floats:
    """Widen or narrow each channel about its own middle."""
    middles = [float(np.average(WAVELENGTHS_NM, weights=one)) for one in sensor.T]
    columns = [
        np.interp(at + (WAVELENGTHS_NM - at) / times, WAVELENGTHS_NM, one)
        for at, one in zip(middles, sensor.T, strict=True)
    ]
    return np.stack(columns, axis=-1)


def _stacked(rng: Generator) -> Floats:
    """Make a sensor of three layers of silicon, red's the deepest, behind a filter.

    Light goes the deeper the longer its waves: Beer's law with silicon's absorption, nearly.
    """
    absorption = 10.0 ** np.interp(WAVELENGTHS_NM, (400.0, 500.0, 600.0, 700.0), _PER_UM_LOG)
    deep = np.array(_LAYERS_UM) * np.exp(rng.normal(0.0, 0.1, (3, 2)))
    left = np.exp(-absorption[:, None, None] * deep)
    short = 1.0 / (1.0 + np.exp((415.0 - WAVELENGTHS_NM) / 6.0))
    long = 1.0 / (1.0 + np.exp((WAVELENGTHS_NM - rng.normal(646.0, 5.0)) / 9.0))
    return np.asarray((left[..., 0] - left[..., 1]) * (short * long)[:, None])


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
    # Rows sum to one: fit the differences from the last channel. What a matrix takes away of
    # other channels it pays for with their noise, so it goes only as far as that is worth.
    known = np.concatenate(
        [raw[:, :2] - raw[:, 2:], np.sqrt(_TIMID * len(raw)) * np.array([[1.0, 0.0], [0.0, 1.0]])]
    )
    rows = []
    for channel in range(3):
        own = np.sqrt(_TIMID * len(raw)) * np.eye(3)[channel, :2]
        two = np.linalg.lstsq(known, np.concatenate([wanted[:, channel] - raw[:, 2], own]))[0]
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
