"""Makes the photographs whose readings must stay the same to the last digit, and reads them.

Run: .venv/bin/python -m tools.fixed_photographs
Only where the reader was changed on purpose: tests/core/photo/test_fixed_photographs.py reads them.
"""

import json
from pathlib import Path

from noema.core.photo.read import read_photo
from noema.formats.layout_json import layout_from_text, layout_to_json
from noema.formats.photo_file import open_photo
from noema.formats.reading_json import reading_to_json
from noema.stand_ins.studio import take_picture
from tools.photographs import any_sheet_of, hand_of, with_known_print

FOLDER = Path(__file__).parents[1] / "tests/core/photo/fixed"
TAKEN = ((88_000, "easy"), (88_005, "class"), (88_010, "hard"), (88_017, "class"))
SIZE_PX = (1200, 900)
_KNOWN_EVERY = 2  # photographs whose printer is known


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    for number, (seed, preset) in enumerate(TAKEN):
        layout, pdf = any_sheet_of(seed)
        taken = take_picture(
            layout, pdf, seed=seed, preset=preset, hand=hand_of(seed), size_px=SIZE_PX
        )
        if number % _KNOWN_EVERY == 0:
            layout = with_known_print(layout, dict(taken.patches), seed)
        # As it is kept, so that the test reads by the same digits.
        layout = layout_from_text(json.dumps(layout_to_json(layout)))
        reading = read_photo(open_photo(taken.jpeg), layout).reading
        name = FOLDER / f"{preset}-{seed}"
        name.with_suffix(".jpg").write_bytes(taken.jpeg)
        for ending, body in (
            (".layout.json", layout_to_json(layout)),
            (".reading.json", reading_to_json(reading, name.name)),
        ):
            text = json.dumps(body) + "\n"
            name.with_suffix(ending).write_text(text, encoding="utf-8")
        print(f"{name.name}: {len(reading.cells)} cells, {len(taken.jpeg) // 1024} KB")


if __name__ == "__main__":
    main()
