"""What tubes do with each other: secondary pairs, the mixing grid, and swatches."""

from itertools import product

from noema.core.errors import BadExercise
from noema.core.exercises.asked import (
    Arrangement,
    Asked,
    AskedCell,
    Band,
    CellShape,
    Concern,
    Even,
    Ground,
    Wanted,
)
from noema.core.exercises.cells import DRY, let_down_cell, limits_said, tube_cell
from noema.core.exercises.kind import (
    Kind,
    purest,
    tubes_of,
    white_or_paper,
)
from noema.core.exercises.paths import (
    Stop,
    cell_of,
    even_places,
    stop_of,
    stops_at,
    way_of_tubes,
)
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import Part, film_labs
from noema.core.pigments.reach import tubes_of_hue, why_dull
from noema.core.pigments.says import say_parts
from noema.core.pigments.tube import Tube

_SECONDARIES = (("orange", "yellow", "red"), ("green", "yellow", "blue"), ("violet", "red", "blue"))
_MOST_PAIRS = 4
_CLEAN_SHARE = 0.75  # of the best pair's chroma from which a pair counts as clean
_THIN, _TINT = 0.12, 10.0  # coats; volumes of white


def _secondary_pairs(wanted: Wanted, ground: Ground) -> Asked:
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
        raise BadExercise(f"{concerns[0].sentence} Choose a set with its primaries.")
    return Asked(
        kind="secondary-pairs",
        title="Secondary pairs",
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            "Paint both tubes of a pair first, then the secondary between them.",
            "Use the same two tubes and nothing else; clean the knife between pairs.",
            "Which pair stays clean, and which goes dull? " + DRY,
        ),
        concerns=(*concerns, *_dull_pairs(bands)),
    )


def _dull_pairs(bands: list[Band]) -> tuple[Concern, ...]:
    """Say which pairs give no secondary at all: the sheet is there to show it."""
    return limits_said(
        (cell for band in bands for cell in band.cells),
        lambda cell: cell.label.capitalize(),
        "leave it in to show the difference: it isn't held against anybody",
    )


def _lacks(name: str, lacking: str) -> Concern:
    return Concern(
        cells=(),
        sentence=f"The {name} row is left out: there is no {lacking} in the set.",
        suggestion=f"add a {lacking}, or choose another set",
    )


def _pairs_band(name: str, row: int, pairs: list[tuple[Tube, Tube]], ground: Ground) -> Band:
    hue100 = ground.table.of(name).hue100
    surface = ground.paints.binder.dry
    mixed = []
    for pair in pairs:
        parts = purest(pair, hue100, surface)
        limit = "" if parts else why_dull(pair, (), name, ground.table)
        stop = stop_of(parts, surface) if parts else _eyes_middle(*pair, ground)
        mixed.append((pair, cell_of(stop, "x", name, "", limit=limit)))
    best = max(cell.hvc.chroma for _, cell in mixed)
    cells: list[AskedCell] = []
    for n, (pair, cell) in enumerate(mixed, start=1):
        clean = cell.hvc.chroma >= _CLEAN_SHARE * best and not cell.limit
        word = "clean" if clean else "muted"
        note = f"{word.capitalize()}: chroma {cell.hvc.chroma:.1f}, from {say_parts(cell.parts)}."
        cells += [
            tube_cell(pair[0], f"r{row}p{n}a", ground),
            cell_of(
                Stop(parts=cell.parts, lab=cell.lab),
                f"r{row}p{n}m",
                name,
                note,
                limit=f"this pair can't give {name}: {cell.limit}" if cell.limit else "",
                shape=CellShape.DIAMOND,
            ),
            tube_cell(pair[1], f"r{row}p{n}b", ground),
        ]
    return Band(label=name, cells=tuple(cells))


def _eyes_middle(one: Tube, other: Tube, ground: Ground) -> Stop:
    """Give the mix that looks as far from one tube as from the other."""
    surface = ground.paints.binder.dry
    way = way_of_tubes(one, other, surface)
    return stops_at(way, even_places(way.labs, 3, Even.DISTANCE)[1:2], surface)[0]


