"""The form of an assignment: its fields, what was chosen in them, and those of an earlier one."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from werkzeug.datastructures import MultiDict
from wtforms import Form

from noema.actions.work_out_exercise import Chosen
from noema.core.errors import NotFound
from noema.core.exercises.catalogue import FIRST_KIND, KINDS, AnyKind, kind_of, usual_tolerance
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.tolerance import Tolerance
from noema.core.language import N_, gettext, written
from noema.core.pigments.shelf import SETS, PaintSet
from noema.core.planning.unit import Unit
from noema.core.sheet.paper import Paper
from noema.formats.days import short_day
from noema.formats.options_json import options_from_json
from noema.store.assignments import AssignmentRow
from noema.store.paints import hue_words, own_sets, paint_set
from noema.web.exercises.fields import Select, Ticks, Typed, select, ticks
from noema.web.exercises.key_words import KEY_WORDS
from noema.web.exercises.options import (
    Given,
    OptionFields,
    chosen_in,
    fields_of_kind,
    form_of,
)
from noema.web.frame.forms import Many, Number, OneOf, OneOrNone, TextLine, read_form
from noema.web.frame.request import db, me

USUAL_SET = "split-six"


@dataclass(frozen=True, kw_only=True)
class AssignFields:
    """Every field of the form, as it stands."""

    what: tuple[Select, ...]
    options: OptionFields
    held: tuple[Select, ...]
    tolerances: tuple[Typed, ...]  # tolerances
    when: tuple[Select, ...]
    print_with: Ticks
    due_week: str
    medium_of: str  # the set whose medium stands here


class AssignForm(Form):
    """What is chosen beside a kind's own options."""

    kind = TextLine()
    level = OneOf(Level, N_("That level isn't on the list: choose it again."), usual=Level.BEGINNER)
    key = OneOrNone(Key, N_("That key isn't on the list: choose it again."))
    set = TextLine()
    medium = OneOrNone(Medium, N_("That medium isn't on the list: choose it again."))
    paper = OneOf(Paper, N_("That paper isn't on the list: choose A4 or Letter."), usual=Paper.A4)
    print = Many()
    hue = Number(name="tolerance-hue", what=N_("hue"))
    value = Number(name="tolerance-value", what=N_("value"))
    chroma = Number(name="tolerance-chroma", what=N_("chroma"))


def fields_of(form: Given, unit: Unit, usual_week: int) -> AssignFields:
    """Give the form as it stands; nothing in it is refused here."""
    given = read_form(AssignForm, form)
    kind, level = _kind(given), given.level.data
    table = hue_words(db(), me().school_id).table
    paints, set_ref = _paints(given, kind)
    chosen_key = _key(given, paints)
    due = form.get("due_week", str(usual_week))
    return AssignFields(
        what=(_kinds(kind), *_sets(paints, kind), _media(_medium_said(form, set_ref), paints)),
        options=fields_of_kind(kind, form, paints, table),
        held=(
            select("level", gettext("Level"), _levels(), level.value),
            select(
                "key",
                gettext("Held against"),
                ((key.value, KEY_WORDS[key]) for key in Key if paints or key is not Key.PAINTS),
                chosen_key.value,
            ),
        ),
        tolerances=_tolerances(form, usual_tolerance(kind.name, level)),
        when=(
            select("due_week", gettext("Due in week"), _weeks(unit), due),
            select("paper", "Paper", (("a4", "A4"), ("letter", "Letter")), form.get("paper", "a4")),
        ),
        print_with=_print_with(form, paints),
        due_week=due,
        medium_of=set_ref or "",
    )


def chosen_of(form: Given) -> Chosen:
    """Read what was chosen; what isn't given takes the usual choice."""
    given = read_form(AssignForm, form)
    kind, level = _kind(given), given.level.data
    paints, ref = _paints(given, kind)
    usual_medium = Medium(paints.binder.value) if paints else Medium.ACRYLIC
    medium = given.medium.data if _medium_said(form, ref) else None
    return Chosen(
        kind=kind.name,
        options=chosen_in(form, kind, paints, level),
        paints=paints,
        set_ref=ref,
        medium=medium or usual_medium,
        level=level,
        own_tolerance=_own_tolerance(given, usual_tolerance(kind.name, level)),
        key=_key(given, paints),
        paper=given.paper.data,
        grey_only="grey-only" in given.print.data,
        shows_parts="shows-parts" in given.print.data,
        own_tubes="own-tubes" in given.print.data,
        table=hue_words(db(), me().school_id).table,
    )


