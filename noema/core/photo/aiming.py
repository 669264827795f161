"""A glance at a picture while somebody aims: is the sheet there, straight, evenly lit, sharp?

Quick and without a layout, so that hints come while the sheet still lies there.
"""

from dataclasses import dataclass
from enum import Enum

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.language import N_, gettext
from noema.core.photo.code import read_code
from noema.core.photo.hints import hints
from noema.core.photo.marks import FoundMarks, find_marks
from noema.core.photo.no_sheet import why_no_sheet
from noema.core.photo.page_flags import edge_blur_mm
from noema.core.photo.parameters.light import LIGHT
from noema.core.photo.picture import linear_of_srgb
from noema.core.photo.reading import SheetFlag
from noema.core.photo.sample import LUMINANCE
from noema.core.photo.straighten import Placed, place_page, polygon_pixels, straighten, to_picture
from noema.core.sheet.layout import Point, box
from noema.core.sheet.paper import FRAMES, PaperFrame

Floats = NDArray[np.float64]

_LEAST_SHARE = 0.18  # of the picture, that a sheet near enough covers
_ASKEW = 1.22  # of the shape, from about 35 degrees; and of two sides, where one is nearer
_QUIET_MM, _CLEAR_MM = 4.0, 1.0  # the ring of bare paper round every mark
_SHADOW_LOG = 0.16  # by which one mark's paper may depart from light that falls off evenly
_SPARK, _SPARK_SHARE = 252, 0.005  # bytes, and the share of the sheet that shines
_WHITE = 244  # bytes: paper brighter than this is nearly burnt
_BLUR_MM = 1.1  # a preview is softer than the photograph will be


class Aim(Enum):
    """What to do before the photograph is taken; the value is the sentence that says it."""

    ALL_IN = N_("Move back a little: all eight black squares belong in the picture.")
    CLOSER = N_("Come closer: the sheet should fill the picture.")
    ABOVE = N_("Hold the phone straight above the sheet.")
    SHARP = N_("Hold still until the picture is sharp.")
    SHADOW = N_("A shadow lies on the sheet: step aside or turn it.")
    EVEN = N_("One side is much darker: turn the sheet so that light falls evenly.")
    SHINE = N_("Something shines: let the paint dry, or turn the sheet away from the lamp.")
    BURNT = N_("Too bright: step out of the sun or turn the flash off.")


_BETTER_TURNED = {Aim.SHINE, Aim.SHADOW, Aim.EVEN}
_UNFOUND = {SheetFlag.CROPPED: Aim.ALL_IN, SheetFlag.BLURRED: Aim.SHARP}


@dataclass(frozen=True, kw_only=True)
class Glance:
    """What is seen while aiming."""

    corners: tuple[Point, ...]  # of the sheet, shares of the picture; empty where none is seen
    aims: tuple[Aim, ...] = ()  # what to change, the most telling first
    flags: tuple[SheetFlag, ...] = ()  # where no sheet is seen: why
    code: str = ""  # of the sheet, where it could be read

    @property
    def words(self) -> tuple[str, ...]:
        """What to change, in words; one sentence where no sheet is seen."""
        told = tuple(gettext(aim.value) for aim in self.aims)
        return told if self.corners else (*told, *hints(self.flags))[:1]

    @property
    def ready(self) -> bool:
        """Whether the photograph is worth taking as things are."""
        return bool(self.corners) and not self.aims

    @property
    def again(self) -> bool:
        """Whether another picture, of the sheet turned, would show what light hides in this one."""
        return bool(self.corners) and not _BETTER_TURNED.isdisjoint(self.aims)


def glance(rgb: NDArray[np.uint8]) -> Glance:
    """Look at RGB bytes (h, w, 3)."""
    found = find_marks(rgb)
    for frame in FRAMES:
        placed = place_page(found, frame.markers)
        if placed is not None:
            return _glance(rgb, found, placed, frame)
    flags = why_no_sheet(rgb, bool(found.ids))
    aims = tuple(aim for flag, aim in _UNFOUND.items() if flag in flags)
    return Glance(corners=(), aims=aims, flags=tuple(flags))


def _glance(rgb: NDArray[np.uint8], found: FoundMarks, placed: Placed, frame: PaperFrame) -> Glance:
    size = np.array(rgb.shape[1::-1], dtype=float)
    sheet = to_picture(placed, box(0.0, 0.0, frame.width_mm, frame.height_mm)) / size
    flat = straighten(rgb, placed, (frame.width_mm, frame.height_mm))
    paper = _paper_at_marks(flat, frame)
    places = np.array([np.mean(marker.corners_mm, axis=0) for marker in frame.markers])
    plane = np.column_stack([np.ones(len(places)), places])
    bumps = np.log(paper) - plane @ np.linalg.lstsq(plane, np.log(paper))[0]
    red, green, blue = cv2.split(flat)
    bytes_top = cv2.max(cv2.max(red, green), blue)
    burnt = float((bytes_top >= _SPARK).mean())
    seen = {
        Aim.ALL_IN: len(set(found.ids)) < len(frame.markers) and _leaves(sheet),
        Aim.CLOSER: cv2.contourArea(sheet.astype(np.float32)) < _LEAST_SHARE,
        Aim.ABOVE: _askew(sheet * size, frame) > _ASKEW,
        Aim.SHARP: edge_blur_mm(flat, frame.markers) > _BLUR_MM,
        Aim.BURNT: burnt > LIGHT.burnt_share,
        Aim.SHADOW: float(np.abs(bumps).max()) > _SHADOW_LOG,
        Aim.EVEN: float(paper.max() / paper.min()) > LIGHT.uneven,
        # On paper as bright as sparks none can be told.
        Aim.SHINE: burnt > _SPARK_SHARE and float(np.percentile(bytes_top, 85)) < _WHITE,
    }
    return Glance(
        corners=tuple((float(x), float(y)) for x, y in sheet.tolist()),
        aims=tuple(aim for aim, holds in seen.items() if holds),
        code=read_code(rgb, placed, frame.qr_polygon_mm) or "",
    )


def _paper_at_marks(flat: NDArray[np.uint8], frame: PaperFrame) -> Floats:
    """Give the linear luminance of the bare paper round each mark, (n,)."""
    size = flat.shape[:2]
    found = []
    for marker in frame.markers:
        around = np.zeros(size, dtype=bool)
        for grown, kept in ((_QUIET_MM, True), (_CLEAR_MM, False)):
            (left, top), (right, bottom) = marker.corners_mm[0], marker.corners_mm[2]
            ring = box(
                left - grown, top - grown, right - left + 2 * grown, bottom - top + 2 * grown
            )
            place = polygon_pixels(ring, 0.0, size)
            around[place[:, 0], place[:, 1]] = kept
        light = linear_of_srgb(flat[around][None])[0] @ LUMINANCE.astype(np.float32)
        found.append(max(float(np.median(light)), 1e-3))
    return np.array(found)


def _leaves(sheet: Floats) -> bool:
    return bool(np.any(sheet < 0.0) or np.any(sheet > 1.0))


def _askew(corners: Floats, frame: PaperFrame) -> float:
    """Give by how much two opposite sides, or width and height, differ from what they should be."""
    top, right, bottom, left = np.linalg.norm(corners - np.roll(corners, -1, axis=0), axis=1)
    shape = (top + bottom) / (left + right) / (frame.width_mm / frame.height_mm)
    ratios = np.array([top / bottom, left / right, shape])
    return float(np.maximum(ratios, 1.0 / ratios).max())
