"""Cautions for pigments and binders: usual practice, not legal advice; labels come first."""

from collections.abc import Sequence

from noema.core.pigments.drying import Binder
from noema.core.pigments.tube import Tube

FIRST = (
    "Read the label and the maker's safety data sheet; school policy and local rules come first, "
    "and a qualified person decides."
)


def pigment_caution(tube: Tube) -> str:
    """Say what to mind with a tube's pigment; empty when there is nothing beyond the label."""
    if tube.metal is None:
        return ""
    return (
        f"Holds {tube.metal}: never spray, sand or use as dry dust, never eat; "
        "prefer a substitute with children."
    )


def binder_cautions(binder: Binder) -> tuple[str, ...]:
    """Give what to mind with a medium."""
    if binder is Binder.OIL:
        return (
            "Solvents: ventilate, keep lids closed, no naked flame.",
            "Oily rags can ignite by themselves: a water-filled metal can with a lid, "
            "never down the drain.",
        )
    return (
        "No food or drink beside the paint water, no brush in the mouth; wash hands afterwards.",
        "Let rinse water settle; don't pour the sludge away.",
    )


def cautions_of(tubes: Sequence[Tube], binder: Binder) -> tuple[str, ...]:
    """Give all cautions of a set, the general one first, each once."""
    metals = sorted({tube.metal for tube in tubes if tube.metal is not None})
    named = [
        f"Pigments with {metal} ({', '.join(t.label for t in tubes if t.metal == metal)}): never "
        "spray, sand or use as dry dust, never eat; prefer a substitute with children."
        for metal in metals
    ]
    return (FIRST, *named, *binder_cautions(binder))
