"""Is the pair a picture was painted with named first? python -m bench.pictures [COUNT].

Pictures are squares of mixes of two tubes and white. The ranking mixes by the same paint model, so
its first row shows little. The other rows change one thing at a time: sets that weren't looked at
while building, cameras under lamps (those built on, and kinds nobody looked at), and squares mixed
by another law than Noema's: the weighted geometric mean of the tubes' spectra.
"""

import sys
from dataclasses import dataclass, replace
from enum import Enum
from itertools import combinations

import cv2
import numpy as np
from numpy.random import Generator, default_rng
from numpy.typing import NDArray

from noema.core.colour.names import USUAL_HUES
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.colour.srgb import lab_to_linear, linear_to_srgb
from noema.core.photo.beside import as_it_is
from noema.core.photo.picture import Picture
from noema.core.pictures.colours import colours_of_picture, shares_of_colours
from noema.core.pictures.few_tubes import few_tubes
from noema.core.pigments.film import DRY_ACRYLIC, opaque_reflectance
from noema.core.pigments.qualities import strengths
from noema.core.pigments.shelf import PaintSet, builtin_set
from noema.core.pigments.tube import Tube, absorptions, scatterings
from noema.core.sheet.strip import draw_strip, strip_layout
from noema.formats.photo_file import open_photo
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.camera import expose
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.optics import Optics, draw_optics
from noema.stand_ins.printer import Press, load_paper, print_page
from noema.stand_ins.shot import Shot, aim

Floats = NDArray[np.float64]

_BOARD_PX, _RIM = 24, 0.12  # of board round the picture; that somebody cuts off afterwards
SQUARES, SIDE_PX, LARGER = 24, 40, 1.3  # a photograph looks at the middle of the page
BUILT_ON, HELD_OUT = ("split-six",), ("three-printers", "muted-earths", "darks")


class Law(Enum):
    """How paint is mixed."""

    OWN = "mixed by Noema's paint model"
    GEOMETRIC = "mixed by geometric means of spectra"


@dataclass(frozen=True, kw_only=True)
class Painted:
    """A picture and the pair it was painted with."""

    pair: frozenset[str]
    reflectance: Floats  # (squares, squares, 31)


def main() -> None:
    """Print a line each way."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 60
    rows = [
        (BUILT_ON, Law.OWN, None, ""),
        (HELD_OUT, Law.OWN, None, ""),
        (BUILT_ON, Law.OWN, Kinds.USUAL, "easy"),
        (BUILT_ON, Law.OWN, Kinds.USUAL, "class"),
        (BUILT_ON, Law.OWN, Kinds.UNSEEN, "easy"),
        (HELD_OUT, Law.OWN, Kinds.UNSEEN, "easy"),
        (HELD_OUT, Law.OWN, Kinds.UNSEEN, "class"),
        (BUILT_ON, Law.GEOMETRIC, None, ""),
        (HELD_OUT, Law.GEOMETRIC, Kinds.UNSEEN, "easy"),
        (BUILT_ON, Law.OWN, Kinds.USUAL, "easy with a strip"),
        (BUILT_ON, Law.OWN, Kinds.USUAL, "class with a strip"),
        (HELD_OUT, Law.OWN, Kinds.UNSEEN, "easy with a strip"),
        (HELD_OUT, Law.OWN, Kinds.UNSEEN, "class with a strip"),
    ]
    for names, law, kinds, preset in rows[int(sys.argv[2]) if len(sys.argv) > 2 else 0 :]:
        first = [_is_first(seed, names, law, kinds, preset) for seed in range(count)]
        camera = "no camera" if kinds is None else f"{preset}, cameras {kinds.value}"
        sets = "built on" if names == BUILT_ON else "held out"
        print(
            f"sets {sets}, {law.value}, {camera}: the pair is first in {sum(first)} of {count} "
            "(asked: 95%)"
        )


def _is_first(
    seed: int, names: tuple[str, ...], law: Law, kinds: Kinds | None, preset: str
) -> bool:
    rng = default_rng([seed, 2024])
    paints = builtin_set(names[seed % len(names)])
    painted = _paint(paints, law, rng, seed)
    picture = _scanned(painted) if kinds is None else _photographed(painted, kinds, preset, rng)
    shares = shares_of_colours(colours_of_picture(picture))
    best = few_tubes(shares, paints, 2, USUAL_HUES, photographed=kinds is not None)[0]
    return {tube.name for tube in best.tubes} == painted.pair


def _paint(paints: PaintSet, law: Law, rng: Generator, seed: int) -> Painted:
    coloured = [tube for tube in paints.tubes if tube != paints.white]
    pairs = list(combinations(coloured, 2))
    pair = pairs[seed % len(pairs)]
    count = SQUARES * SQUARES
    pulls = rng.dirichlet([0.6, 0.6], count)
    whites = rng.choice([0.0, 0.02, 0.1, 0.4, 1.0, 3.0], count) * rng.uniform(0.6, 1.4, count)
    tubes = (*pair, builtin_set("all").tube("white") if paints.white is None else paints.white)
    amounts = np.column_stack([pulls / strengths(pair), whites])
    mix = _by_own if law is Law.OWN else _by_means
    body = mix(tubes, amounts).reshape(SQUARES, SQUARES, -1)
    return Painted(pair=frozenset(tube.name for tube in pair), reflectance=body)


def _by_own(tubes: tuple[Tube, ...], amounts: Floats) -> Floats:
    return np.asarray(
        opaque_reflectance(amounts @ absorptions(tubes), amounts @ scatterings(tubes), DRY_ACRYLIC)
    )


def _by_means(tubes: tuple[Tube, ...], amounts: Floats) -> Floats:
    """Mix by pull: logarithms of the tubes' spectra are averaged."""
    alone = np.log(np.maximum(_by_own(tubes, np.eye(len(tubes))), 1e-4))
    pulls = amounts * strengths(tubes)
    return np.asarray(np.exp(pulls @ alone / pulls.sum(axis=1, keepdims=True)))


