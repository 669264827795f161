"""A printer: a PDF page as linear reflectance on real paper."""

from dataclasses import dataclass

import numpy as np
import pypdfium2
from numpy.random import Generator
from numpy.typing import NDArray

from noema.core.colour.srgb import lab_to_linear, srgb_to_linear
from noema.core.errors import BadFile

PX_PER_MM = 8.0


@dataclass(frozen=True, kw_only=True)
class Press:
    """How one printer and paper lay a page."""

    paper_lightness: float = 94.5  # L*
    paper_b: float = -1.0  # b*: optical whiteners make paper bluish
    dot_gain: float = 0.0  # >0 prints mid greys darker; exponent less one
    black: float = 0.015  # reflectance of full black


def load_paper(rng: Generator, spread: float) -> Press:
    """Take some paper and some printer; `spread` 0 is the best of both, 1 an ordinary school's."""
    return Press(
        paper_lightness=94.5 + rng.normal(0.0, 0.4 + 0.6 * spread),
        paper_b=-1.0 + rng.normal(0.0, 0.5 + 0.8 * spread),
        dot_gain=rng.normal(0.0, 0.02 + 0.08 * spread),
        black=0.008 + (0.008 + 0.008 * spread) * rng.random(),
    )


def print_page(
    pdf: bytes, page: int, press: Press, px_per_mm: float = PX_PER_MM
) -> NDArray[np.float32]:
    """Print one page of a PDF as linear reflectance, shape (h, w, 3)."""
    try:
        document = pypdfium2.PdfDocument(pdf)
        rendered = document[page].render(scale=px_per_mm * 25.4 / 72.0).to_numpy()
    except (pypdfium2.PdfiumError, IndexError) as wrong:
        raise BadFile("The PDF can't be opened: give the sheet.pdf beside the layout.") from wrong
    levels = srgb_to_linear(np.arange(256) / 255.0) ** (1.0 + press.dot_gain)
    ink = levels.astype(np.float32)[rendered[..., :3]]
    paper = lab_to_linear([press.paper_lightness, 0.2, press.paper_b]).astype(np.float32)
    return np.asarray(paper * (press.black + (1.0 - press.black) * ink), dtype=np.float32)
