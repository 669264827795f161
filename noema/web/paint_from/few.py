"""Which few tubes do for a picture, as it is shown."""

from dataclasses import dataclass

import numpy as np
from flask import request
from wtforms import Form

from noema.actions.paint_from import spot_name
from noema.actions.practise import BenchPaints, paints_from_json
from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import colour_words
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import Refused
from noema.core.exercises.from_picture import PictureFacts
from noema.core.language import gettext, written
from noema.core.pictures.few_tubes import WITHIN
from noema.core.pictures.net import nearest_mixes, whole_net
from noema.core.pigments.shelf import SETS, TUBES, WHITE
from noema.core.pigments.tube import Tube
from noema.store.base import Json
from noema.store.paints import own_sets, paint_set
from noema.store.pictures import KeptPicture, KeptRanking, rankings_of, spots_of
from noema.web.frame.forms import TextLine, Whole, read_form
from noema.web.frame.page import Frame
from noema.web.frame.request import db
from noema.web.paint_from.desk import PictureDesk
from noema.web.paint_from.spotting import ExerciseLink, exercise_links

_PAIR = 2


class RankForm(Form):
    """How many tubes, and which choice is looked at."""

    count = Whole()
    chosen = Whole()


class CupboardForm(Form):
    """Which set is looked through; nothing: the class's."""

    set = TextLine(most=80)


@dataclass(frozen=True, kw_only=True)
class ChoiceLine:
    """One choice of tubes."""

    n: int
    tubes: str
    percent: str
    near: str
    lost: str
    greys: bool  # a pair that greys each other
    chosen: bool


@dataclass(frozen=True, kw_only=True)
class Becomes:
    """What a spot turns into."""

    name: str
    fill: str
    mix_fill: str
    said: str


@dataclass(frozen=True, kw_only=True)
class TubesPage:
    """Which few tubes do for a picture."""

    frame: Frame | None
    desk: PictureDesk
    name: str
    picture: KeptPicture
    tab: str
    may_ask: bool
    set_label: str  # what was looked through; empty: nothing was asked for
    counts: tuple[int, ...]
    count: int
    pending: int  # counts that are still worked out
    lines: tuple[ChoiceLine, ...]
    names: tuple[str, ...]  # of the chosen tubes
    becomes: tuple[Becomes, ...]
    sets: tuple[tuple[str, str], ...]
    exercises: tuple[ExerciseLink, ...]


def tubes_page(desk: PictureDesk, picture: KeptPicture) -> TubesPage:
    """Show what was found so far."""
    form = read_form(RankForm, request.args)
    rankings = rankings_of(db(), picture.id)
    counts = tuple(one.count for one in rankings)
    count = form.count.data if form.count.data in counts else (counts[0] if counts else 0)
    shown = next((one for one in rankings if one.count == count), None)
    ranked = [] if shown is None or shown.ranked is None else shown.ranked
    chosen = min(max(form.chosen.data or 0, 0), max(len(ranked) - 1, 0))
    given = None if shown is None else paints_from_json(shown.paints)
    names = tuple(_names(ranked[chosen])) if ranked else ()
    return TubesPage(
        frame=desk.frame,
        desk=desk,
        name=desk.name,
        picture=picture,
        tab="tubes",
        may_ask=desk.may_change(picture),
        set_label="" if given is None else given.paints.label,
        counts=counts,
        count=count,
        pending=sum(one.ranked is None for one in rankings),
        lines=_lines(ranked, chosen, given),
        names=names,
        becomes=_becomes(desk, picture, shown, names),
        sets=_sets(desk),
        exercises=exercise_links(desk, PictureFacts(pair=names)) if len(names) == _PAIR else (),
    )


def cupboard_asked(desk: PictureDesk) -> BenchPaints:
    """Give the tubes that are to be looked through."""
    ref = read_form(CupboardForm).set.data
    if not ref or not desk.teaches:
        return desk.given
    return BenchPaints(paints=paint_set(db(), desk.owner.school_id, ref))


def _sets(desk: PictureDesk) -> tuple[tuple[str, str], ...]:
    if not desk.teaches:
        return ()
    built_in = [(name, one.label) for name, one in SETS.items()]
    return (
        ("", gettext("%(set)s, the class's", set=desk.given.paints.label)),
        *((one.name, one.label) for one in own_sets(db(), desk.owner.school_id)),
        *built_in,
    )


def _names(row: Json) -> list[str]:
    tubes = row["tubes"]
    assert isinstance(tubes, list)
    return [str(one) for one in tubes]


def _lines(ranked: list[Json], chosen: int, given: BenchPaints | None) -> tuple[ChoiceLine, ...]:
    own = {} if given is None else {tube.name: tube.label for tube in given.paints.tubes}
    return tuple(
        ChoiceLine(
            n=n,
            tubes=", ".join(own.get(name, name) for name in _names(row)),
            percent=f"{float(str(row['share_within'])):.0%}",
            near=written(float(str(row["median_de"])), ".1f"),
            lost=str(row["lost"]),
            greys=bool(row["greys"]) and len(_names(row)) == _PAIR,
            chosen=n == chosen,
        )
        for n, row in enumerate(ranked)
    )


def _becomes(
    desk: PictureDesk, picture: KeptPicture, shown: KeptRanking | None, names: tuple[str, ...]
) -> tuple[Becomes, ...]:
    """Say what each spot turns into with the chosen tubes, where it does."""
    spots = spots_of(db(), picture.id)
    if shown is None or not names or not spots:
        return ()
    paints = paints_from_json(shown.paints).bench.paints
    tubes = tuple(_tube(paints.tubes, name) for name in names)
    white = paints.white or TUBES[WHITE]
    labs = [one.lab for one in spots]
    found = nearest_mixes(whole_net(tubes, white, paints.binder.dry), np.array(labs))
    told = []
    for spot, mix, away in zip(spots, found.lab.tolist(), found.away.tolist(), strict=True):
        if away > WITHIN:
            fill, mix_fill = lab_to_hex([spot.lab, mix])
            words = colour_words(hvc_of(mix), desk.table)
            told.append(
                Becomes(
                    name=spot_name(spot),
                    fill=fill,
                    mix_fill=mix_fill,
                    said=gettext("becomes %(colour)s", colour=words),
                )
            )
    return tuple(told)


def _tube(tubes: tuple[Tube, ...], name: str) -> Tube:
    found = next((one for one in tubes if one.name == name), None)
    if found is None:
        raise Refused(gettext("These tubes changed meanwhile: have them looked through again."))
    return found
