"""Which kinds of lamp, sensor, paper, printer, pigment and streak a stand-in takes.

What is fitted and tried while building takes the usual kinds only. The unseen ones are for figures:
photographs of them say what holds on paint, printers and cameras nobody has looked at.
"""

from enum import Enum


class Kinds(Enum):
    """Whose things are taken."""

    USUAL = "usual"
    UNSEEN = "unseen"
