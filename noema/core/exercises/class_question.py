"""What a whole class painted alike, away from what is expected: the paint, or what was taught?

Only its teacher can say. Until they have, it counts against nobody.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from enum import Enum

from noema.core.colour.hvc import hvc_of
from noema.core.exercises.asked import Asked, AskedCell, Lab
from noema.core.exercises.cells import with_note
from noema.core.language import gettext


class ClassAnswer(Enum):
    """What a teacher says of it."""

    PAINT = "paint"  # the paint gives no other: expect what the class painted
    TAUGHT = "taught"  # it was mixed so: it counts as any other cell


@dataclass(frozen=True, kw_only=True)
class SharedCell:
    """How far most of a class painted a cell from its step."""

    shift: Lab  # median of L*, a*, b*, painted less expected
    students: int  # sheets that lie that way
    of: int


@dataclass(frozen=True, kw_only=True)
class ClassQuestion:
    """The cells in question, by id, and what was answered; None: nothing yet."""

    cells: Mapping[str, SharedCell]
    answer: ClassAnswer | None = None

    def marked(self, asked: Asked) -> Asked:
        """Give an exercise with the cells in question marked, while nothing is answered."""
        if self.answer is not None:
            return asked
        return self._each(asked, lambda cell, _: replace(cell, in_question=True))

    def expected(self, asked: Asked) -> Asked:
        """Give what is expected: what the class painted, where the paint is said to give it."""
        return self._each(asked, _moved) if self.answer is ClassAnswer.PAINT else self.marked(asked)

    def _each(self, asked: Asked, moved: Callable[[AskedCell, SharedCell], AskedCell]) -> Asked:
        bands = (
            replace(
                band,
                cells=tuple(
                    moved(cell, self.cells[cell.id]) if cell.id in self.cells else cell
                    for cell in band.cells
                ),
            )
            for band in asked.bands
        )
        return replace(asked, bands=tuple(bands))


def shifted(lab: Lab, shift: Lab) -> Lab:
    """Move a colour by as much as a class lies off it."""
    lightness, a, b = (asked + off for asked, off in zip(lab, shift, strict=True))
    return (lightness, a, b)


def _moved(cell: AskedCell, shared: SharedCell) -> AskedCell:
    lab = shifted(cell.lab, shared.shift)
    note = gettext("As the class's paint gives it.")
    return replace(
        cell,
        lab=lab,
        hvc=hvc_of(lab),
        note=with_note(cell, note),
    )
