"""How fast a picture is redrawn, and few tubes are found: ratios to what was promised."""

from dataclasses import replace

import cv2
import numpy as np

from bench.reading import times
from noema.core.colour.names import USUAL_HUES
from noema.core.pictures.colours import colours_of_picture, shares_of_colours
from noema.core.pictures.few_tubes import few_tubes
from noema.core.pictures.net import net_of, whole_net
from noema.core.pictures.redraw import redrawn
from noema.core.pigments.shelf import TUBES, WHITE, builtin_set
from noema.formats.photo_file import open_photo
from noema.formats.picture_files import rgb_from
from noema.formats.scenes import SCENES, scene_bytes

_LARGE, _PREVIEW = (4000, 3000), (800, 600)
_MOST_TUBES = 24


def bench_painting_from() -> None:
    """Print a line a promise; the slowest of the scenes counts, nothing is remembered."""
    paints = builtin_set("split-six")
    pictures = [rgb_from(scene_bytes(name)) for name in SCENES]
    for size, promised, what in ((_LARGE, 3.0, "12 MP"), (_PREVIEW, 0.3, "a preview")):
        shown = [cv2.resize(rgb, size, interpolation=cv2.INTER_CUBIC) for rgb in pictures]

        def redraw(rgb: np.ndarray) -> None:
            whole_net.cache_clear()
            redrawn(rgb, paints.colours[:4], TUBES[WHITE], paints.binder.dry)

        slowest = max(times(lambda rgb=rgb: redraw(rgb), 2) for rgb in shown)
        print(
            f"{what} redrawn in four tubes / {promised:g} s: {slowest / promised:.2f} (at most 1)"
        )
    tubes = tuple(TUBES.values())[:_MOST_TUBES]
    many = replace(paints, tubes=tubes if TUBES[WHITE] in tubes else (TUBES[WHITE], *tubes[1:]))
    shares = shares_of_colours(colours_of_picture(open_photo(scene_bytes("hedge"))))

    def rank(count: int) -> None:
        net_of.cache_clear()
        few_tubes(shares, many, count, USUAL_HUES)

    took = [times(lambda count=count: rank(count), 1) for count in (2, 3, 4)]
    print(f"pairs of 24 tubes for a picture / 2 s: {took[0] / 2.0:.2f} (at most 1)")
    print(f"pairs, threes and fours of 24 tubes / 10 s: {sum(took) / 10.0:.2f} (at most 1)")


if __name__ == "__main__":
    bench_painting_from()
