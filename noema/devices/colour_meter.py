"""A colour meter: a thing one holds on a dry swatch.

Most meters come with a program that writes a measurement file; the real device here takes the
newest reading from the folder that program writes to.
"""

from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from noema.core.errors import MeterAway
from noema.core.language import gettext
from noema.core.pigments.mix import Part
from noema.core.pigments.tube import Tube
from noema.formats.measurements import samples_from_bytes

Lab = tuple[float, float, float]


@dataclass(frozen=True, kw_only=True)
class HeldSwatch:
    """What the person says lies under the meter; a real one looks for itself."""

    tube: Tube  # the tube swatched, or the built-in one most like it
    label: str  # the school's name for it
    mixed_with: tuple[Part, ...]  # volumes of known tubes to one of it


@dataclass(frozen=True, kw_only=True)
class HeldSquare:
    """A printed square under the meter."""

    printer: str
    sent: tuple[int, int, int]  # sRGB bytes; 255 thrice is the bare paper


class ColourMeter(Protocol):
    """Something that measures one swatch at a time."""

    def read(self, held: HeldSwatch | HeldSquare) -> Lab:
        """Give the swatch's Lab (D50, 2 degree observer), or say that there is no reading."""


class SpooledMeter:
    """The last reading of the newest CGATS.17 or CSV file in a folder."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def read(self, held: HeldSwatch | HeldSquare) -> Lab:
        """Read the newest file anew each time."""
        try:
            files = [file for file in self._folder.iterdir() if file.is_file()]
        except OSError as wrong:
            raise MeterAway(
                gettext("The meter's folder can't be opened: type the numbers.")
            ) from wrong
        if not files:
            raise MeterAway(gettext("The meter has written nothing yet: measure first, then read."))
        newest = max(files, key=lambda file: (file.stat().st_mtime_ns, file.name))
        return samples_from_bytes(newest.read_bytes())[-1].lab