def form_of_assignment(row: AssignmentRow, sets: Sequence[str]) -> Given:
    """Give the form that would assign the same again; a set that is gone is left to choose."""
    pairs = form_of(options_from_json(kind_of(row.kind), row.options))
    pairs += [
        ("kind", row.kind),
        ("medium", row.medium.value),
        ("level", row.level.value),
        ("key", row.key.value),
        ("paper", row.paper.value),
    ]
    if row.set_ref in sets:
        pairs.append(("set", str(row.set_ref)))
    tolerances, usual = row.tolerance, usual_tolerance(row.kind, row.level)
    pairs += [
        (f"tolerance-{name}", f"{limit:g}")
        for name in ("hue", "value", "chroma")
        if (limit := getattr(tolerances, name)) is not None and limit != getattr(usual, name)
    ]
    printed = (
        ("grey-only", row.grey_only),
        ("shows-parts", row.shows_parts),
        ("own-tubes", row.own_tubes),
    )
    pairs += [("print", name) for name, chosen in printed if chosen]
    return MultiDict(pairs)


def set_refs() -> tuple[str, ...]:
    """Give the references of every set a teacher may choose."""
    return (*SETS, *(one.name for one in own_sets(db(), me().school_id)))


def _kind(given: AssignForm) -> AnyKind:
    return kind_of(given.kind.data or FIRST_KIND)


def _key(given: AssignForm, paints: PaintSet | None) -> Key:
    usual = Key.PAINTS if paints else Key.NAMED
    key: Key = given.key.data or usual
    return usual if key is Key.PAINTS else key


def _paints(given: AssignForm, kind: AnyKind) -> tuple[PaintSet | None, str | None]:
    """Give the set and its reference; some kinds can do without one."""
    ref = given.set.data
    if not ref and not kind.needs_paints:
        return None, None
    try:
        return paint_set(db(), me().school_id, ref or USUAL_SET), ref or USUAL_SET
    except NotFound:
        raise NotFound(
            gettext("There is no such paint set in your school: choose another.")
        ) from None


def _kinds(kind: AnyKind) -> Select:
    kinds = ((one.name, one.label) for one in KINDS.values())
    return select("kind", "Exercise", kinds, kind.name)


def _sets(paints: PaintSet | None, kind: AnyKind) -> tuple[Select]:
    none = (("", gettext("no set in particular")),) if not kind.needs_paints else ()
    own = ((one.name, one.label) for one in own_sets(db(), me().school_id))
    built_in = ((name, one.label) for name, one in SETS.items())
    sets = (*none, *own, *built_in)
    chosen = paints.name if paints else ""
    if paints and chosen not in dict(sets):  # one with black, as units have them
        sets = (*sets, (chosen, paints.label))
    return (select("set", gettext("Paints"), sets, chosen),)


def _medium_said(form: Given, set_ref: str | None) -> str:
    """Give the medium chosen for this set; one chosen for another set says nothing of it."""
    chosen_for = form.get("medium_of")
    is_stale = chosen_for is not None and chosen_for != (set_ref or "")
    return "" if is_stale else str(form.get("medium", ""))


def _media(said: str, paints: PaintSet | None) -> Select:
    usual = (
        (("", gettext("as the set: %(medium)s", medium=gettext(paints.binder.value))),)
        if paints
        else ()
    )
    media = ((m.value, m.value) for m in Medium if not (paints and m.is_dry))
    chosen = said if paints else said or Medium.ACRYLIC.value
    return select("medium", "Medium", (*usual, *media), chosen)


def _tolerances(form: Given, usual: Tolerance) -> tuple[Typed, ...]:
    return tuple(
        Typed(
            name=f"tolerance-{name}",
            label=gettext("%(name)s within", name=name.capitalize()),
            value=form.get(f"tolerance-{name}", ""),
            hint=written(limit),
        )
        for name in ("hue", "value", "chroma")
        if (limit := getattr(usual, name)) is not None
    )


def _own_tolerance(given: AssignForm, usual: Tolerance) -> Tolerance | None:
    typed = {
        name: given[name].data
        for name in ("hue", "value", "chroma")
        if getattr(usual, name) is not None and given[name].data is not None
    }
    return replace(usual, **typed) if typed else None


def _print_with(form: Given, paints: PaintSet | None) -> Ticks:
    parts = (
        ("shows-parts", gettext("the volumes beside each cell")),
        ("own-tubes", gettext("a row for your tubes as they come, so that Noema learns them")),
    )
    coloured = (("grey-only", gettext("for a black-and-white printer")), *parts) if paints else ()
    return ticks("print", "Print", coloured, form.getlist("print"))


def _weeks(unit: Unit) -> tuple[tuple[str, str], ...]:
    return tuple(
        (
            str(week),
            gettext("%(week)s, by %(day)s", week=week, day=short_day(unit.friday_of(week))),
        )
        for week in range(1, unit.weeks + 1)
    )


def _levels() -> Iterator[tuple[str, str]]:
    return ((one.value, one.value) for one in Level)
