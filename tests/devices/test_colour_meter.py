"""One contract for every colour meter: the pretended one and the one that leaves files."""

import os
from pathlib import Path
from random import Random

import numpy as np
import pytest

from noema.core.errors import BadFile, MeterAway
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.shelf import TUBES
from noema.devices.colour_meter import ColourMeter, HeldSquare, HeldSwatch, SpooledMeter
from noema.formats.measurements import Sample, samples_to_cgats
from noema.stand_ins.meter import PretendMeter

HELD = HeldSwatch(tube=TUBES["scarlet"], label="our red", mixed_with=())
TINT = HeldSwatch(
    tube=TUBES["scarlet"],
    label="our red",
    mixed_with=(Part(tube=TUBES["titanium-white"], amount=20.0),),
)


class Instrument:
    """The program of a meter: it measures with the pretended one and leaves a file."""

    def __init__(self, folder: Path) -> None:
        self._folder, self._number = folder, 0
        self._meter, self._spool = PretendMeter(Random(3)), SpooledMeter(folder)

    def read(self, held: HeldSwatch | HeldSquare) -> tuple[float, float, float]:
        sample = Sample(name="1", lab=self._meter.read(held))
        file = self._folder / f"{self._number:03}.txt"
        file.write_text(samples_to_cgats([sample]))
        os.utime(file, (self._number, self._number))
        self._number += 1
        return self._spool.read(held)


@pytest.fixture(params=["pretended", "spooled"])
def meter(request, tmp_path) -> ColourMeter:
    return PretendMeter(Random(3)) if request.param == "pretended" else Instrument(tmp_path)


def test_readings_of_one_swatch_agree(meter):
    readings = np.array([meter.read(HELD) for _ in range(30)])
    assert readings.std(axis=0).max() < 0.4
    assert readings.std(axis=0).min() > 0.0


def test_it_sees_what_lies_under_it_now(meter):
    assert meter.read(TINT)[0] > meter.read(HELD)[0] + 15


def test_the_tube_under_it_is_like_the_built_in_one_but_another(meter):
    mean = np.mean([meter.read(HELD) for _ in range(10)], axis=0)
    built_in = mix_labs([TUBES["scarlet"]], [1])
    assert 0.5 < np.linalg.norm(mean - built_in) < 30


def test_a_meter_that_has_written_nothing_is_away(tmp_path):
    with pytest.raises(MeterAway, match="written nothing yet"):
        SpooledMeter(tmp_path).read(HELD)
    with pytest.raises(MeterAway, match="can't be opened"):
        SpooledMeter(tmp_path / "gone").read(HELD)


def test_a_file_that_is_no_measurement_is_refused(tmp_path):
    (tmp_path / "notes.txt").write_text("L,a,b\n1,2,three\n")
    with pytest.raises(BadFile, match="line 2: b\\* is not a number"):
        SpooledMeter(tmp_path).read(HELD)


@pytest.mark.parametrize("printer", ["Office", "Art room"])
def test_a_printer_lays_the_same_whenever_it_is_measured(meter, printer):
    greys = [
        np.mean(
            [
                meter.read(
                    HeldSquare(
                        printer=printer,
                        sent=(sent,) * 3,
                    )
                )
                for _ in range(8)
            ],
            axis=0,
        )
        for sent in (20, 120, 210, 255)
    ]
    lightness = [lab[0] for lab in greys]
    assert lightness == sorted(lightness)
    assert 90.0 < lightness[-1] < 99.0


def test_two_printers_lay_two_colours(meter):
    first, second = (
        np.array(meter.read(HeldSquare(printer=name, sent=(196, 60, 48)))) for name in ("A", "B")
    )
    assert np.linalg.norm(first - second) > 1.0
