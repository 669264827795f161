"""A student who mixes each cell from tubes, nearly right, and may make one known mistake."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import Enum

import numpy as np
from numpy.random import Generator

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import USUAL_HUES, hue_step
from noema.core.errors import Refused
from noema.core.exercises.asked import AskedCell, Band, Even
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, film_labs, mix_labs
from noema.core.pigments.qualities import qualities
from noema.core.pigments.tube import Role, Tube
from noema.stand_ins.mishap import Mishap
from noema.stand_ins.painter import Hand
from noema.stand_ins.sitting import Mix, Mixes, Sitting, lab_of, recipe_of

_NEAR_PAPER = 8.8  # value
_THIN_COATS, _THICK = (0.08, 0.2), 8.0  # coats of even, see-through paint; of paint that hides


class Mistake(Enum):
    """What a student may get wrong, and a teacher would see."""

    LEAN = "lean"  # mixes on a wheel lean to one of their tubes
    BUNCHED = "bunched"  # steps crowd at one end
    SWAPPED = "swapped"  # two cells painted in each other's place
    CONTAMINATED = "contaminated"  # something got into a yellow
    NOT_NEUTRAL = "not-neutral"  # the middle of a complement row leans
    WRONG_PAIR = "wrong-pair"  # a mix made with another tube than asked
    THIN = "thin"  # bare paper and streaks
    SEE_THROUGH = "see-through"  # evenly so thin that the paper shows through
    WET = "wet"  # photographed before it was dry
    EXCHANGED = "exchanged"  # two cells far apart painted in each other's place
    SHORT_DARK = "short-dark"  # the dark end of a value scale stops early
    BARE = "bare"  # a row, or a few cells, not painted yet


@dataclass(frozen=True, kw_only=True)
class Painted:
    """A sheet as a student paints it."""

    hand: Hand
    mishap: Mishap
    wrong: tuple[str, ...]  # cells in which the mistake lies


def paint_sheet(sitting: Sitting, mistake: Mistake | None) -> Painted:
    """Decide what is painted; refuses a mistake that this exercise leaves no room for."""
    mixes = {cell.id: sitting.right(cell) for cell in sitting.asked.on_paper}
    hand = Hand(missed=0.005, streaks=0.03)
    if mistake is None:
        return Painted(hand=_laid(sitting, hand, mixes), mishap=Mishap(), wrong=())
    if mistake is Mistake.THIN:
        missed, streaks = sitting.rng.uniform(0.2, 0.35), sitting.rng.uniform(0.1, 0.16)
        hand = replace(hand, missed=missed, streaks=streaks)
        return Painted(hand=_laid(sitting, hand, mixes), mishap=Mishap(), wrong=tuple(mixes))
    if mistake is Mistake.SEE_THROUGH:
        thin = float(np.exp(sitting.rng.uniform(*np.log(_THIN_COATS))))
        return Painted(hand=_laid(sitting, hand, mixes, thin), mishap=Mishap(), wrong=tuple(mixes))
    if mistake is Mistake.WET:
        hand = _laid(sitting, hand, mixes | _wet(sitting))
        return Painted(hand=hand, mishap=Mishap(wet=True), wrong=tuple(mixes))
    if mistake is Mistake.BARE:
        bare = _row_or_few(sitting)
        hand = replace(_laid(sitting, hand, mixes), empty=bare)
        return Painted(hand=hand, mishap=Mishap(), wrong=bare)
    wrong = _MADE[mistake](sitting, mixes)
    if not wrong:
        raise Refused(f"There is no room for {mistake.value} in “{sitting.asked.title}”.")
    return Painted(hand=_laid(sitting, hand, mixes | wrong), mishap=Mishap(), wrong=tuple(wrong))


def _laid(sitting: Sitting, hand: Hand, mixes: Mixes, coats: float | None = None) -> Hand:
    """Lay mixes on paper, opaque or so many coats thin."""
    mixes = sitting.as_filled(mixes)
    if coats is not None:
        mixes = {cell: _thinned(mix, coats, sitting.surface) for cell, mix in mixes.items()}
    return replace(
        hand,
        meant={cell: mix.lab for cell, mix in mixes.items()},
        recipes={cell: mix.parts for cell, mix in mixes.items()},
    )


def _thinned(mix: Mix, coats: float, surface: Surface) -> Mix:
    tubes, amounts = [p.tube for p in mix.parts], [p.amount for p in mix.parts]
    thin, thick = film_labs(tubes, [amounts, amounts], [coats, _THICK], surface)
    return replace(mix, lab=lab_of(np.array(mix.lab) + thin - thick))


def _lean(sitting: Sitting, _mixes: Mixes) -> Mixes:
    """Let one to three mixes of a wheel's pure ring lean to one of their tubes."""
    ring = next((band for band in sitting.asked.bands if band.even is Even.HUE), None)
    mixes = [] if ring is None else [c for c in ring.cells if len(_coloured(c)) > 1 and not c.limit]
    limit = sitting.tolerance.hue or 4.0
    wrong: Mixes = {}
    for n in sitting.rng.permutation(len(mixes)):
        if len(wrong) == 1 + int(sitting.rng.integers(3)):
            break
        cell = mixes[int(n)]
        stray = sitting.rng.uniform(1.7, 2.6) * limit
        tubes = _coloured(cell)
        to = tubes[int(sitting.rng.integers(len(tubes)))]
        if (mix := _until(sitting, cell, to, _past_hue(stray))) is not None:
            wrong[cell.id] = mix
    return wrong


