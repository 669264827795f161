"""A dab of paint in the window of a strip, photographed."""

from dataclasses import replace

from noema.core.sheet.layout import Triple
from noema.core.sheet.strip import draw_strip, strip_layout
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.painter import Hand
from noema.stand_ins.studio import FULL_SIZE_PX, TakenPicture, take_picture

_HAND = Hand(step_noise=0.05, bunching=0.0)


def photograph_of_dab(
    lab: Triple,
    *,
    seed: int,
    preset: str = "easy",
    size_px: tuple[int, int] = FULL_SIZE_PX,
    kinds: Kinds = Kinds.USUAL,
) -> TakenPicture:
    """Paint a colour into the window and photograph the strip."""
    layout = strip_layout()
    asked = replace(layout, cells=(replace(layout.cells[0], target_lab=lab),))
    pdf = sheets_pdf([draw_strip()], "")
    return take_picture(
        asked, pdf, seed=seed, preset=preset, hand=_HAND, size_px=size_px, kinds=kinds
    )
