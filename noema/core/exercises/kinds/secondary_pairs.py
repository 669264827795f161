"""Secondary pairs: every warm and cool pairing of the primaries."""

from itertools import product

from noema.core.errors import BadExercise
from noema.core.exercises.asked import (
    Arrangement,
    Asked,
    AskedCell,
    Band,
    CellRole,
    Concern,
    Ground,
)
from noema.core.exercises.cells import limits_said, then_dry, tube_cell
from noema.core.exercises.from_paints import eyes_middle, purest
from noema.core.exercises.kind import Kind, Trait, weights
from noema.core.exercises.options import Options
from noema.core.exercises.paths import Stop, cell_of, stop_of
from noema.core.exercises.teaching import Teaching
from noema.core.language import N_, gettext, written
from noema.core.pigments.reach import tubes_of_hue, why_dull
from noema.core.pigments.says import say_parts
from noema.core.pigments.tube import Tube

_SECONDARIES = (("orange", "yellow", "red"), ("green", "yellow", "blue"), ("violet", "red", "blue"))
_MOST_PAIRS = 4
_CLEAN_SHARE = 0.75  # of the best pair's chroma from which a pair counts as clean


def _ask(_chosen: Options, ground: Ground) -> Asked:
    bands, concerns = [], []
    for row, (name, one, other) in enumerate(_SECONDARIES, start=1):
        ones, others = (
            tubes_of_hue(ground.paints.tubes, hue, ground.table)[:2] for hue in (one, other)
        )
        if not ones or not others:
            lacking = one if not ones else other
            concerns.append(_lacks(name, lacking))
            continue
        pairs = list(product(ones, others))[:_MOST_PAIRS]
        bands.append(_pairs_band(name, row, pairs, ground))
    if not bands:
        raise BadExercise(
            gettext("%(sentence)s Choose a set with its primaries.", sentence=concerns[0].sentence)
        )
    return Asked(
        kind=KIND.name,
        title=gettext("Secondary pairs"),
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            gettext("Paint both tubes of a pair first, then the secondary between them."),
            gettext("Use the same two tubes and nothing else; clean the knife between pairs."),
            then_dry(gettext("Which pair stays clean, and which goes dull?")),
        ),
        concerns=(*concerns, *_dull_pairs(bands)),
    )


def _dull_pairs(bands: list[Band]) -> tuple[Concern, ...]:
    """Say which pairs give no secondary at all: the sheet is there to show it."""
    return limits_said(
        (cell for band in bands for cell in band.cells),
        lambda cell: cell.label.capitalize(),
        gettext("leave it in to show the difference: it isn't held against anybody"),
    )


def _lacks(name: str, lacking: str) -> Concern:
    return Concern(
        cells=(),
        sentence=gettext(
            "The %(name)s row is left out: there is no %(lacking)s in the set.",
            name=name,
            lacking=lacking,
        ),
        suggestion=gettext("add a %(lacking)s, or choose another set", lacking=lacking),
    )


def _pairs_band(name: str, row: int, pairs: list[tuple[Tube, Tube]], ground: Ground) -> Band:
    hue100 = ground.table.of(name).hue100
    surface = ground.paints.binder.dry
    mixed = []
    for pair in pairs:
        parts = purest(pair, hue100, surface)
        limit = "" if parts else why_dull(pair, (), name, ground.table)
        stop = stop_of(parts, surface) if parts else eyes_middle(*pair, ground)
        mixed.append((pair, cell_of(stop, "x", name, "", limit=limit)))
    best = max(cell.hvc.chroma for _, cell in mixed)
    cells: list[AskedCell] = []
    for n, (pair, cell) in enumerate(mixed, start=1):
        clean = cell.hvc.chroma >= _CLEAN_SHARE * best and not cell.limit
        word = gettext("clean") if clean else gettext("muted")
        note = gettext(
            "%(word)s: chroma %(chroma)s, from %(parts)s.",
            word=word.capitalize(),
            chroma=written(cell.hvc.chroma, ".1f"),
            parts=say_parts(cell.parts),
        )
        cells += [
            tube_cell(pair[0], f"r{row}p{n}a", ground),
            cell_of(
                Stop(parts=cell.parts, lab=cell.lab),
                f"r{row}p{n}m",
                name,
                note,
                limit=gettext(
                    "this pair can't give %(name)s: %(limit)s", name=name, limit=cell.limit
                )
                if cell.limit
                else "",
                role=CellRole.SECONDARY,
            ),
            tube_cell(pair[1], f"r{row}p{n}b", ground),
        ]
    return Band(label=name, cells=tuple(cells))


KIND = Kind(
    name="secondary-pairs",
    label=N_("Secondary pairs"),
    says=N_("Every warm and cool pairing of the primaries: which stays clean?"),
    teaching=Teaching(
        place=2,
        see=N_(
            "Two primaries that lean towards each other mix clean; two that lean away grey "
            "each other."
        ),
        mistake=N_("Something else is on the knife, and every secondary looks dull."),
        say=N_("Wipe the knife between mixes, and take the light tube first."),
        easier=N_("The pairs of one secondary only."),
        harder=N_("Say before each mix whether it will be clean or muted."),
        ask=N_("Which two tubes give your cleanest violet?"),
    ),
    options=Options,
    ask=_ask,
    traits=frozenset({Trait.CLEAN_BESIDE_MUTED, Trait.OWN_TUBES_ALONE, Trait.UNLIKE_NEIGHBOURS}),
    weights=weights(hue=2, value=1, intensity=3),
    turn=7,
)
