"""Tubes as they come, painted on a sheet beside its exercise.

What is read of paint straight from a tube tells what the tube is, and how a photograph errs. These
cells are counted for nobody.
"""

from dataclasses import replace

from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.cells import tube_cell


def with_own_tubes(asked: Asked, ground: Ground) -> Asked:
    """Add a cell for every tube the exercise mixes from that none of its cells shows alone."""
    used = {part.tube.name for cell in asked.cells for part in cell.parts}
    alone = {cell.parts[0].tube.name for cell in asked.cells if len(cell.parts) == 1}
    missing = [tube for tube in ground.paints.tubes if tube.name in used - alone]
    return replace(
        asked, tubes=tuple(tube_cell(tube, f"straight-{tube.name}", ground) for tube in missing)
    )
