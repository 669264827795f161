"""From a layout and its PDF to a photograph and the truth behind it."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.random import default_rng
from numpy.typing import NDArray

from noema.core.errors import Refused
from noema.core.photo.straighten import polygon_pixels
from noema.core.sheet.layout import Layout, Triple
from noema.stand_ins.camera import expose
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.mishap import Mishap, bad_luck, spoil_page, spoil_shot
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.painter import Hand, PaintedCell, intend, paint
from noema.stand_ins.printer import Press, load_paper, patch_labs, print_page
from noema.stand_ins.shot import PRESETS, aim, by_phone

FULL_SIZE_PX = (4032, 3024)
_PHONES = 12  # keeps their draws apart
_PAGE_FINER = 1.6  # how much finer than the photograph the page is drawn
_MOST_PX_PER_MM = 8.0


@dataclass(frozen=True, kw_only=True)
class TakenPicture:
    """A photograph and what was really painted."""

    jpeg: bytes
    truth: tuple[PaintedCell, ...]
    patches: Mapping[str, Triple]  # the true colour of each reference patch, as printed
    shine: Mapping[str, float]  # light thrown back from each cell, as a share of white paper's
    mishap: Mishap
    lamp: str  # it was taken under
    layered: bool  # by a sensor of layers instead of filters


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
    kinds: Kinds = Kinds.USUAL,
    again: int = 0,
    press: Press | None = None,
    phone: int | None = None,
    lamp: str | None = None,
) -> TakenPicture:
    """Paint and photograph one sheet; the same seed gives the same bytes.

    `again` counts further photographs of the same sheet by the same phone under the same lamp. A
    press may be given, where several sheets come from one printer, a phone by its number, where it
    took several, and the room's lamp.
    """
    if preset not in PRESETS:
        raise Refused(f"There is no preset “{preset}”: choose one of {', '.join(PRESETS)}.")
    rng = default_rng(seed)
    hand = hand or Hand(step_noise=rng.uniform(0.1, 0.6), bunching=rng.normal(0.0, 0.15))
    drawn = load_paper(rng, PRESETS[preset], kinds)
    press = press or drawn
    truth = intend(layout, hand, rng, kinds)
    finest = _PAGE_FINER * size_px[0] / layout.width_mm
    body = None if phone is None else default_rng([phone, _PHONES])
    optics = draw_optics(rng, preset, kinds, lamp=lamp, phone=body)
    printed = print_page(pdf, pdf_page, press, min(finest, _MOST_PX_PER_MM), optics)
    page = paint(printed, layout, truth, hand, rng, optics)
    rng = default_rng([seed, again]) if again else rng
    mishap = mishap or (bad_luck(rng) if preset == "bad" else Mishap())
    shot = aim("class" if preset == "bad" else preset, rng)
    if phone is not None and body is not None:
        shot = replace(by_phone(shot, body, preset, rng), model=f"Phone {phone}")
    shot = spoil_shot(shot, mishap, rng)
    spoil_page(page, layout, mishap, rng)
    jpeg, shine = expose(page, shot, size_px, rng, printed)
    return TakenPicture(
        jpeg=jpeg,
        truth=truth,
        patches=patch_labs(layout, press),
        shine=_over_cells(shine, layout),
        mishap=mishap,
        lamp=optics.lamp,
        layered=optics.layered,
    )


def _over_cells(shine: NDArray[np.float32], layout: Layout) -> dict[str, float]:
    px_per_mm = shine.shape[1] / layout.width_mm
    places = {
        cell.id: polygon_pixels(cell.polygon_mm, 1.0, shine.shape, px_per_mm)
        for cell in layout.cells
    }
    return {name: float(shine[at[:, 0], at[:, 1]].mean()) for name, at in places.items()}