def _past_hue(far: float) -> Callable[[float, float], bool]:
    return lambda hue, _chroma: hue >= far


def _contaminated(sitting: Sitting, _mixes: Mixes) -> Mixes:
    """Let something get into a yellow that should be as it comes."""
    yellows = [
        cell
        for cell in sitting.asked.cells
        if len(cell.parts) == 1 and "yellow" in cell.parts[0].tube.name and cell.hvc.chroma > 6.0
    ]
    if not yellows or sitting.paints is None:
        return {}
    cell = yellows[int(sitting.rng.integers(len(yellows)))]
    others = [t for t in sitting.paints.colours if "yellow" not in t.name]
    by = others[int(sitting.rng.integers(len(others)))]
    hue_limit, chroma_limit = sitting.tolerance.hue or 4.0, sitting.tolerance.chroma or 2.4
    far = sitting.rng.uniform(1.7, 2.6)
    mix = _until(
        sitting,
        cell,
        by,
        lambda hue, chroma: hue >= far * hue_limit or -chroma >= far * chroma_limit,
    )
    return {} if mix is None else {cell.id: mix}


def _not_neutral(sitting: Sitting, _mixes: Mixes) -> Mixes:
    """Stop too early or too late on the way through the neutral, in one row or more."""
    middles = [
        cell
        for band in sitting.asked.bands
        for cell in band.cells
        if cell.role.stands_apart and len(_coloured(cell)) > 1 and cell.hvc.chroma < 1.5
    ]
    far = sitting.rng.uniform(1.7, 2.6) * (sitting.tolerance.chroma or 1.8)
    wrong: Mixes = {}
    for n in sitting.rng.permutation(len(middles))[: 1 + int(sitting.rng.integers(2))]:
        cell = middles[int(n)]
        tubes = _coloured(cell)
        to = tubes[int(sitting.rng.integers(len(tubes)))]
        if (mix := _until(sitting, cell, to, lambda _hue, chroma: chroma >= far)) is not None:
            wrong[cell.id] = mix
    return wrong


