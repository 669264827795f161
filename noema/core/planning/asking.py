"""Works wishes out: which cells an exercise has in a class's paints, cut into pieces."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from gettext import NullTranslations

from noema.core.colour.names import USUAL_HUES, HueTable
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import AnyKind, kind_of
from noema.core.exercises.options import Options
from noema.core.language import current_language
from noema.core.pigments.shelf import PaintSet
from noema.core.planning.frame import ClassFrame, Wish
from noema.core.planning.pieces import WishWork, work_of

USUAL_PAINTS = "split-six+black"

PaceOf = Callable[[ClassFrame, Wish], float]
"""How much longer than usual a class takes for a kind in a medium, as a factor."""


@lru_cache(maxsize=256)
def _asked(kind: str, chosen: Options, ground: Ground, _catalogue: NullTranslations) -> Asked:
    """Work an exercise out; what was, in the same words and of the same tubes, is remembered."""
    return kind_of(kind).asked(chosen, ground)


@dataclass(kw_only=True)
class Workshop:
    """Works exercises out, each once."""

    paints_of: Callable[[str | None], PaintSet]  # by a set's name; none: the usual set
    options_of: Callable[[AnyKind, Mapping[str, object]], Options]  # refuses what isn't among them
    pace_of: PaceOf = lambda _class, _wish: 1.0
    table: HueTable = USUAL_HUES
    _known: dict[str, Asked] = field(default_factory=dict)

    def asked(self, wish: Wish) -> Asked:
        """Work a wish's exercise out; refuses what nobody could paint."""
        key = repr((wish.kind, sorted(wish.options.items()), wish.set_ref, wish.medium.value))
        if key not in self._known:
            kind = kind_of(wish.kind)
            chosen = self.options_of(kind, wish.options)
            if wish.set_ref is None and not kind.needs_paints:
                self._known[key] = kind.asked_plainly(chosen, wish.medium)
            else:
                ground = Ground(paints=self.paints_of(wish.set_ref), table=self.table)
                self._known[key] = _asked(wish.kind, chosen, ground, current_language())
        return self._known[key]

    def work(self, school_class: ClassFrame, wish: Wish, most_min: float) -> WishWork:
        """Cut a wish into pieces, none longer than `most_min` where it may be cut."""
        pace = self.pace_of(school_class, wish)
        return work_of(self.asked(wish), wish.medium, most_min, pace, wish.goes)
