"""Move the built-in tubes' curves until masstone and tint come out near those written beside them.

    .venv/bin/python tools/tune_tubes.py yellow-ochre scarlet    # prints the tuned lines

Starts from the curves in tubes.toml and stays near them: positions may move a few nanometres,
widths and heights some tenths. Copy the lines that please into tubes.toml; ultramarine was tuned
by hand from there on, to its mixes as well.
"""

import sys
import tomllib
from pathlib import Path

import numpy as np
from scipy.optimize import least_squares

from noema.core.colour.hvc import FAMILIES, hvc_of, hvc_to_lab
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.pigments.curves import CurveShape, absorption_of, scattering_of
from noema.core.pigments.film import opaque_reflectance
from noema.core.pigments.shelf import TUBES, WHITE

TABLE = Path(__file__).parents[1] / "noema/core/pigments/data/tubes.toml"
TINT_PARTS = 10.0  # volumes of white to one of the tube
MOVE_NM, STRETCH, RAISE, RAISE_SCATTER = 4.0, 0.1, 0.4, 0.2  # one step of each kind


def lab_of(notation: str) -> np.ndarray:
    """Read "8Y 8.4/12.3" or "N1.9" as Lab."""
    if notation.startswith("N"):
        return hvc_to_lab([np.nan, float(notation[1:]), 0.0])
    hue, rest = notation.split()
    letters = hue.lstrip("0123456789.")
    value, chroma = map(float, rest.split("/"))
    return hvc_to_lab([float(hue[: -len(letters)]) + 10.0 * FAMILIES.index(letters), value, chroma])


def moved(entry: dict, x: np.ndarray) -> CurveShape:
    """Give the shape after steps x, one for each number in the entry's curves."""
    steps = iter(x)
    kinds = {"edges": "cwh", "bands": "cwh", "blocks": "cwcwh"}
    rows = {
        key: tuple(
            tuple(
                _step(number, kind, next(steps))
                for number, kind in zip(row, kinds[key], strict=True)
            )
            for row in entry.get(key, ())
        )
        for key in kinds
    }
    return CurveShape(
        **rows,
        haze=entry["haze"] * np.exp(next(steps)),
        scatter=entry["scatter"] * np.exp(RAISE_SCATTER * next(steps)),
        tilt=entry["tilt"],
    )


def _step(number: float, kind: str, step: float) -> float:
    if kind == "c":
        return number + MOVE_NM * step
    return number * np.exp((STRETCH if kind == "w" else RAISE) * step)


def labs(shape: CurveShape) -> tuple[np.ndarray, np.ndarray]:
    """Give masstone and tint."""
    white = TUBES[WHITE]
    k, s = absorption_of(shape), scattering_of(shape)
    tint = opaque_reflectance(k + TINT_PARTS * white.absorption, s + TINT_PARTS * white.scattering)
    return reflectance_to_lab(opaque_reflectance(k, s)), reflectance_to_lab(tint)


def tune(entry: dict) -> CurveShape:
    """Fit one tube."""
    wanted = [lab_of(entry["masstone"]), lab_of(entry["tint"])]
    count = sum(len(row) for key in ("edges", "bands", "blocks") for row in entry.get(key, ())) + 2

    def misses(x: np.ndarray) -> np.ndarray:
        got = labs(moved(entry, x))
        return np.concatenate([*(g - w for g, w in zip(got, wanted, strict=True)), 0.8 * x])

    return moved(entry, least_squares(misses, np.zeros(count), bounds=(-4, 4)).x)


def main() -> None:
    entries = tomllib.loads(TABLE.read_text(encoding="utf-8"))
    for name in sys.argv[1:]:
        shape = tune(entries[name])
        print(f"[{name}]")
        for key in ("edges", "bands", "blocks"):
            rows = [[float(f"{number:.4g}") for number in row] for row in getattr(shape, key)]
            if rows:
                print(f"{key} = {rows}")
        print(f"haze = {shape.haze:.3g}\nscatter = {shape.scatter:.3g}\ntilt = {shape.tilt:.3g}")
        targets = (entries[name]["masstone"], entries[name]["tint"])
        for lab, target in zip(labs(shape), targets, strict=True):
            hvc = hvc_of(lab)
            print(f"# {hvc.notation} {hvc.value:.2f}/{hvc.chroma:.1f} for {target}")


if __name__ == "__main__":
    main()
