"""Makes the stand-in camera's lamps and sensors from measured data sets.

Run: .venv/bin/python -m tools.make_optics
Sources: colour-science's illuminants (CIE 015:2018) and the one camera of its data with filters
side by side, as phones have (Darrodi et al. 2015), at 400 to 700 nm in steps of 10.
"""

from pathlib import Path

import colour
import numpy as np

from noema.core.colour.spectra import WAVELENGTHS_NM

SENSOR = sorted(colour.MSDS_CAMERA_SENSITIVITIES)[0]
FOLDER = Path(__file__).parents[1] / "noema/stand_ins/data"
LAMPS = (
    "D50", "D55", "D65", "D75", "A", "FL2", "FL4", "FL7", "FL11", "FL12",
    "LED-B1", "LED-B2", "LED-B3", "LED-B4", "LED-B5", "LED-BH1", "LED-V1", "LED-V2",
)  # fmt: skip


def at_bands(wavelengths: np.ndarray, values: np.ndarray) -> np.ndarray:
    return np.stack(
        [np.interp(WAVELENGTHS_NM, wavelengths, column) for column in values.T], axis=-1
    )


def write(name: str, columns: list[str], values: np.ndarray, says: str) -> None:
    head = f"# {says}\n# Made by tools/make_optics.py.\nwavelength_nm,{','.join(columns)}\n"
    rows = [
        ",".join([f"{band:.0f}", *(f"{value:.5g}" for value in row)])
        for band, row in zip(WAVELENGTHS_NM, values, strict=True)
    ]
    (FOLDER / name).write_text(head + "\n".join(rows) + "\n", encoding="utf-8")


def main() -> None:
    powers = []
    for lamp in LAMPS:
        spd = colour.SDS_ILLUMINANTS[lamp]
        power = at_bands(spd.wavelengths, spd.values[:, None])[:, 0]
        powers.append(power / power.mean())
    write("lamps.csv", list(LAMPS), np.stack(powers, axis=-1), "Relative power, mean 1 (CIE).")
    sensor = colour.MSDS_CAMERA_SENSITIVITIES[SENSOR]
    write("sensors.csv", list("rgb"), at_bands(sensor.wavelengths, sensor.values), "Sensitivity.")


if __name__ == "__main__":
    main()
