"""Paint held against a spot: how it differs, and the next move that would surely help."""

from dataclasses import dataclass

import numpy as np

from noema.core.bench.seen import Lab
from noema.core.coaching.trial import is_worth_adding, is_worth_beginning_again
from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvcs_of
from noema.core.colour.names import NEAR_NEUTRAL_BELOW, HueTable, hue_step
from noema.core.judging.evidence import sigmas_of
from noema.core.language import gettext
from noema.core.photo.reading import CellReading
from noema.core.pigments.next_move import THERE, next_move
from noema.core.pigments.recipe import Recipe
from noema.core.pigments.says import say_adding, say_parts
from noema.core.pigments.shelf import PaintSet

_TWICE = 2.0  # sigmas beyond which a difference is said
_SHARES = (1.0, 0.6, 0.35)  # of the addition that would be best, the careful ones last
_LEAST_VALUE, _LEAST_CHROMA, _LEAST_HUE = 0.2, 0.7, 2.0  # worth saying at all


@dataclass(frozen=True, kw_only=True)
class HeldSaid:
    """What is said of paint held against a spot."""

    off: tuple[str, ...]  # value first; empty where nothing is surely off
    move: str


def say_held(
    read: CellReading, target: Lab, made: Recipe, paints: PaintSet, table: HueTable
) -> HeldSaid:
    """Say what surely differs, and what to do: only what helps in nearly all that is in doubt."""
    return HeldSaid(off=_off(read, target, table), move=_move(read, target, made, paints))


def _off(read: CellReading, target: Lab, table: HueTable) -> tuple[str, ...]:
    seen, wanted = hvcs_of(np.array([read.lab, target]))
    said = []
    value = seen.value - wanted.value
    if abs(value) > max(_TWICE * read.sigma_value, _LEAST_VALUE):
        said.append(gettext("too light") if value > 0 else gettext("too dark"))
    if seen.hue100 is not None and wanted.hue100 is not None:
        step = hue_step(wanted.hue100, seen.hue100)
        coloured = min(seen.chroma, wanted.chroma) >= NEAR_NEUTRAL_BELOW
        if coloured and abs(step) > max(_TWICE * read.sigma_hue, _LEAST_HUE):
            said.append(gettext("leans to %(hue)s", hue=table.towards(wanted.hue100, step)))
    chroma = seen.chroma - wanted.chroma
    if abs(chroma) > max(_TWICE * read.sigma_chroma, _LEAST_CHROMA):
        said.append(gettext("too intense") if chroma > 0 else gettext("too grey"))
    return tuple(said)


def _move(read: CellReading, target: Lab, made: Recipe, paints: PaintSet) -> str:
    away = float(ciede2000(read.lab, target))
    if away <= max(THERE, read.sigma):
        return gettext("As near as the photograph can tell: leave it, and look.")
    surface, (lightness, colour) = paints.binder.dry, sigmas_of([read])
    doubt = (float(lightness[0]), float(colour[0]), float(colour[0]))
    found = next_move(read.lab, made.parts, target, paints.tubes, surface)
    for part in _SHARES if found.add is not None else ():
        tube, share = found.add, part * found.share
        assert tube is not None
        if is_worth_adding(read.lab, doubt, found.contents, tube, share, target, surface):
            said = say_adding(tube.label, share, found.keep)
            return f"{said[0].upper()}{said[1:]}."
    volumes = {part.tube: part.amount for part in made.parts}
    if is_worth_beginning_again(read.lab, doubt, volumes, target, surface):
        return gettext("Mix it afresh: %(parts)s.", parts=say_parts(made.parts))
    return gettext("Hold it beside the picture and look: nothing would surely bring it nearer.")