def _scanned(painted: Painted) -> Picture:
    """Give the picture as colours are, without a camera."""
    srgb = linear_to_srgb(np.clip(lab_to_linear(reflectance_to_lab(painted.reflectance)), 0.0, 1.0))
    return Picture(rgb=np.rint(255.0 * srgb).astype(np.uint8))


def _photographed(painted: Painted, kinds: Kinds, preset: str, rng: Generator) -> Picture:
    preset, _, beside = preset.partition(" ")
    optics = draw_optics(rng, preset, kinds)
    flat = painted.reflectance.reshape(-1, painted.reflectance.shape[-1])
    seen = optics.seen(flat).reshape(SQUARES, SQUARES, 3).astype(np.float32)
    page = seen.repeat(SIDE_PX, axis=0).repeat(SIDE_PX, axis=1)
    if beside:
        return _beside_a_strip(page, optics, aim(preset, rng), load_paper(rng, 1.0, kinds), rng)
    shot = replace(aim(preset, rng), fill=LARGER, tilt=0.0, turn=0.0, orientation=1, glare=0.0)
    jpeg, _ = expose(page, shot, (1600, 1600), rng)
    return open_photo(jpeg)


def _beside_a_strip(
    page: NDArray[np.float32], optics: Optics, shot: Shot, press: Press, rng: Generator
) -> Picture:
    """Photograph a picture with a strip under it, on white board; what Noema makes of it."""
    layout, pdf = strip_layout(), sheets_pdf([draw_strip()], "")
    strip = print_page(pdf, 0, press, page.shape[1] / layout.width_mm, optics)
    strip = cv2.resize(
        strip, (page.shape[1], round(page.shape[1] * strip.shape[0] / strip.shape[1]))
    )
    board = np.full((_BOARD_PX, page.shape[1], 3), 0.5, dtype=np.float32)
    both = np.concatenate([page, board, strip])
    both = cv2.copyMakeBorder(both, *[_BOARD_PX] * 4, cv2.BORDER_CONSTANT, value=(0.5, 0.5, 0.5))
    shot = replace(shot, tilt=0.0, turn=0.0, orientation=1, glare=0.0, fill=0.95)
    jpeg, _ = expose(both, shot, (2016, 2688), rng)
    picture = open_photo(jpeg)
    undone = as_it_is(picture, layout)
    if undone is None:
        return picture
    side = [round(_RIM * length) for length in undone.rgb.shape[:2]]
    return replace(undone, rgb=undone.rgb[side[0] : -side[0], side[1] : -side[1]])


if __name__ == "__main__":
    main()
