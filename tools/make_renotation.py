"""Write noema/core/colour/data/renotation.csv from the public renotation tables.

Run with the test extras installed: .venv/bin/python tools/make_renotation.py
"""

import csv
from pathlib import Path

from colour.notation.datasets.munsell import MUNSELL_COLOURS_ALL, MUNSELL_COLOURS_REAL
from colour.notation.munsell import interpolation_method_from_renotation_ovoid

TARGET = Path(__file__).parents[1] / "noema/core/colour/data/renotation.csv"
LETTERS = ["R", "YR", "Y", "GY", "G", "BG", "B", "PB", "P", "RP"]
# The library numbers the hue families from blue round to purple-blue.
FAMILY_CODE = {"R": 7, "YR": 6, "Y": 5, "GY": 4, "G": 3, "BG": 2, "B": 1, "PB": 10, "P": 9, "RP": 8}


def hue100_of(name: str) -> float:
    letters = name.lstrip("0123456789.")
    return (float(name[: -len(letters)]) + 10.0 * LETTERS.index(letters)) % 100.0


def runs_straight(hue100: float, value: float, chroma: float) -> int:
    """Say whether the curve from this hue to the next is drawn straight (1) or as an arc (0)."""
    middle = (hue100 + 1.25) % 100.0
    family = LETTERS[int(middle // 10.0)]
    plane = min(max(round(value), 1), 9)
    spec = [middle % 10.0, plane, chroma, FAMILY_CODE[family]]
    return int(interpolation_method_from_renotation_ovoid(spec) == "Linear")


def main() -> None:
    real = {key for key, _ in MUNSELL_COLOURS_REAL}
    rows = []
    for (name, value, chroma), (x, y, _) in MUNSELL_COLOURS_ALL:
        if value >= 10.0:
            continue
        hue = hue100_of(name)
        row = (
            hue,
            value,
            chroma,
            f"{x:.4f}",
            f"{y:.4f}",
            int((name, value, chroma) in real),
            runs_straight(hue, value, chroma),
        )
        rows.append(row)
    with TARGET.open("w", newline="", encoding="utf-8") as file:
        file.write(
            "# Munsell renotation, Newhall, Nickerson and Judd (1943), JOSA 33, 385-418, with\n"
        )
        file.write("# its extrapolation to the limits of real colour; the public tables of the\n")
        file.write("# Rochester Institute of Technology. Illuminant C, 2 degree observer.\n")
        file.write("# straight: how ASTM D1535 draws the ovoid to the next hue (Centore 2012).\n")
        writer = csv.writer(file, lineterminator="\n")
        writer.writerow(["hue100", "value", "chroma", "x", "y", "real", "straight"])
        writer.writerows(sorted(rows, key=lambda row: (row[1], row[0], row[2])))


if __name__ == "__main__":
    main()
