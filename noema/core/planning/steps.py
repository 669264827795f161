"""The steps of an exercise from its first row to its redo, each to be put into a lesson."""

from dataclasses import dataclass
from enum import Enum
from math import ceil

from noema.core.planning.frame import Wish
from noema.core.planning.pieces import WishWork
from noema.core.planning.usual import Usual


class StepAct(Enum):
    """What a step is."""

    PAINT = "paint"
    PHOTOGRAPH = "photograph"
    REDO = "redo"  # sheets go back and are painted again where they need it
    PHOTOGRAPH_REDO = "photograph redo"


@dataclass(frozen=True, kw_only=True)
class UnitStep:
    """One step of one wish."""

    wish: str
    number: int  # in its wish, from 0
    act: StepAct
    cells: tuple[str, ...]
    minutes: int  # planned for it, painting with its margin
    sheets: int  # that are wet after it
    dry_min: int  # until they are dry

    @property
    def paints(self) -> bool:
        """Whether something is painted."""
        return self.act in (StepAct.PAINT, StepAct.REDO)


def steps_of(wish: Wish, work: WishWork, people: int, usual: Usual) -> tuple[UnitStep, ...]:
    """Give the steps of a wish in order."""
    wet = people if work.dry_min else 0
    longer = usual.margin * (usual.sharing if work.dry_min else 1.0)
    acts = [
        (StepAct.PAINT, piece.cells, ceil(piece.minutes * longer), wet) for piece in work.pieces
    ]
    acts.append((StepAct.PHOTOGRAPH, (), usual.photograph_min, 0))
    if wish.redo:
        again = min(ceil(work.minutes * usual.redo_share * longer), usual.longest_redo_min)
        acts.append((StepAct.REDO, (), again, ceil(wet * usual.redo_people)))
        acts.append((StepAct.PHOTOGRAPH_REDO, (), usual.photograph_min, 0))
    return tuple(
        UnitStep(
            wish=wish.id,
            number=number,
            act=act,
            cells=cells,
            minutes=minutes,
            sheets=sheets,
            dry_min=work.dry_min if act in (StepAct.PAINT, StepAct.REDO) else 0,
        )
        for number, (act, cells, minutes, sheets) in enumerate(acts)
    )
