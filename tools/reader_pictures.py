"""Makes the pictures of docs/reader.md: what each stage of reading sees of one photograph.

Run: .venv/bin/python -m tools.reader_pictures
"""

from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from noema.core.colour.srgb import linear_to_srgb
from noema.core.photo.landmarks import find_landmarks, register
from noema.core.photo.marks import find_marks
from noema.core.photo.page import evened
from noema.core.photo.picture import Picture
from noema.core.photo.read import read_photo
from noema.core.photo.straighten import PX_PER_MM, Placed, place_page, straighten, to_picture
from noema.core.sheet.layout import Layout, Polygon
from noema.formats.photo_file import open_photo
from noema.stand_ins.studio import take_picture
from tools.photographs import any_sheet_of

FOLDER = Path(__file__).parents[1] / "docs/reader"
SEED, PRESET = 1009, "hard"  # curled, half in shadow
WIDTH_PX = 760
_INK, _LIGHT = (20, 20, 20), (250, 250, 250)


def saved(name: str, rgb: np.ndarray) -> None:
    """Write a picture no wider than a page of text."""
    height = round(rgb.shape[0] * WIDTH_PX / rgb.shape[1])
    small = cv2.resize(rgb, (WIDTH_PX, height), interpolation=cv2.INTER_AREA)
    Image.fromarray(small).save(FOLDER / f"{name}.jpg", quality=82)


def outlined(rgb: np.ndarray, polygons: list[np.ndarray], thick: int = 5) -> np.ndarray:
    """Draw outlines that show on light and dark."""
    drawn = rgb.copy()
    for colour, wide in ((_LIGHT, thick + 4), (_INK, thick)):
        for polygon in polygons:
            points = [np.rint(polygon).astype(np.int32)]
            cv2.polylines(drawn, points, True, colour, wide, cv2.LINE_AA)
    return drawn


def found_in(picture: Picture, layout: Layout, placed: Placed) -> np.ndarray:
    """Show the photograph with its marks, and where each cell is thought to be."""
    marks = [corners for corners in find_marks(picture.rgb).corners_px]
    cells = [to_picture(placed, cell.polygon_mm) for cell in layout.cells]
    return outlined(picture.rgb, [*marks, *cells])


def light_of(relative: np.ndarray, straight: np.ndarray, picture: Picture) -> np.ndarray:
    """Show the light alone: what the page would be were it blank."""
    light = picture.linear(straight) / np.maximum(relative, 1e-6)
    return encoded(light / np.percentile(light, 99))


def encoded(linear: np.ndarray) -> np.ndarray:
    return np.rint(np.clip(linear_to_srgb(linear), 0, 1) * 255).astype(np.uint8)


def on_page(polygon: Polygon) -> np.ndarray:
    return np.array(polygon) * PX_PER_MM


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    layout, pdf = any_sheet_of(SEED)
    jpeg = take_picture(layout, pdf, seed=SEED, preset=PRESET, size_px=(2016, 1512)).jpeg
    picture = open_photo(jpeg)
    flat = place_page(find_marks(picture.rgb), layout.markers)
    if flat is None:
        raise SystemExit("The photograph for the pictures can't be read: choose another seed.")
    bent = register(picture.rgb, flat, layout).placed
    size = (layout.width_mm, layout.height_mm)
    cells = [on_page(cell.polygon_mm) for cell in layout.cells]
    saved("1-found", found_in(picture, layout, bent))
    saved("2-flat", outlined(straighten(picture.rgb, flat, size), cells, 2))
    straight = straighten(picture.rgb, bent, size)
    saved("3-bent", outlined(straight, cells, 2))
    page = evened(straight, picture, layout)
    saved("4-light", light_of(page.relative, straight, picture))
    saved("5-even", encoded(page.relative * 0.87))
    reading = read_photo(picture, layout).reading
    flagged = {cell.id for cell in reading.cells if cell.flags}
    even = encoded(page.relative * 0.87)
    kept = [on_page(cell.polygon_mm) for cell in layout.cells if cell.id not in flagged]
    saved("6-read", outlined(even, kept, 3))
    seen = find_landmarks(picture.rgb, flat, layout)
    print(f"{seen.patches_found} of {seen.patches_tried} patches found; flagged: {sorted(flagged)}")


if __name__ == "__main__":
    main()
