"""What a logbook shows: a colour that is pointed at, what comes near, what was put in last."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from flask import request
from wtforms import Form

from noema.actions.practise import BenchPaints
from noema.core.bench.says import how_near
from noema.core.bench.seen import Lab
from noema.core.colour.hvc import HVC, hvc_of, hvc_to_lab
from noema.core.colour.names import HueTable, colour_words
from noema.core.colour.srgb import lab_to_hex, lab_to_linear
from noema.core.errors import Refused
from noema.core.language import gettext, written
from noema.core.logbook.entry import EntryKind
from noema.core.pigments.recipe import recipe
from noema.core.pigments.says import say_parts
from noema.core.pigments.shelf import TUBES
from noema.formats.days import short_day
from noema.formats.logbook_pdf import parts_said
from noema.store.logbook import KeptEntry, LogScope, latest_entries, nearest_entries
from noema.web.frame.clock import here
from noema.web.frame.forms import Number, TextLine, read_form
from noema.web.frame.request import db

_HUES, _CHROMAS = 20, (2.0, 4.0, 6.0, 8.0, 10.0, 12.0)
_RING, _SPOT, _MIDDLE = 23.0, 10.0, 160.0
_USUAL_VALUE, _VALUES = 6.0, (2.0, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0)


class FindForm(Form):
    """A colour, by CIELAB; or words; and the value of the field one points at."""

    lightness = Number(what="L")
    a = Number(what="a")
    b = Number(what="b")
    words = TextLine(most=80)
    value = Number(what="value")


@dataclass(frozen=True, kw_only=True)
class FieldSpot:
    """A colour of the field that can be pointed at."""

    x: float
    y: float
    radius: float
    fill: str
    query: str
    said: str


@dataclass(frozen=True, kw_only=True)
class FoundEntry:
    """One entry as it is shown."""

    id: int
    title: str
    fill: str
    asked_fill: str  # beside it: what is looked for, or what was asked of a cell
    parts: str
    words: str
    day: str
    whose: str
    near: str  # how near it comes, where a colour is looked for
    query: str  # by which it is looked for itself
    is_note: bool


@dataclass(frozen=True, kw_only=True)
class Pointed:
    """The colour that is looked for."""

    fill: str
    said: str
    now: str  # what these tubes would need for it
    now_near: str


@dataclass(frozen=True, kw_only=True)
class LogbookFound:
    """The field, what is pointed at, and what was found."""

    spots: tuple[FieldSpot, ...]
    value: float
    values: tuple[float, ...]
    size: float
    pointed: Pointed | None
    entries: tuple[FoundEntry, ...]
    words: str


def found(scope: LogScope, paints: BenchPaints, table: HueTable) -> LogbookFound:
    """Find what the address asks for: a colour, words, or what was put in last."""
    form = read_form(FindForm, request.args)
    lab = _lab(form)
    value = form.value.data if form.value.data in _VALUES else _USUAL_VALUE
    if lab is None:
        entries = latest_entries(db(), scope, form.words.data)
    else:
        entries = nearest_entries(db(), scope, lab)
    return LogbookFound(
        spots=_spots(value, table),
        value=value,
        values=_VALUES,
        size=2.0 * _MIDDLE,
        pointed=None if lab is None else _pointed(lab, paints, table),
        entries=shown_entries(entries, lab, labels_of(paints)),
        words=form.words.data,
    )


def labels_of(paints: BenchPaints) -> dict[str, str]:
    """Give what tubes are called, by name."""
    own = {tube.name: tube.label for tube in paints.paints.tubes}
    return {name: tube.label for name, tube in TUBES.items()} | own


def shown_entries(
    entries: Sequence[KeptEntry], lab: Lab | None, labels: Mapping[str, str]
) -> tuple[FoundEntry, ...]:
    """Give entries as they are shown."""
    if not entries:
        return ()
    fills = lab_to_hex([one.entry.lab for one in entries])
    beside = [lab or one.entry.asked for one in entries]
    asked = ["" if one is None else lab_to_hex([one])[0] for one in beside]
    return tuple(
        FoundEntry(
            id=one.id,
            title=one.entry.title,
            fill=fill,
            asked_fill=other,
            parts=parts_said(one.entry, labels),
            words=one.entry.words,
            day=short_day(here(one.made_at)),
            whose=one.student,
            near="" if one.away is None else how_near(one.away),
            query=_query(one.entry.lab),
            is_note=one.entry.kind is EntryKind.NOTE,
        )
        for one, fill, other in zip(entries, fills, asked, strict=True)
    )


def _lab(form: FindForm) -> Lab | None:
    given = (form.lightness.data, form.a.data, form.b.data)
    if all(one is None for one in given):
        return None
    if any(one is None or not np.isfinite(one) for one in given):
        raise Refused(gettext("A colour is three numbers, L, a and b: point at one instead."))
    lightness, a, b = (float(one) for one in given)
    if not 0.0 <= lightness <= 100.0 or max(abs(a), abs(b)) > 150.0:
        raise Refused(gettext("This is no colour paint can have: point at one instead."))
    return lightness, a, b


def _pointed(lab: Lab, paints: BenchPaints, table: HueTable) -> Pointed:
    hvc = hvc_of(lab)
    set_now = paints.bench.paints
    made = recipe(lab, set_now.tubes, set_now.binder.dry)
    return Pointed(
        fill=lab_to_hex([lab])[0],
        said=colour_words(hvc, table),
        now=say_parts(made.parts),
        now_near=how_near(made.away),
    )


def _spots(value: float, table: HueTable) -> tuple[FieldSpot, ...]:
    """Lay hues round a grey, chroma outwards; only colours a screen shows."""
    hues = np.arange(_HUES) * 100.0 / _HUES
    hvcs = [(np.nan, value, 0.0)]
    hvcs += [
        (float(hue), value, chroma)
        for chroma in _CHROMAS
        for hue in (hues[::2] if chroma == _CHROMAS[0] else hues)
    ]
    labs = hvc_to_lab(hvcs)
    linear = lab_to_linear(labs)
    shown = np.asarray(((linear >= -0.001) & (linear <= 1.001)).all(axis=1))
    fills = lab_to_hex(labs)
    spots = []
    for (hue, _, chroma), lab, fill, is_shown in zip(hvcs, labs, fills, shown, strict=True):
        if not is_shown:
            continue
        angle = 0.0 if np.isnan(hue) else np.radians(3.6 * (table.of("yellow").hue100 - hue))
        reach = _RING * chroma / _CHROMAS[0]
        lightness, a, b = lab.tolist()
        spots.append(
            FieldSpot(
                x=round(float(_MIDDLE + reach * np.sin(angle)), 1),
                y=round(float(_MIDDLE - reach * np.cos(angle)), 1),
                radius=round(_SPOT if chroma > _CHROMAS[1] else 0.65 * _SPOT, 1),
                fill=fill,
                query=f"{_query((lightness, a, b))}&value={value:g}",
                said=gettext(
                    "%(hue)s, value %(value)s, chroma %(chroma)s",
                    hue=_hue_said(hue, table),
                    value=written(value),
                    chroma=written(chroma),
                ),
            )
        )
    return tuple(spots)


def _hue_said(hue100: float, table: HueTable) -> str:
    if np.isnan(hue100):
        return gettext("grey")
    notation = HVC(hue100=hue100, value=_USUAL_VALUE, chroma=_CHROMAS[0]).notation
    return f"{table.nearest(hue100, 12).name} ({notation})"


def _query(lab: Lab) -> str:
    lightness, a, b = lab
    return f"lightness={lightness:.2f}&a={a:.2f}&b={b:.2f}"
