"""From a layout and its PDF to a photograph and the truth behind it."""

from dataclasses import dataclass

from numpy.random import default_rng

from noema.core.errors import Refused
from noema.core.sheet.layout import Layout
from noema.stand_ins.camera import aim, photograph
from noema.stand_ins.painter import Hand, PaintedCell, intend, paint
from noema.stand_ins.printer import load_paper, print_page

PRESETS = {"easy": 0.0, "class": 1.0, "hard": 1.0}
"""Preset: how ordinary the printer and paper are."""

FULL_SIZE_PX = (4032, 3024)


@dataclass(frozen=True, kw_only=True)
class Picture:
    """A photograph and what was really painted."""

    jpeg: bytes
    truth: tuple[PaintedCell, ...]


def take_picture(
    layout: Layout,
    pdf: bytes,
    *,
    seed: int,
    preset: str,
    hand: Hand | None = None,
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
    page = paint(print_page(pdf, pdf_page, press), layout, truth, hand, rng)
    return Picture(jpeg=photograph(page, aim(preset, rng), size_px, rng), truth=truth)
