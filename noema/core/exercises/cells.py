"""Cells that several kinds ask for, and what is said of them."""

from collections.abc import Callable, Iterable

from noema.core.colour.difference import ciede2000
from noema.core.exercises.asked import AskedCell, CellRole, Concern, Ground
from noema.core.exercises.from_paints import white_or_paper
from noema.core.exercises.paths import cell_of, stop_of
from noema.core.language import N_, gettext
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.partners import white_to_show
from noema.core.pigments.tube import Tube

_WASH = 1.0  # CIEDE2000 from the opaque paint, from which paper shows through
DRY = N_("Let it dry, then photograph it flat, in daylight.")


def then_dry(first: str) -> str:
    """Say something, and then how to let the sheet dry and photograph it."""
    return f"{first} {gettext(DRY)}"


def tube_cell(tube: Tube, cell_id: str, ground: Ground, label: str | None = None) -> AskedCell:
    """Ask for a tube as it comes."""
    stop = stop_of([Part(tube=tube, amount=1.0)], ground.paints.binder.dry)
    note = gettext("%(label)s as it comes.", label=tube.label.capitalize())
    return cell_of(stop, cell_id, label or tube.label, note, role=CellRole.END)


def is_wash(cell: AskedCell, surface: Surface) -> bool:
    """Say whether a cell is lightened by the paper under it, not by what is in its mix."""
    return float(ciede2000(lab_of_parts(cell.parts, surface), cell.lab)) > _WASH


def let_down_cell(cell: AskedCell, cell_id: str, ground: Ground) -> AskedCell:
    """Ask for a mix again with enough white to show its hue."""
    white = Part(tube=white_or_paper(ground.paints), amount=white_to_show(cell.parts))
    stop = stop_of((*cell.parts, white), ground.paints.binder.dry)
    note = gettext("The mix let down with white, to show its hue.")
    return cell_of(stop, cell_id, gettext("tint"), note, role=CellRole.TINT, of=cell.id)


def with_note(cell: AskedCell, note: str) -> str:
    """Say one more thing after what a cell's note says."""
    return gettext("%(note)s %(more)s", note=cell.note, more=note) if cell.note else note


def limits_said(
    cells: Iterable[AskedCell], name: Callable[[AskedCell], str], suggestion: str
) -> tuple[Concern, ...]:
    """Make a concern of every cell that the paints can't quite give."""
    return tuple(
        Concern(
            cells=(cell.id,),
            sentence=gettext("%(cell)s: %(limit)s.", cell=name(cell), limit=cell.limit),
            suggestion=suggestion,
        )
        for cell in cells
        if cell.limit
    )
