"""Cautions for pigments and binders: usual practice, not legal advice; labels come first."""

from collections.abc import Sequence

from noema.core.language import N_, gettext
from noema.core.pigments.drying import Binder
from noema.core.pigments.tube import Tube

FIRST = N_(
    "Read the label and the maker's safety data sheet; school policy "
    "and local rules come first, and a qualified person decides."
)


TO_STUDENT = N_(
    "Read the label first, and mind your teacher's rules. If you are not sure, ask your teacher."
)


def pigment_caution(tube: Tube) -> str:
    """Say what to mind with a tube's pigment; empty when there is nothing beyond the label."""
    if tube.metal is None:
        return ""
    return gettext(
        "Holds %(metal)s: never spray, sand or use as dry dust, never eat; "
        "prefer a substitute with children.",
        metal=tube.metal,
    )


def binder_cautions(binder: Binder) -> tuple[str, ...]:
    """Give what to mind with a medium."""
    if binder is Binder.OIL:
        return (
            gettext("Solvents: ventilate, keep lids closed, no naked flame."),
            gettext(
                "Oily rags can ignite by themselves: a water-filled metal can with "
                "a lid, never down the drain."
            ),
        )
    return (
        gettext(
            "No food or drink beside the paint water, no brush in the mouth; wash hands afterwards."
        ),
        gettext("Let rinse water settle; don't pour the sludge away."),
    )


def cautions_of(
    tubes: Sequence[Tube], binder: Binder, *, to_student: bool = False
) -> tuple[str, ...]:
    """Give all cautions of a set, each once: the general one first, to a student last."""
    metals = sorted({tube.metal for tube in tubes if tube.metal is not None})
    named = [
        gettext(
            "Pigments with %(metal)s (%(label)s): never spray, sand or use as "
            "dry dust, never eat; prefer a substitute with children.",
            metal=metal,
            label=", ".join(gettext(t.label) for t in tubes if t.metal == metal),
        )
        for metal in metals
    ]
    if to_student:
        return (*named, *binder_cautions(binder), gettext(TO_STUDENT))
    return (gettext(FIRST), *named, *binder_cautions(binder))