def _mixing_grid(wanted: Wanted, ground: Ground) -> Asked:
    most = 4 if wanted.tints else 7
    tubes = tubes_of(wanted, ground.paints, most)
    if len(tubes) < 2:
        raise BadExercise("A grid needs at least two tubes: name more, or choose another set.")
    bands = []
    for row, one in enumerate(tubes, start=1):
        columns = tubes if wanted.full else tubes[row - 1 :]
        cells = [
            _grid_cell(one, other, f"r{row}c{tubes.index(other) + 1}", ground) for other in columns
        ]
        bands.append(Band(label=one.label, cells=tuple(cells)))
        if wanted.tints:
            bands.append(_tinted(bands[-1], f"t{row}", ground))
    return Asked(
        kind="mixing-grid",
        title="Mixing grid",
        arrangement=Arrangement.ROWS if wanted.full else Arrangement.STAIRS,
        bands=tuple(bands),
        how_to=(
            "Paint every tube alone first, where its row meets its own column.",
            "Then each with each: a mix that looks as far from one as from the other.",
            "Clean the brush between mixes. " + DRY,
        ),
    )


def _grid_cell(one: Tube, other: Tube, cell_id: str, ground: Ground) -> AskedCell:
    if one == other:
        return tube_cell(one, cell_id, ground)
    note = f"{one.label.capitalize()} and {other.label}, as far from one as from the other."
    return cell_of(_eyes_middle(one, other, ground), cell_id, f"+ {other.label}", note)


def _tinted(band: Band, prefix: str, ground: Ground) -> Band:
    cells = [
        let_down_cell(cell, f"{prefix}c{n}", ground) for n, cell in enumerate(band.cells, start=1)
    ]
    return Band(label="with white", cells=tuple(cells))


def _tube_swatches(wanted: Wanted, ground: Ground) -> Asked:
    tubes = tubes_of(wanted, ground.paints, 14)
    surface = ground.paints.binder.dry
    rows: list[list[AskedCell]] = []
    for n, tube in enumerate(tubes, start=1):
        lab = film_labs([tube], [[1.0]], [_THIN], surface)[0].tolist()
        parts = (Part(tube=tube, amount=1.0),)
        thin = Stop(parts=parts, lab=(lab[0], lab[1], lab[2]))
        cells = [
            tube_cell(tube, f"s{n}a", ground, tube.label),
            cell_of(thin, f"s{n}b", "thin", "Brushed out until the paper shows."),
        ]
        if ground.paints.binder is not Binder.WATERCOLOUR:
            white = Part(tube=white_or_paper(ground.paints), amount=_TINT)
            tint = stop_of((*parts, white), surface)
            cells.append(cell_of(tint, f"s{n}c", "1 to 10", "One volume with ten of white."))
        rows.append(cells)
    half = (len(rows) + 1) // 2 if len(rows) > 7 else len(rows)
    joined = [
        row + (rows[half + n] if half + n < len(rows) else []) for n, row in enumerate(rows[:half])
    ]
    return Asked(
        kind="tube-swatches",
        title="Tube swatches",
        arrangement=Arrangement.ROWS,
        bands=tuple(Band(label="", cells=tuple(row)) for row in joined),
        how_to=(
            "Each tube three times: thick, brushed out thin, and one volume with ten of white.",
            "Measure the volumes with the same spoon. Clean the knife between tubes.",
            DRY,
        ),
    )


KINDS = (
    Kind(
        name="secondary-pairs",
        label="Secondary pairs",
        says="Every warm and cool pairing of the primaries: which stays clean?",
        takes=frozenset(),
        ask=_secondary_pairs,
    ),
    Kind(
        name="mixing-grid",
        label="Mixing grid",
        says="Every tube with every tube.",
        takes=frozenset({"tubes", "tints", "full"}),
        ask=_mixing_grid,
    ),
    Kind(
        name="tube-swatches",
        label="Tube swatches",
        says="Every tube thick, thin and as a tint: a class learns its paints.",
        takes=frozenset({"tubes"}),
        ask=_tube_swatches,
    ),
)