def _wrong_pair(sitting: Sitting, _mixes: Mixes) -> Mixes:
    """Take another tube of the set for one of a mix's own."""
    mixes = [c for c in sitting.asked.cells if len(_coloured(c)) == 2 and not c.limit]
    if sitting.paints is None:
        return {}
    for n in sitting.rng.permutation(len(mixes)):
        cell = mixes[int(n)]
        for other in sitting.rng.permutation(np.array(sitting.paints.colours, dtype=object)):
            if other in [part.tube for part in cell.parts] or not _alike(other, cell):
                continue
            old = min(_coloured(cell), key=lambda tube: _apart(tube, other))
            mix = sitting.mixed(_by_eye(sitting, cell, old, other))
            if float(ciede2000(mix.lab, cell.lab)) >= sitting.rng.uniform(8.0, 11.0):
                return {cell.id: mix}
    return {}


def _by_eye(sitting: Sitting, cell: AskedCell, old: Tube, other: Tube) -> tuple[Part, ...]:
    """Mix with another tube until it comes as near to what is asked as it can."""
    tubes = [other if part.tube == old else part.tube for part in cell.parts]
    asked = np.array([part.amount for part in cell.parts])
    switched = np.array([part.tube == old for part in cell.parts])
    amounts = np.where(switched, asked * np.geomspace(1 / 60, 60.0, 121)[:, None], asked)
    away = ciede2000(mix_labs(tubes, amounts, sitting.surface), cell.lab)
    best = amounts[int(np.argmin(away))]
    return tuple(Part(tube=t, amount=float(a)) for t, a in zip(tubes, best, strict=True))


def _bunched(sitting: Sitting, _mixes: Mixes) -> Mixes:
    """Crowd the steps of a row towards one end."""
    bands = [b for b in sitting.asked.bands if b.even in (Even.VALUE, Even.DISTANCE)]
    bands = [b for b in bands if len(b.cells) > 4 and not any(c.role.stands_apart for c in b.cells)]
    bend = 1.0 + sitting.rng.uniform(0.4, 0.7)
    power = bend if sitting.rng.random() < 0.5 else 1.0 / bend
    most = 1 + int(sitting.rng.integers(len(bands))) if bands else 0
    wrong: Mixes = {}
    for n in sitting.rng.permutation(len(bands))[:most]:
        wrong |= _crowded(bands[int(n)], power, sitting.rng)
    return wrong


def _crowded(band: Band, power: float, rng: Generator) -> Mixes:
    labs = np.array([cell.lab for cell in band.cells])
    places = np.linspace(0.0, 1.0, len(labs))
    moved = np.stack([np.interp(places**power, places, column) for column in labs.T], axis=-1)
    moved += rng.normal(0.0, (0.9, 0.5, 0.5), moved.shape)
    return {
        cell.id: Mix(lab=lab_of(lab), parts=cell.parts)
        for cell, lab in zip(band.cells[1:-1], moved[1:-1], strict=True)
    }


def _swapped(sitting: Sitting, mixes: Mixes) -> Mixes:
    """Paint two neighbours, or next but one, in each other's place."""
    bands = [band for band in sitting.asked.bands if len(band.cells) > 3]
    for _ in range(40 if bands else 0):
        cells = bands[int(sitting.rng.integers(len(bands)))].cells
        one = int(sitting.rng.integers(len(cells) - 1))
        other = min(len(cells) - 1, one + 1 + int(sitting.rng.integers(2)))
        a, b = cells[one], cells[other]
        if float(ciede2000(a.lab, b.lab)) >= 9.0:
            return {a.id: mixes[b.id], b.id: mixes[a.id]}
    return {}


def _exchanged(sitting: Sitting, mixes: Mixes) -> Mixes:
    """Paint two cells of any rows, more than two places apart, in each other's place."""
    cells = sitting.asked.cells
    for _ in range(60):
        one, other = (int(n) for n in sitting.rng.integers(len(cells), size=2))
        a, b = cells[one], cells[other]
        if abs(one - other) > 2 and float(ciede2000(a.lab, b.lab)) >= 20.0:
            return {a.id: mixes[b.id], b.id: mixes[a.id]}
    return {}


