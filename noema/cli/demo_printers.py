"""The made-up school's printers: one measured with a meter, one not yet; and a reference card."""

from dataclasses import replace
from random import Random

import numpy as np
from sqlalchemy.orm import Session

from noema.actions.calibrate_printer import look_at_measurements, own_card, own_printer
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.sheet.calibration_sheet import PRINTED
from noema.formats.measurements import Sample, samples_to_cgats
from noema.stand_ins.card import COLUMNS, ROWS, reference_card
from noema.stand_ins.printer import load_paper

_MEASURED, _NEW = "Room 12, laser", "Staff room, copier"
_METER_SIGMA = 0.2


def fill_printers(session: Session, school_id: int) -> None:
    """Add two printers and a card with the values its maker gives."""
    measured = own_printer(session, school_id, _MEASURED)
    look_at_measurements(session, school_id, measured, _measurements())
    own_printer(session, school_id, _NEW)
    card = reference_card()
    values = [Sample(name=str(n), lab=lab) for n, lab in enumerate(card.labs, start=1)]
    own_card(session, school_id, card.name, COLUMNS, ROWS, samples_to_cgats(values).encode())


def _measurements() -> bytes:
    rng = Random(12)
    press = replace(load_paper(np.random.default_rng(12), 1.0), has_colours=True)
    laid = press.lays(np.array(PRINTED, np.uint8))
    labs = reflectance_to_lab(np.concatenate([laid, press.paper[None]])).tolist()
    samples = [
        Sample(
            name=f"square {n}",
            lab=(
                lab[0] + rng.gauss(0.0, _METER_SIGMA),
                lab[1] + rng.gauss(0.0, _METER_SIGMA),
                lab[2] + rng.gauss(0.0, _METER_SIGMA),
            ),
        )
        for n, lab in enumerate(labs, start=1)
    ]
    return samples_to_cgats(samples).encode()
