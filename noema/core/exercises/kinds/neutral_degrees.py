"""Degrees of neutral: how far colours of a picture are from pure, mixed again in rows of a hue."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from noema.core.colour.hvc import hvcs_of
from noema.core.colour.names import NEAR_NEUTRAL_BELOW, NamedHue
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, CellRole, Ground
from noema.core.exercises.cells import then_dry
from noema.core.exercises.from_paints import pure
from noema.core.exercises.from_picture import PictureFacts
from noema.core.exercises.kind import Kind, Trait, weights
from noema.core.exercises.options import Lab, Options, some_colours
from noema.core.exercises.paths import Way, cell_of, greyest_place, stops_at, way_between
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import by_level
from noema.core.language import N_, gettext
from noema.core.pigments.reach import purest_chroma

_MOST_ROWS, _MOST_DEGREES = 4, 6
_USUAL_HUES, _USUAL_LEFT = ("red", "yellow", "blue"), (0.7, 0.4, 0.2)
_ALIKE = 0.07  # of the way, within which two degrees are one cell


@dataclass(frozen=True, kw_only=True)
class DegreeOptions(Options):
    """What may be chosen of degrees of neutral."""

    colours: tuple[Lab, ...] = some_colours(
        N_(
            "Colours of a picture, a line each: L, a, b (left empty: three degrees of each primary)"
        ),
        N_("The colours whose degrees are mixed; without, three degrees of each primary."),
        "52.0, 12.5, 18.0\n60.0, -8.0, -12.0",
    )


def _ask(chosen: DegreeOptions, ground: Ground) -> Asked:
    found = _found(chosen.colours, ground) if chosen.colours else _usual(ground)
    bands = [
        band
        for row, (hue, left) in enumerate(found[:_MOST_ROWS], start=1)
        if (band := _row(row, hue, left, ground)) is not None
    ]
    if not bands:
        raise BadExercise(
            gettext(
                "None of these colours has a hue that the set %(label)s mixes and greys: choose "
                "stronger colours, or another set.",
                label=ground.paints.label,
            )
        )
    return Asked(
        kind=KIND.name,
        title=gettext("Degrees of neutral, %(count)s rows", count=len(bands))
        if len(bands) > 1
        else gettext("Degrees of neutral of %(hue)s", hue=bands[0].label),
        arrangement=Arrangement.ROWS,
        bands=tuple(bands),
        how_to=(
            gettext(
                "Paint both ends of a row first: the hue as pure as it comes, and its neutral."
            ),
            gettext(
                "Then bring in what lies across the wheel by small touches, as far as each step "
                "says."
            ),
            then_dry(gettext("Clean the knife between rows.")),
        ),
    )


def _found(colours: Sequence[Lab], ground: Ground) -> list[tuple[NamedHue, list[float]]]:
    """Gather colours by hue, with the share of its chroma each has left; most colours first."""
    rows: dict[NamedHue, list[float]] = {}
    for hvc in hvcs_of(np.array(colours)):
        if hvc.hue100 is None or hvc.chroma < NEAR_NEUTRAL_BELOW:
            continue
        purest = purest_chroma(ground.paints.tubes, hvc.hue100)
        if purest >= NEAR_NEUTRAL_BELOW:
            left = min(hvc.chroma / purest, 1.0)
            rows.setdefault(ground.table.nearest(hvc.hue100, 6), []).append(left)
    return sorted(rows.items(), key=lambda one: -len(one[1]))


def _usual(ground: Ground) -> list[tuple[NamedHue, list[float]]]:
    return [(ground.table.of(name), list(_USUAL_LEFT)) for name in _USUAL_HUES]


def _row(row: int, hue: NamedHue, left: Sequence[float], ground: Ground) -> Band | None:
    """Lead a hue to the neutral it makes with what lies across the wheel; None where it can't."""
    across = ground.table.opposite(hue.name)
    one, other = pure(ground, hue.name), pure(ground, across.name)
    if not one or not other:
        return None
    surface = ground.paints.binder.dry
    way = way_between(one, other, surface)
    last = greyest_place(way)
    degrees = _told_apart(left)
    places = np.array([0.0, *(_place(way, last, share) for share in degrees), float(last)])
    stops = stops_at(way, places, surface)
    notes = [
        gettext("%(hue)s, as pure as it comes.", hue=hue.name.capitalize()),
        *(
            gettext(
                "%(hue)s with %(share)s of its intensity left.",
                hue=hue.name.capitalize(),
                share=f"{share:.0%}",
            )
            for share in degrees
        ),
        gettext("Where it cancels with %(across)s.", across=across.name),
    ]
    labels = [hue.name, *(f"{share:.0%}" for share in degrees), gettext("neutral")]
    roles = [CellRole.END, *[CellRole.STEP] * len(degrees), CellRole.NEUTRAL]
    cells: list[AskedCell] = [
        cell_of(stop, f"r{row}c{n}", label, note, role=role)
        for n, (stop, label, note, role) in enumerate(
            zip(stops, labels, notes, roles, strict=True), start=1
        )
    ]
    return Band(label=hue.name, cells=tuple(cells))


def _told_apart(left: Sequence[float]) -> list[float]:
    """Give shares of chroma from much to little, told apart from each other and from the ends."""
    kept: list[float] = []
    for share in sorted(left, reverse=True):
        apart = not kept or kept[-1] - share >= _ALIKE
        if apart and _ALIKE <= share <= 1.0 - _ALIKE:
            kept.append(share)
    return kept[:_MOST_DEGREES]


def _place(way: Way, last: int, share: float) -> float:
    """Find where on the way to the neutral a share of the chroma is left."""
    chroma = np.array([hvc.chroma for hvc in hvcs_of(way.labs[: last + 1])])
    falls = np.minimum.accumulate(chroma) / chroma[0]
    return float(np.interp(-share, -falls, np.arange(last + 1)))


def _from_picture(facts: PictureFacts) -> DegreeOptions | None:
    if not facts.spots:
        return None
    return DegreeOptions(colours=facts.spots)


KIND = Kind(
    name="neutral-degrees",
    label=N_("Degrees of neutral"),
    says=N_("How far colours of a picture are from pure, mixed again."),
    teaching=Teaching(
        place=15,
        see=N_("Most of a picture is far greyer than one thinks: pure hues are accents."),
        mistake=N_("Everything is painted too pure."),
        say=N_("Hold it beside the pure end: how much of it is left?"),
        easier=N_("One hue, three degrees."),
        harder=N_("Four hues, taken from a picture of your own."),
        ask=N_("Which of these would be an accent in your picture?"),
    ),
    options=DegreeOptions,
    ask=_ask,
    from_picture=_from_picture,
    traits=frozenset({Trait.ANY_TUBE_STEERS}),
    tolerances=by_level(hue=(5.0, 3.5, 2.5), value=(0.9, 0.6, 0.4), chroma=(1.8, 1.3, 0.9)),
    weights=weights(hue=1, value=1, intensity=3, neutral=2),
)
