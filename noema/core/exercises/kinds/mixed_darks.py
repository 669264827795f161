"""Mixed darks: near-blacks without black, each with its tint."""

from dataclasses import dataclass

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, Band, CellRole, Ground
from noema.core.exercises.cells import let_down_cell, then_dry, tube_cell
from noema.core.exercises.from_paints import tubes_of
from noema.core.exercises.kind import Kind, Trait, weights
from noema.core.exercises.options import Options, some_tubes
from noema.core.exercises.paths import cell_of, stop_of
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import by_level
from noema.core.language import N_, gettext, written
from noema.core.pigments.partners import darks
from noema.core.pigments.says import say_parts


@dataclass(frozen=True, kw_only=True)
class DarkOptions(Options):
    """What may be chosen of mixed darks."""

    tubes: tuple[str, ...] = some_tubes()


def _ask(chosen: DarkOptions, ground: Ground) -> Asked:
    tubes = tubes_of(chosen.tubes, ground.paints, 24) if chosen.tubes else ground.paints.tubes
    found = darks(tubes, 5)
    if not found:
        raise BadExercise(
            gettext(
                "No two or three tubes of %(label)s make a neutral dark: take a "
                "pair such as crimson and phthalo green, or ultramarine and burnt "
                "sienna.",
                label=ground.paints.label,
            )
        )
    bands = []
    for row, dark in enumerate(found, start=1):
        used = [tube_cell(p.tube, f"r{row}c{n}", ground) for n, p in enumerate(dark.parts, start=1)]
        stop = stop_of(dark.parts, ground.paints.binder.dry)
        note = gettext(
            "Near black, value %(value)s: %(parts)s.",
            value=written(dark.hvc.value, ".1f"),
            parts=say_parts(dark.parts),
        )
        mix = cell_of(stop, f"r{row}dark", gettext("dark"), note, role=CellRole.DARK)
        bands.append(
            Band(
                label=gettext("dark %(number)s", number=row),
                cells=(*used, mix, let_down_cell(mix, f"r{row}tint", ground)),
            )
        )
    return Asked(
        kind=KIND.name,
        title=gettext("Mixed darks"),
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            gettext("Paint the tubes of a row first, then the darkest mix that leans nowhere."),
            gettext(
                "Let a little of it down with white to see where it leans; steer "
                "it, then paint both."
            ),
            then_dry(gettext("Clean the knife between rows.")),
        ),
    )


KIND = Kind(
    name="mixed-darks",
    label=N_("Mixed darks"),
    says=N_("Near-blacks without black, each with its tint."),
    teaching=Teaching(
        place=11,
        see=N_(
            "Two deep colours that cancel make a near black, and its tint tells which way it leans."
        ),
        mistake=N_("It stays a dark colour: one of the two is short."),
        say=N_("Bring in the other one by touches until the tint looks grey."),
        easier=N_("One pair only."),
        harder=N_("Make one dark lean warm and one lean cool, on purpose."),
        ask=N_("Which of your darks would you take for a shadow in warm light?"),
    ),
    options=DarkOptions,
    ask=_ask,
    traits=frozenset({Trait.ANY_TUBE_STEERS, Trait.UNLIKE_NEIGHBOURS}),
    tolerances=by_level(value=(0.9, 0.7, 0.5), chroma=(1.5, 1.0, 0.7)),
    weights=weights(value=2, neutral=3),
    turn=8,
)
