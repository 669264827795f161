"""A teacher swatches a tube of the school's own; the model is bent to it and kept."""

import re
import unicodedata

from sqlalchemy.orm import Session

from noema.actions.log_colours import log_swatches
from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.fit import FittedTube, Swatch, fit_tube
from noema.core.pigments.shelf import builtin_tube
from noema.store.paints import add_own_tube, drop_own_tube, own_sets, own_tube, own_tubes

OWN = "own-"
LONGEST_LABEL = 40
MOST_OWN_TUBES = 60


def try_fit(base: str, label: str, swatches: tuple[Swatch, ...]) -> FittedTube:
    """Fit a tube without keeping it."""
    label = " ".join(label.split())
    if not 1 <= len(label) <= LONGEST_LABEL:
        raise BadPaint(
            gettext(
                "Give the tube a name of at most %(most)s letters.",
                most=LONGEST_LABEL,
            )
        )
    return fit_tube(builtin_tube(base), swatches, name=name_of(label), label=label)


def fit_own_tube(
    session: Session, school_id: int, base: str, label: str, swatches: tuple[Swatch, ...]
) -> FittedTube:
    """Fit a tube and put it on the school's shelf."""
    fitted = try_fit(base, label, swatches)
    there = own_tubes(session, school_id)
    if fitted.tube.name in there:
        raise BadPaint(
            gettext("There is already a tube called “%(label)s”: choose another name.", label=label)
        )
    if len(there) >= MOST_OWN_TUBES:
        raise BadPaint(
            gettext(
                "A shelf holds %(most_own_tubes)s tubes of one's own: take one away first.",
                most_own_tubes=MOST_OWN_TUBES,
            )
        )
    add_own_tube(session, school_id, fitted, swatches)
    log_swatches(session, school_id, fitted.tube.label, swatches)
    return fitted


def remove_own_tube(session: Session, school_id: int, name: str) -> None:
    """Take a tube off the shelf, unless a set still holds it."""
    tube = own_tube(session, school_id, name).fitted.tube
    held = [one.label for one in own_sets(session, school_id) if tube in one.tubes]
    if held:
        raise BadPaint(
            gettext(
                "The set “%(held)s” still holds %(label)s: take it out there first.",
                held=held[0],
                label=tube.label,
            )
        )
    drop_own_tube(session, school_id, name)


def name_of(label: str) -> str:
    """Give a label's name in files and commands: small letters, digits and hyphens."""
    plain = unicodedata.normalize("NFKD", label).encode("ascii", "ignore").decode().lower()
    slug = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")
    if not slug:
        raise BadPaint(gettext("Give the tube a name with letters or digits."))
    return OWN + slug
