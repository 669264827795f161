"""A printer: a PDF page as a camera, or the eye, sees it on real paper.

Greys are black ink alone; colours are three dyes, each laid a little too thick or too thin, or dots
of three toners, or grey as well where the printer has no colours.
"""

from dataclasses import dataclass, replace

import numpy as np
import pypdfium2
from numpy.random import Generator
from numpy.typing import NDArray

from noema.core.colour.spectra import reflectance_to_lab
from noema.core.colour.srgb import linear_to_lab, srgb_to_linear
from noema.core.errors import BadFile
from noema.core.photo.sample import LUMINANCE
from noema.core.sheet.layout import Layout, PatchKind, Triple
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.optics import EYE, Optics
from noema.stand_ins.spectra import dye_bands, ink_amounts, ink_spectra

Floats = NDArray[np.float64]

PX_PER_MM = 8.0
_WHITEST = 0.93  # reflectance of pulp before whiteners and yellowing
_COLOURED = 9  # bytes between channels from which a pixel isn't a grey
_DARKEST, _DULLED = 15.0, 0.9  # L* of full ink; chroma print keeps
_NO_COLOURS = 0.2  # of school printers
_TONER_GAIN = 0.2  # one sigma of what a printer without colours adds to its dot gain
_TONER = 1.3  # density of a full dot
_TONERS = ((630.0, 62.0), (532.0, 34.0), (450.0, 38.0))
_CARTRIDGE = (92.5, 3.5)  # L* and b* of warm drawing paper


@dataclass(frozen=True, kw_only=True)
class Press:
    """How one printer and paper lay a page."""

    paper_lightness: float = 94.5  # L*
    paper_b: float = -1.0  # b*: optical whiteners make paper bluish
    dot_gain: float = 0.0  # >0 prints mid greys darker; exponent less one
    black: float = 0.015  # reflectance of full black
    dyes: tuple[float, float, float] = (0.0, 0.0, 0.0)  # logarithm of too much of each
    has_colours: bool = True
    halftone: bool = False  # dots of full ink side by side, where others lay it thick or thin

    @property
    def paper(self) -> Floats:
        """The blank paper's reflectance, (31,)."""
        lab = np.array([[self.paper_lightness, 0.2, self.paper_b]])
        return np.asarray(ink_spectra(lab, np.full(31, _WHITEST))[0])

    def lays(self, srgb: NDArray[np.uint8]) -> Floats:
        """Give the reflectances (n, 31) of what was sent as bytes (n, 3)."""
        paper = self.paper
        sent = srgb_to_linear(srgb.astype(float) / 255.0)
        grey = (sent @ LUMINANCE)[:, None] ** (1.0 + self.dot_gain)
        laid = paper * (self.black + (1.0 - self.black) * grey)
        coloured = (np.ptp(srgb.astype(int), axis=1) >= _COLOURED) & self.has_colours
        if coloured.any():
            laid[coloured] = self._dyed(sent[coloured], paper)
        return np.asarray(laid)

    def _dyed(self, sent: Floats, paper: Floats) -> Floats:
        labs = linear_to_lab(sent)
        labs[:, 0] = _DARKEST + labs[:, 0] * (self.paper_lightness - _DARKEST) / 100.0
        labs[:, 1:] *= _DULLED
        more = np.exp(np.array(self.dyes) @ dye_bands())
        if self.halftone:
            return self._dotted(labs, paper, more)
        density = -np.log10(ink_spectra(labs, paper) / paper)
        return np.asarray(paper * 10.0 ** -(density * more))

    def _dotted(self, labs: Floats, paper: Floats, more: Floats) -> Floats:
        """Lay dots of three toners that overlap by chance: the Neugebauer primaries."""
        through = 10.0 ** -(_TONER * dye_bands(_TONERS) * more)
        asked = ink_amounts(labs, paper)[:, :, None]
        dots = (1.0 - 10.0**-asked) / (1.0 - 10.0**-_TONER)
        return np.asarray(paper * np.prod(1.0 - np.minimum(dots, 1.0) * (1.0 - through), axis=1))


def load_paper(rng: Generator, spread: float, kinds: Kinds = Kinds.USUAL) -> Press:
    """Take some paper and some printer; `spread` 0 is the best of both, 1 an ordinary school's."""
    lightness, b = (94.5, -1.0) if kinds is Kinds.USUAL else _CARTRIDGE
    press = Press(
        paper_lightness=lightness + rng.normal(0.0, 0.4 + 0.6 * spread),
        paper_b=b + rng.normal(0.0, 0.5 + 0.8 * spread),
        dot_gain=rng.normal(0.0, 0.02 + 0.08 * spread),
        black=0.008 + (0.008 + 0.008 * spread) * rng.random(),
        dyes=tuple(rng.normal(0.0, 0.03 + 0.17 * spread, 3).tolist()),
        has_colours=bool(rng.random() >= _NO_COLOURS * spread),
        halftone=kinds is Kinds.UNSEEN,
    )
    if press.has_colours:
        return press
    return replace(press, dot_gain=press.dot_gain + rng.spawn(1)[0].normal(0.0, _TONER_GAIN))


def patch_labs(layout: Layout, press: Press) -> dict[str, Triple]:
    """Give the true colour of every reference patch and the paper as this press lays them."""
    patches = layout.reference
    sent = np.array([patch.nominal_srgb for patch in patches], dtype=np.uint8)
    laid = press.lays(sent)
    laid[[patch.kind is PatchKind.PAPER for patch in patches]] = press.paper
    labs = reflectance_to_lab(laid).tolist()
    return {patch.id: (lab[0], lab[1], lab[2]) for patch, lab in zip(patches, labs, strict=True)}


def print_page(
    pdf: bytes, page: int, press: Press, px_per_mm: float = PX_PER_MM, optics: Optics = EYE
) -> NDArray[np.float32]:
    """Print one page of a PDF, as linear RGB of a camera under its light, shape (h, w, 3)."""
    try:
        document = pypdfium2.PdfDocument(pdf)
        rendered = (
            document[page]
            .render(scale=px_per_mm * 25.4 / 72.0, rev_byteorder=True)
            .to_numpy()[..., :3]
        )
    except (pypdfium2.PdfiumError, IndexError) as wrong:
        raise BadFile("The PDF can't be opened: give the sheet.pdf beside the layout.") from wrong
    greys = np.repeat(np.arange(256, dtype=np.uint8)[:, None], 3, axis=1)
    seen = optics.seen(press.lays(greys)).astype(np.float32)[rendered[..., 1]]
    red, green, blue = (rendered[..., channel] for channel in range(3))
    # Channel by channel: numpy is slow over an axis of three.
    most, least = (over(over(red, green), blue) for over in (np.maximum, np.minimum))
    coloured = most - least >= _COLOURED
    if coloured.any():
        sent, which = np.unique(rendered[coloured], axis=0, return_inverse=True)
        seen[coloured] = optics.seen(press.lays(sent)).astype(np.float32)[which.ravel()]
    return np.asarray(seen, dtype=np.float32)
