"""From a layout and its PDF to a photograph and the truth behind it."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.random import default_rng
from numpy.typing import NDArray

from noema.core.errors import Refused
from noema.core.sheet.layout import Layout, Triple
from noema.stand_ins.camera import aim, photograph
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.painter import Hand, PaintedCell, intend, paint
from noema.stand_ins.printer import load_paper, patch_labs, print_page

PRESETS = {"easy": 0.0, "class": 1.0, "hard": 1.0}
"""Preset: how ordinary the printer and paper are."""

FULL_SIZE_PX = (4032, 3024)
_PAGE_FINER = 1.6  # how much finer than the photograph the page is drawn
_MOST_PX_PER_MM = 8.0
_SOMETHING = 0.25  # reflectance of what lies over the code


@dataclass(frozen=True, kw_only=True)
class Mishap:
    """What can go wrong round a sheet."""

    hide_code: bool = False  # something lies over the QR code
    cut_off: bool = False  # half the sheet is out of the picture


@dataclass(frozen=True, kw_only=True)
class Picture:
    """A photograph and what was really painted."""

    jpeg: bytes
    truth: tuple[PaintedCell, ...]
    patches: Mapping[str, Triple]  # the true colour of each reference patch, as printed


def take_picture(
    layout: Layout,
    pdf: bytes,
    *,
    seed: int,
    preset: str,
    hand: Hand | None = None,
    mishap: Mishap | None = None,
    pdf_page: int = 0,
    size_px: tuple[int, int] = FULL_SIZE_PX,
) -> Picture:
    """Paint and photograph one sheet; the same seed gives the same bytes."""
    if preset not in PRESETS:
        raise Refused(f"There is no preset “{preset}”: choose one of {', '.join(PRESETS)}.")
    rng = default_rng(seed)
    hand = hand or Hand(step_noise=rng.uniform(0.1, 0.6), bunching=rng.normal(0.0, 0.15))
    press = load_paper(rng, PRESETS[preset])
    truth = intend(layout, hand, rng)
    finest = _PAGE_FINER * size_px[0] / layout.width_mm
    optics = draw_optics(rng, preset)
    printed = print_page(pdf, pdf_page, press, min(finest, _MOST_PX_PER_MM), optics)
    page = paint(printed, layout, truth, hand, rng, optics)
    shot = aim(preset, rng)
    if mishap and mishap.hide_code:
        _hide_code(page, layout)
    if mishap and mishap.cut_off:
        shot = replace(shot, fill=1.7)
    return Picture(
        jpeg=photograph(page, shot, size_px, rng), truth=truth, patches=patch_labs(layout, press)
    )


def _hide_code(page: NDArray[np.float32], layout: Layout) -> None:
    (left, top), (right, bottom) = layout.qr_polygon_mm[0], layout.qr_polygon_mm[2]
    scale = page.shape[1] / layout.width_mm
    rows = slice(int((top + 3) * scale), int((bottom + 2) * scale))
    page[rows, int(left * scale) : int(right * scale)] = _SOMETHING
