"""What a student is told to do next, on paper or on a phone."""

from collections.abc import Mapping

from noema.core.exercises.media import Medium
from noema.core.judging.judgement import Judgement
from noema.core.judging.review import Review
from noema.core.judging.words import cell_words, opening


def moves_said(
    judgement: Judgement, review: Review, moves: Mapping[str, str]
) -> tuple[tuple[str, str], ...]:
    """Name the moves of the cells that count: cell and move."""
    return tuple(
        (opening(cell_words(cell.label)), moves[cell.id])
        for cell in judgement.cells
        if cell.id in moves and cell.id not in review.left_out
    )


def how_again(medium: Medium) -> tuple[str, ...]:
    """Say how a sheet is tried again."""
    if medium.is_dry:
        return _AGAIN_DRY
    start = (
        "Mix the pile once more as you did, then make the one change; if the pile is big, "
        "halve it first."
    )
    return (
        start,
        f"Clean the brush between mixes. {medium.value.capitalize()} changes as it dries: "
        "judge it dry.",
        "Lay the new paint beside the old: you should see what changed.",
    )


_AGAIN_DRY = (
    "Lift or layer a little, then look again from an arm's length.",
    "Keep the steps you are happy with: compare each with its neighbours, squinting.",
)
