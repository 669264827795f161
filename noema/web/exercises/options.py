"""What a kind of exercise lets a teacher choose: as fields of a form, and read back from one."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import cast

from werkzeug.datastructures import MultiDict

from noema.core.colour.names import HueTable
from noema.core.errors import BadExercise
from noema.core.exercises.catalogue import AnyKind
from noema.core.exercises.levels import Level
from noema.core.exercises.options import Asks, Lab, Option, Options, given, options_of
from noema.core.language import N_, gettext
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Role
from noema.formats.measurements import samples_from_text
from noema.formats.mix_text import mix_from_text
from noema.web.exercises.fields import Select, Ticks, Typed, select, ticks

Given = MultiDict[str, str]

_USUAL = ("", N_("usual"))
_FLAGS = "with"  # the one row of ticks for every yes or no
_MOST_TEXT, _MOST_NAMES = 4000, 400
_HEADER = re.compile(r"CGATS|L\W|LAB_L|name\W", re.IGNORECASE)


@dataclass(frozen=True, kw_only=True)
class OptionFields:
    """The fields of one kind, holding what was chosen so far."""

    selects: tuple[Select, ...]
    ticks: tuple[Ticks, ...]
    typed: tuple[Typed, ...]


def fields_of_kind(
    kind: AnyKind, form: Given, paints: PaintSet | None, table: HueTable
) -> OptionFields:
    """Give a kind's fields as the form has them; what makes no sense stays as it was typed."""
    declared = options_of(kind.options)
    return OptionFields(
        selects=tuple(
            select(one.name, one.label, _choices(one, paints, table), form.get(one.name, ""))
            for one in declared
            if one.asks in (Asks.NUMBER, Asks.WORD, Asks.HUE, Asks.TUBE)
        ),
        ticks=tuple(_ticks(declared, form, paints)),
        typed=tuple(
            Typed(
                name=one.name,
                label=gettext(one.label),
                value=form.get(one.name, ""),
                hint=one.hint,
                lines=4 if one.asks is Asks.COLOURS else 1,
                takes_file=one.asks is Asks.COLOURS,
            )
            for one in declared
            if one.asks in (Asks.PAIRS, Asks.COLOURS)
        ),
    )


def _choices(one: Option, paints: PaintSet | None, table: HueTable) -> tuple[tuple[str, str], ...]:
    own = tuple((tube.name, tube.label) for tube in (paints.colours if paints else ()))
    if one.asks is Asks.TUBE:
        return (*one.choices, *own)
    if one.asks is Asks.HUE:
        named = tuple((hue.name, hue.name) for hue in table.hues(6)) if paints else ()
        return (*one.choices, *named, *own)
    return (_USUAL, *one.choices)


def _ticks(declared: tuple[Option, ...], form: Given, paints: PaintSet | None) -> list[Ticks]:
    found = []
    for one in declared:
        if one.asks is Asks.WORDS:
            found.append(ticks(one.name, one.label, one.choices, form.getlist(one.name)))
        elif one.asks is Asks.TUBES and paints:
            own = ((t.name, t.label) for t in paints.tubes if t.role is not Role.WHITE)
            found.append(ticks(one.name, one.label, own, form.getlist(one.name)))
    flags = [(one.name, one.label) for one in declared if one.asks is Asks.FLAG]
    if flags:
        found.append(ticks(_FLAGS, gettext("With"), flags, form.getlist(_FLAGS)))
    return found


def chosen_in(form: Given, kind: AnyKind, paints: PaintSet | None, level: Level) -> Options:
    """Read what was chosen of a kind; what belongs to another kind is passed over."""
    read = {one.name: _read(one, form, paints, level) for one in options_of(kind.options)}
    return cast(
        Options, kind.chosen({name: value for name, value in read.items() if value is not None})
    )


def _read(one: Option, form: Given, paints: PaintSet | None, level: Level) -> object:
    """Read one choice; None where it is left as usual."""
    text = form.get(one.name, "").strip()
    if one.asks is Asks.NUMBER:
        return _number(one, text)
    if one.asks is Asks.FLAG:
        return one.name in form.getlist(_FLAGS)
    if one.asks is Asks.WORDS:
        return tuple(form.getlist(one.name))
    if one.asks is Asks.TUBES:
        # A tube stays ticked when another set is chosen; what the new set lacks is passed over.
        known = {tube.name for tube in paints.tubes} if paints else set()
        return tuple(name for name in form.getlist(one.name) if name in known)
    if one.asks is Asks.PAIRS:
        names = text[:_MOST_NAMES].split(",")
        return tuple(name.strip() for name in names if name.strip())
    if one.asks is Asks.COLOURS:
        return _colours(text, paints)
    return level if one.asks is Asks.LEVEL else text or None


def form_of(chosen: Options) -> list[tuple[str, str]]:
    """Give the fields that would choose the same."""
    values: Mapping[str, object] = given(chosen)
    pairs: list[tuple[str, str]] = []
    for one in options_of(type(chosen)):
        value = values.get(one.name)
        if value is None or one.asks is Asks.LEVEL:
            continue
        if one.asks is Asks.FLAG:
            pairs.append((_FLAGS, one.name))
        elif one.asks is Asks.COLOURS:
            labs = cast(tuple[Lab, ...], value)
            lines = (", ".join(f"{number:.2f}" for number in lab) for lab in labs)
            pairs.append((one.name, "\n".join(lines)))
        elif one.asks is Asks.PAIRS:
            pairs.append((one.name, ", ".join(cast(tuple[str, ...], value))))
        elif isinstance(value, tuple):
            pairs += [(one.name, str(item)) for item in value]
        else:
            pairs.append((one.name, str(value)))
    return pairs


def _number(one: Option, text: str) -> int | None:
    if not text:
        return None
    if not text.isdigit() or len(text) > 4:
        raise BadExercise(
            gettext(
                "%(label)s: “%(text)s” is not a whole number.",
                label=gettext(one.label),
                text=text[:20],
            )
        )
    return int(text)


def _colours(text: str, paints: PaintSet | None) -> tuple[Lab, ...]:
    """Read a colour a line, three numbers or a mix of the set's tubes; or a whole file of Lab."""
    if len(text) > _MOST_TEXT:
        raise BadExercise(
            gettext(
                "A list of colours has at most %(most_text)s characters: shorten it.",
                most_text=_MOST_TEXT,
            )
        )
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if lines and _HEADER.match(lines[0]):
        return tuple(sample.lab for sample in samples_from_text(text))
    return tuple(_colour(line, paints) for line in lines)


def _colour(line: str, paints: PaintSet | None) -> Lab:
    if line[0].isdigit() or line[0] in "-.":
        return samples_from_text(f"L,a,b\n{line}")[0].lab
    if paints is None:
        raise BadExercise(gettext("Choose a set of paints: a mix is made of its tubes."))
    lightness, a, b = lab_of_parts(mix_from_text(line, paints), paints.binder.dry)
    return (lightness, a, b)
