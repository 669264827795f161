"""What a whole class painted alike, put to its teacher in words."""

from collections.abc import Iterator
from dataclasses import dataclass

from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import HueTable
from noema.core.exercises.asked import Asked
from noema.core.exercises.class_question import ClassQuestion, shifted
from noema.core.exercises.naming import cell_names
from noema.core.language import gettext
from noema.core.sheet.layout import Triple
from noema.core.words.amounts import listed, opening
from noema.core.words.differences import how_it_differs


@dataclass(frozen=True, kw_only=True)
class CellInQuestion:
    """A cell as it is expected and as the class painted it."""

    words: str
    expected: Triple  # Lab
    painted: Triple


def cells_in_question(
    question: ClassQuestion, asked: Asked, table: HueTable
) -> Iterator[CellInQuestion]:
    """Say of each cell how most of the class painted it; `asked` is what these paints give."""
    names = cell_names(asked)
    for cell in asked.cells:
        shared = question.cells.get(cell.id)
        if shared is None:
            continue
        painted = shifted(cell.lab, shared.shift)
        yield CellInQuestion(
            words=gettext(
                "%(cell)s: on %(students)s of %(of)s sheets it is %(how)s than expected.",
                cell=opening(names[cell.id]),
                students=shared.students,
                of=shared.of,
                how=listed(how_it_differs(cell.hvc, hvc_of(painted), table)),
            ),
            expected=cell.lab,
            painted=painted,
        )
