"""Write noema/core/colour/data/observer_d50.csv: what each band of a reflectance adds to XYZ.

Run with the test extras installed: .venv/bin/python tools/make_observer.py
"""

import csv
from pathlib import Path

import numpy as np
from colour import MSDS_CMFS, SDS_ILLUMINANTS, SpectralShape

TARGET = Path(__file__).parents[1] / "noema/core/colour/data/observer_d50.csv"
WAVELENGTHS_NM = np.arange(400, 701, 10)
D50_XYZ = np.array([96.422, 100.0, 82.521])  # ICC.1:2022, 7.2.16


def weights() -> np.ndarray:
    """Give the weights (31, 3): light times observer under each band's triangle."""
    every_nm = SpectralShape(360, 830, 1)
    observer = MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(every_nm).values
    light = SDS_ILLUMINANTS["D50"].copy().align(every_nm).values
    fine_nm = np.arange(360, 831)
    # Beyond both ends the reflectance is taken as that of the end (ASTM E308, 7.3.2.2).
    share = np.stack([np.interp(fine_nm, WAVELENGTHS_NM, row) for row in np.eye(31)], axis=-1)
    raw = share.T @ (observer * light[:, None])
    return raw / raw.sum(axis=0) * D50_XYZ


def main() -> None:
    with TARGET.open("w", newline="", encoding="utf-8") as file:
        file.write(
            "# CIE 1931 2 degree observer times CIE illuminant D50 (CIE 15:2004), gathered\n"
        )
        file.write("# into 10 nm bands as ASTM E308 does; the white is that of ICC.1:2022.\n")
        writer = csv.writer(file, lineterminator="\n")
        writer.writerow(["wavelength_nm", "x", "y", "z"])
        for nm, row in zip(WAVELENGTHS_NM, weights(), strict=True):
            writer.writerow([nm, *(f"{number:.5f}" for number in row)])


if __name__ == "__main__":
    main()
