"""The mixing grid: every tube with every tube."""

from dataclasses import dataclass

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, Ground
from noema.core.exercises.cells import let_down_cell, then_dry, tube_cell
from noema.core.exercises.from_paints import eyes_middle, tubes_of
from noema.core.exercises.kind import Kind, Trait, weights
from noema.core.exercises.options import Options, flag, some_tubes
from noema.core.exercises.paths import cell_of
from noema.core.exercises.teaching import Teaching
from noema.core.language import N_, gettext
from noema.core.pigments.tube import Tube


@dataclass(frozen=True, kw_only=True)
class GridOptions(Options):
    """What may be chosen of a mixing grid."""

    tubes: tuple[str, ...] = some_tubes()
    tints: bool = flag(N_("a tint under every mix"), N_("Each mix again, let down with white."))
    full: bool = flag(N_("both halves of the grid"), N_("Each pair twice, from either side."))


def _ask(chosen: GridOptions, ground: Ground) -> Asked:
    most = 4 if chosen.tints else 7
    tubes = tubes_of(chosen.tubes, ground.paints, most)
    if len(tubes) < 2:
        raise BadExercise(
            gettext("A grid needs at least two tubes: name more, or choose another set.")
        )
    bands = []
    for row, one in enumerate(tubes, start=1):
        columns = tubes if chosen.full else tubes[row - 1 :]
        cells = [
            _grid_cell(one, other, f"r{row}c{tubes.index(other) + 1}", ground) for other in columns
        ]
        bands.append(Band(label=one.label, cells=tuple(cells)))
        if chosen.tints:
            bands.append(_tinted(bands[-1], f"t{row}", ground))
    return Asked(
        kind=KIND.name,
        title=gettext("Mixing grid"),
        arrangement=Arrangement.ROWS if chosen.full else Arrangement.STAIRS,
        bands=tuple(bands),
        how_to=(
            gettext("Paint every tube alone first, where its row meets its own column."),
            gettext("Then each with each: a mix that looks as far from one as from the other."),
            then_dry(gettext("Clean the brush between mixes.")),
        ),
    )


def _grid_cell(one: Tube, other: Tube, cell_id: str, ground: Ground) -> AskedCell:
    if one == other:
        return tube_cell(one, cell_id, ground)
    note = gettext(
        "%(one)s and %(other)s, as far from one as from the other.",
        one=one.label.capitalize(),
        other=other.label,
    )
    return cell_of(
        eyes_middle(one, other, ground), cell_id, gettext("+ %(tube)s", tube=other.label), note
    )


def _tinted(band: Band, prefix: str, ground: Ground) -> Band:
    cells = [
        let_down_cell(cell, f"{prefix}c{n}", ground) for n, cell in enumerate(band.cells, start=1)
    ]
    return Band(label=gettext("with white"), cells=tuple(cells))


KIND = Kind(
    name="mixing-grid",
    label=N_("Mixing grid"),
    says=N_("Every tube with every tube."),
    teaching=Teaching(
        place=13,
        see=N_("Each place has two parents: look along its row and along its column."),
        mistake=N_("Equal amounts are mixed, and the strong tube is everywhere."),
        say=N_("Stop when you can see both parents in it."),
        easier=N_("Four tubes."),
        harder=N_("A tint beside each mix."),
        ask=N_("Which mix will you use again?"),
    ),
    options=GridOptions,
    ask=_ask,
    traits=frozenset({Trait.OWN_TUBES_ALONE, Trait.UNLIKE_NEIGHBOURS}),
    weights=weights(hue=2, value=1, intensity=1),
)