def _short_dark(sitting: Sitting, _mixes: Mixes) -> Mixes:
    """Stop the dark end of a scale 1.2 to 2 steps early, and set the others between the ends."""
    band = next((one for one in sitting.asked.bands if one.even is Even.VALUE), None)
    if band is None or len(band.cells) < 5:
        return {}
    labs = np.array([cell.lab for cell in band.cells])
    dark = int(np.argmin(labs[:, 0]))
    short = sitting.rng.uniform(1.2, 2.0) / (len(labs) - 1)
    places = np.linspace(0.0, 1.0, len(labs))
    moved = short + (1.0 - short) * places if dark == 0 else (1.0 - short) * places
    shifted = np.stack([np.interp(moved, places, column) for column in labs.T], axis=-1)
    # The end that stops early is no pure black: it is mixed as its neighbour is.
    mixed = {band.cells[dark].id: band.cells[1 if dark == 0 else -2]}
    return {
        cell.id: Mix(lab=lab_of(lab), parts=recipe_of(mixed.get(cell.id, cell)))
        for cell, lab in zip(band.cells, shifted, strict=True)
    }


def _row_or_few(sitting: Sitting) -> tuple[str, ...]:
    bands = sitting.asked.bands
    if len(bands) > 1:
        return tuple(cell.id for cell in bands[int(sitting.rng.integers(len(bands)))].cells)
    # A step as light as paper may be left as paper.
    ids = [cell.id for cell in sitting.asked.cells if cell.hvc.value < _NEAR_PAPER]
    return tuple(ids[-max(1, len(ids) // 4) :])


def _until(
    sitting: Sitting, cell: AskedCell, tube: Tube, far: Callable[[float, float], bool]
) -> Mix | None:
    """Add a tube to a cell's mix until its hue or chroma has strayed as far as asked."""
    pull = np.geomspace(0.002, 12.0, 90)
    whole = sum(part.amount for part in cell.parts)
    tubes = [*(part.tube for part in cell.parts), tube]
    amounts = [[*(part.amount for part in cell.parts), whole * more] for more in pull]
    for row, lab in zip(amounts, mix_labs(tubes, amounts, sitting.surface), strict=True):
        hvc = hvc_of(lab_of(lab))
        hue = 0.0
        if hvc.hue100 is not None and cell.hvc.hue100 is not None and hvc.chroma > 2.0:
            hue = abs(hue_step(cell.hvc.hue100, hvc.hue100))
        if far(hue, hvc.chroma - cell.hvc.chroma):
            return sitting.mixed(
                tuple(Part(tube=t, amount=a) for t, a in zip(tubes, row, strict=True))
            )
    return None


def _wet(sitting: Sitting) -> Mixes:
    """Give every cell as the brush leaves it."""
    if sitting.paints is None:
        return {}
    wet = sitting.paints.binder.wet
    return {c.id: sitting.mixed(c.parts, wet) for c in sitting.asked.cells if len(c.parts) > 1}


def _coloured(cell: AskedCell) -> list[Tube]:
    return [part.tube for part in cell.parts if part.tube.role is Role.COLOUR]


def _alike(other: Tube, cell: AskedCell) -> bool:
    """Whether a student could take a tube for one of a mix's: the other red, the other blue."""
    return _primary(other) in {_primary(tube) for tube in _coloured(cell)}


def _primary(tube: Tube) -> str | None:
    return USUAL_HUES.lean(qualities(tube).shown).hue


def _apart(one: Tube, other: Tube) -> float:
    hues = [hvc_of(mix_labs([tube], [1.0])).hue100 for tube in (one, other)]
    if hues[0] is None or hues[1] is None:
        return 50.0
    return abs(hue_step(hues[0], hues[1]))


_MADE = {
    Mistake.LEAN: _lean,
    Mistake.CONTAMINATED: _contaminated,
    Mistake.NOT_NEUTRAL: _not_neutral,
    Mistake.WRONG_PAIR: _wrong_pair,
    Mistake.BUNCHED: _bunched,
    Mistake.SWAPPED: _swapped,
    Mistake.EXCHANGED: _exchanged,
    Mistake.SHORT_DARK: _short_dark,
}
