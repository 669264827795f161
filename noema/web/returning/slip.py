"""What a student is told to do next, on paper or on a phone."""

from noema.core.coaching.moves import Move
from noema.core.exercises.media import Medium
from noema.core.judging.judgement import Judgement
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict
from noema.core.language import N_, gettext
from noema.core.words.amounts import cell_words, opening
from noema.core.words.moves import move_words
from noema.formats.facts_json import facts_from_json
from noema.store.base import Json


def moves_said(
    judgement: Judgement, review: Review, medium: Medium, moves: Json
) -> tuple[tuple[str, str], ...]:
    """Say the moves of the cells that count: cell and move."""
    return tuple(
        (
            opening(cell_words(cell.label)),
            move_words(facts_from_json(Move, moves[cell.id]), medium, judgement.own_tubes),
        )
        for cell in judgement.cells
        if cell.id in moves
        and cell.id not in review.left_out
        and review.overruled.get(cell.id) is not Verdict.HOLDS
    )


def how_again(medium: Medium) -> tuple[str, ...]:
    """Say how a sheet is tried again."""
    if medium.is_dry:
        return tuple(gettext(line) for line in _AGAIN_DRY)
    start = gettext(
        "Mix the pile once more as you did, then make the one change; if "
        "the pile is big, halve it first."
    )
    return (
        start,
        gettext(
            "Clean the brush between mixes. %(medium)s changes as it dries: judge it dry.",
            medium=gettext(medium.value).capitalize(),
        ),
        gettext("Lay the new paint beside the old: you should see what changed."),
    )


_AGAIN_DRY = (
    N_("Lift or layer a little, then look again from an arm's length."),
    N_("Keep the steps you are happy with: compare each with its neighbours, squinting."),
)
