"""The made-up school's paint shelf: a set for the room, with a red measured by the meter."""

from random import Random

from sqlalchemy.orm import Session

from noema.actions.fit_own_tube import fit_own_tube
from noema.actions.keep_paint_set import NewSet, keep_paint_set
from noema.core.pigments.drying import Binder
from noema.core.pigments.fit import Swatch
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import builtin_tube
from noema.devices.colour_meter import ColourMeter, HeldSwatch
from noema.stand_ins.meter import PretendMeter

_OWN_RED, _BASE = "Room 12 red", "cadmium-red-hue"
_SWATCHES = (("masstone", 0.0), ("1 to 10 white", 10.0), ("1 to 50 white", 50.0))
_ROOM = (
    "titanium-white",
    "lemon-yellow",
    "warm-yellow",
    "rose",
    "ultramarine",
    "phthalo-blue",
    "burnt-sienna",
)


def fill_shelf(session: Session, school_id: int) -> None:
    """Swatch a red, and put it into the room's set."""
    meter = PretendMeter(Random(12))
    swatches = tuple(_measured(meter, label, white) for label, white in _SWATCHES)
    own = fit_own_tube(session, school_id, _BASE, _OWN_RED, swatches).tube
    room = NewSet(name="Room 12 acrylics", binder=Binder.ACRYLIC, tubes=(*_ROOM, own.name))
    keep_paint_set(session, school_id, room)
    pans = NewSet(
        name="Watercolour pans",
        binder=Binder.WATERCOLOUR,
        tubes=("lemon-yellow", "scarlet", "crimson", "ultramarine", "cerulean", "burnt-sienna"),
    )
    keep_paint_set(session, school_id, pans)


def _measured(meter: ColourMeter, label: str, white: float) -> Swatch:
    mixed = (Part(tube=builtin_tube("titanium-white"), amount=white),) if white else ()
    held = HeldSwatch(tube=builtin_tube(_BASE), label=_OWN_RED, mixed_with=mixed)
    return Swatch(label=label, mixed_with=mixed, lab=meter.read(held))
