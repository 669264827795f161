"""Tube swatches: every tube thick, thin and as a tint."""

from dataclasses import dataclass

from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, CellRole, Ground
from noema.core.exercises.cells import DRY, tube_cell
from noema.core.exercises.from_paints import tubes_of, white_or_paper
from noema.core.exercises.kind import Kind, Trait, weights
from noema.core.exercises.options import Options, some_tubes
from noema.core.exercises.paths import Stop, cell_of, stop_of
from noema.core.exercises.teaching import Teaching
from noema.core.language import N_, gettext
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import Part, film_labs

_THIN, _TINT = 0.12, 10.0  # coats; volumes of white


@dataclass(frozen=True, kw_only=True)
class SwatchOptions(Options):
    """What may be chosen of tube swatches."""

    tubes: tuple[str, ...] = some_tubes()


def _ask(chosen: SwatchOptions, ground: Ground) -> Asked:
    tubes = tubes_of(chosen.tubes, ground.paints, 14)
    surface = ground.paints.binder.dry
    rows: list[list[AskedCell]] = []
    for n, tube in enumerate(tubes, start=1):
        lab = film_labs([tube], [[1.0]], [_THIN], surface)[0].tolist()
        parts = (Part(tube=tube, amount=1.0),)
        thin = Stop(parts=parts, lab=(lab[0], lab[1], lab[2]))
        cells = [
            tube_cell(tube, f"s{n}a", ground, tube.label),
            cell_of(
                thin, f"s{n}b", "thin", gettext("Brushed out until the paper shows."), of=f"s{n}a"
            ),
        ]
        if ground.paints.binder is not Binder.WATERCOLOUR:
            white = Part(tube=white_or_paper(ground.paints), amount=_TINT)
            tint = stop_of((*parts, white), surface)
            note = gettext("One volume with ten of white.")
            cells.append(cell_of(tint, f"s{n}c", "1 to 10", note, role=CellRole.TINT, of=f"s{n}a"))
        rows.append(cells)
    half = (len(rows) + 1) // 2 if len(rows) > 7 else len(rows)
    joined = [
        row + (rows[half + n] if half + n < len(rows) else []) for n, row in enumerate(rows[:half])
    ]
    return Asked(
        kind=KIND.name,
        title=gettext("Tube swatches"),
        arrangement=Arrangement.ROWS,
        bands=tuple(Band(label="", cells=tuple(row)) for row in joined),
        how_to=(
            gettext(
                "Each tube three times: thick, brushed out thin, and one volume with ten of white."
            ),
            gettext("Measure the volumes with the same spoon. Clean the knife between tubes."),
            DRY,
        ),
    )


KIND = Kind(
    name="tube-swatches",
    label=N_("Tube swatches"),
    says=N_("Every tube thick, thin and as a tint: a class learns its paints."),
    teaching=Teaching(
        place=1,
        see=N_("Tubes alike at the neck lie far apart once they are thin, or let down with white."),
        mistake=N_("Every stroke is equally thick, so that masstone and undertone look the same."),
        say=N_(
            "Thick first, then drawn out until the paper shows, then with white: three looks "
            "of one paint."
        ),
        easier=N_("The tubes of one primary only."),
        harder=N_("Say before the tint which way it will lean."),
        ask=N_("Which tube surprised you, and which is the strongest?"),
    ),
    options=SwatchOptions,
    ask=_ask,
    traits=frozenset({Trait.SHOWS_TUBES, Trait.UNLIKE_NEIGHBOURS}),
    weights=weights(hue=1, value=1, intensity=1, craft=2),
)
