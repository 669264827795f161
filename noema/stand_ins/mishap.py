"""What goes wrong round a sheet: things lying on it, torn corners, no sheet at all."""

from dataclasses import dataclass, replace

import cv2
import numpy as np
import segno
from numpy.random import Generator
from numpy.typing import NDArray

from noema.core.sheet.layout import Layout, Polygon
from noema.stand_ins.shot import Shot

Pixels = NDArray[np.float32]

_SOMETHING = 0.25  # reflectance of what lies over paper
_BLACK = 0.004
_OTHER_CODE = "9ZZ9-77"


@dataclass(frozen=True, kw_only=True)
class Mishap:
    """What goes wrong with one photograph."""

    hide_code: bool = False  # something lies over the QR code
    cut_off: bool = False  # half the sheet is out of the picture
    torn_marks: int = 0  # how many marks are torn off
    no_sheet: bool = False  # a photograph of the desk
    other_sheet: bool = False  # another sheet's code
    black: bool = False  # the lens was covered
    blurred: bool = False  # out of focus altogether
    wet: bool = False  # paint shines over half the page


_BAD = (
    Mishap(hide_code=True, torn_marks=6),
    Mishap(cut_off=True),
    Mishap(no_sheet=True),
    Mishap(other_sheet=True),
    Mishap(black=True),
    Mishap(blurred=True),
    Mishap(wet=True),
)


def bad_luck(rng: Generator) -> Mishap:
    """Take one of the ways in which a photograph is spoiled."""
    return _BAD[int(rng.integers(len(_BAD)))]


def spoil_page(page: Pixels, layout: Layout, mishap: Mishap, rng: Generator) -> None:
    """Do to a page (h, w, 3) what happened to it."""
    scale = page.shape[1] / layout.width_mm
    if mishap.hide_code:
        _cover(page, layout.qr_polygon_mm, scale)
    for n in rng.permutation(len(layout.markers))[: mishap.torn_marks]:
        _cover(page, layout.markers[int(n)].corners_mm, scale)
    if mishap.other_sheet:
        _other_code(page, layout.qr_polygon_mm, scale)


def spoil_shot(shot: Shot, mishap: Mishap, rng: Generator) -> Shot:
    """Take the picture as it was taken."""
    if mishap.cut_off:
        return replace(shot, fill=1.7)
    if mishap.no_sheet:
        return replace(shot, fill=0.0)
    if mishap.black:
        return replace(shot, exposure=_BLACK)
    if mishap.blurred:
        return replace(shot, blur_px=rng.uniform(22.0, 60.0))
    if mishap.wet:
        return replace(shot, glare=rng.uniform(0.25, 0.8), glare_mm=rng.uniform(60.0, 110.0))
    return shot


def _cover(page: Pixels, polygon: Polygon, scale: float) -> None:
    (left, top), (right, bottom) = polygon[0], polygon[2]
    rows = slice(max(0, int((top - 2) * scale)), int((bottom + 2) * scale))
    page[rows, max(0, int((left - 2) * scale)) : int((right + 2) * scale)] = _SOMETHING


def _other_code(page: Pixels, polygon: Polygon, scale: float) -> None:
    (left, top), (right, bottom) = polygon[0], polygon[2]
    rows = slice(int(top * scale), int(bottom * scale))
    columns = slice(int(left * scale), int(right * scale))
    matrix = np.array([list(row) for row in segno.make_qr(_OTHER_CODE).matrix], np.float32)
    size = (columns.stop - columns.start, rows.stop - rows.start)
    white = page[rows, columns].reshape(-1, 3).max(axis=0)
    dark = cv2.resize(matrix, size, interpolation=cv2.INTER_NEAREST)[..., None]
    page[rows, columns] = white * (1.0 - 0.95 * dark)
