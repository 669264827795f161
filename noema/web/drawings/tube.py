"""A tube as a painter swatches it: thick, thin, and let down step by step."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from noema.core.colour.srgb import lab_to_hex
from noema.core.language import gettext, written
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import film_labs, mix_labs
from noema.core.pigments.shelf import TUBES, WHITE
from noema.core.pigments.tube import Tube

TINTS = (2.0, 10.0, 50.0)  # volumes of white to one
WASHES = (0.05, 0.02, 0.007)  # coats, where water lightens
THIN = 0.12  # coats: brushed out until the paper shows


@dataclass(frozen=True, kw_only=True)
class Swatches:
    """The fills of one tube's row."""

    masstone: str
    thin: str
    tints: tuple[str, ...]

    @property
    def fills(self) -> tuple[str, ...]:
        """The whole row, thick to pale."""
        return (self.masstone, self.thin, *self.tints)


def tint_words(binder: Binder) -> tuple[str, ...]:
    """Name the tints of the row."""
    if binder is Binder.WATERCOLOUR:
        return (gettext("wash"), gettext("thin wash"), gettext("thinnest"))
    return tuple(gettext("1 to %(parts)s", parts=written(parts)) for parts in TINTS)


def swatch_rows(tubes: Sequence[Tube], binder: Binder) -> list[Swatches]:
    """Swatch every tube, with one colour conversion for all."""
    rows = [_labs(tube, binder) for tube in tubes]
    if not rows:
        return []
    fills = lab_to_hex(np.concatenate(rows))
    starts = range(0, len(fills), 2 + len(TINTS))
    return [
        Swatches(
            masstone=fills[n], thin=fills[n + 1], tints=tuple(fills[n + 2 : n + 2 + len(TINTS)])
        )
        for n in starts
    ]


def masstones(tubes: Sequence[Tube], binder: Binder = Binder.ACRYLIC) -> list[str]:
    """Give each tube's masstone as a fill."""
    return lab_to_hex(np.stack([mix_labs([tube], [1.0], binder.dry) for tube in tubes]))


def _labs(tube: Tube, binder: Binder) -> np.ndarray:
    one, dry = np.ones((1, 1)), binder.dry
    thick = mix_labs([tube], one, dry)
    thin = film_labs([tube], one, [THIN], dry)
    if binder is Binder.WATERCOLOUR:
        tints = film_labs([tube], np.ones((len(WASHES), 1)), WASHES, dry)
    else:
        tints = mix_labs([tube, TUBES[WHITE]], [[1.0, parts] for parts in TINTS], dry)
    return np.concatenate([thick, thin, tints])
