"""What a kind of exercise lets a teacher choose: as fields of a form, and read back from one."""

import re
from dataclasses import dataclass

from werkzeug.datastructures import MultiDict

from noema.core.colour.names import HueTable
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Lab, Wanted
from noema.core.exercises.kind import Kind
from noema.core.exercises.kinds.colour_wheel import RINGS
from noema.core.exercises.kinds.families import FEWEST_TARGETS, MOST_TARGETS
from noema.core.exercises.kinds.intensity_chart import USUAL_PAIRS
from noema.core.exercises.levels import Level
from noema.core.exercises.value_scale import KIND as VALUE_SCALE
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Role
from noema.formats.measurements import samples_from_text
from noema.formats.mix_text import mix_from_text
from noema.web.exercises.fields import Select, Ticks, Typed, select, ticks

Form = MultiDict[str, str]

_USUAL = ("", "usual")
_RING_WORDS = {
    "tint-in": "tints inside",
    "tint-out": "tints outside",
    "shade": "shades",
    "grey": "greys of each value",
    **{f"neutral-{n}": f"greyed, {n} of 4" for n in range(1, 5)},
}
_FLAGS = {
    "tints": "a tint under every mix",
    "sides": "the neutral from either side",
    "full": "both halves of the grid",
    "anticlockwise": "anticlockwise from yellow",
}
_MOST_TEXT = 4000
_HEADER = re.compile(r"CGATS|L\W|LAB_L|name\W", re.IGNORECASE)


@dataclass(frozen=True, kw_only=True)
class Options:
    """The fields of one kind, holding what was chosen so far."""

    selects: tuple[Select, ...]
    ticks: tuple[Ticks, ...]
    typed: tuple[Typed, ...]


def options_of(kind: Kind, form: Form, paints: PaintSet | None, table: HueTable) -> Options:
    """Give a kind's fields as the form has them; what makes no sense stays as it was typed."""
    takes = kind.takes
    selects = []
    if "steps" in takes:
        steps = ((str(n), str(n)) for n in kind.steps)
        selects.append(select("steps", "Steps", (_USUAL, *steps), form.get("steps", "")))
    if "hues" in takes:
        hues = ((str(n), str(n)) for n in (6, 12, 24))
        selects.append(select("hues", "Hues", (_USUAL, *hues), form.get("hues", "")))
    if "primaries" in takes:
        kinds = (("3", "three"), ("6", "split: a warm and a cool of each"))
        chosen = form.get("primaries", "3")
        selects.append(select("primaries", "Primaries", kinds, chosen))
    if "count" in takes:
        counts = ((str(n), str(n)) for n in range(FEWEST_TARGETS, MOST_TARGETS + 1))
        selects.append(select("count", "Colours", (_USUAL, *counts), form.get("count", "")))
    if "hue" in takes:
        selects.append(_hue(kind, form, paints, table))
    return Options(
        selects=tuple(selects), ticks=tuple(_ticks(kind, form, paints)), typed=_typed(kind, form)
    )


def _hue(kind: Kind, form: Form, paints: PaintSet | None, table: HueTable) -> Select:
    own = tuple((tube.name, tube.label) for tube in (paints.colours if paints else ()))
    if kind.name == VALUE_SCALE:
        named = tuple((hue.name, hue.name) for hue in table.hues(6)) if paints else ()
        choices, label = (("", "neutral"), *named, *own), "Of"
    else:
        choices, label = (("", "a pair and white"), *own), "One tube towards all"
    return select("hue", label, choices, form.get("hue", ""))


def _ticks(kind: Kind, form: Form, paints: PaintSet | None) -> list[Ticks]:
    found = []
    if "rings" in kind.takes:
        rings = ((ring, _RING_WORDS[ring]) for ring in RINGS)
        found.append(ticks("ring", "Rings", rings, form.getlist("ring")))
    if "tubes" in kind.takes and paints:
        tubes = ((t.name, t.label) for t in paints.tubes if t.role is not Role.WHITE)
        found.append(ticks("tube", "Tubes (none ticked: the usual)", tubes, form.getlist("tube")))
    flags = [(name, label) for name, label in _FLAGS.items() if name in kind.takes]
    if flags:
        found.append(ticks("with", "With", flags, form.getlist("with")))
    return found


def _typed(kind: Kind, form: Form) -> tuple[Typed, ...]:
    found = []
    if "pairs" in kind.takes:
        usual = ", ".join(USUAL_PAIRS)
        found.append(Typed(name="pairs", label="Pairs", value=form.get("pairs", ""), hint=usual))
    if "targets" in kind.takes:
        found.append(
            Typed(
                name="targets",
                label="Colours to match, a line each: L, a, b or a mix "
                "(left empty: picked by level)",
                value=form.get("targets", ""),
                hint="62.0, 28.5, 51.0\nwarm-yellow:4, ultramarine:1",
                lines=4,
                takes_file=True,
            )
        )
    return tuple(found)


def wanted_of(form: Form, kind: Kind, paints: PaintSet | None, level: Level) -> Wanted:
    """Read what was chosen of a kind; what belongs to another kind is passed over."""
    takes = kind.takes
    known = {tube.name for tube in paints.tubes} if paints else set()
    flags = {name: name in takes and name in form.getlist("with") for name in _FLAGS}
    # A tube stays ticked when another set is chosen; what the new set lacks is passed over.
    tubes = tuple(name for name in form.getlist("tube") if name in known)
    targets = _targets(form.get("targets", ""), paints) if "targets" in takes else ()
    return Wanted(
        steps=_number(form, takes, "steps"),
        hues=_number(form, takes, "hues"),
        primaries=_number(form, takes, "primaries"),
        count=_number(form, takes, "count"),
        hue=(form.get("hue") or None) if "hue" in takes else None,
        rings=tuple(form.getlist("ring")) if "rings" in takes else (),
        tubes=tubes if "tubes" in takes else (),
        pairs=_names(form.get("pairs", "")) if "pairs" in takes else (),
        targets=targets,
        level=level if "level" in takes and not targets else None,
        **flags,
    )


def form_of(wanted: Wanted) -> list[tuple[str, str]]:
    """Give the fields that would choose the same."""
    numbers = ("steps", "hues", "primaries", "count", "hue")
    pairs = [(name, str(getattr(wanted, name))) for name in numbers if getattr(wanted, name)]
    pairs += [("ring", ring) for ring in wanted.rings]
    pairs += [("tube", tube) for tube in wanted.tubes]
    pairs += [("with", name) for name in _FLAGS if getattr(wanted, name)]
    pairs.append(("pairs", ", ".join(wanted.pairs)))
    lines = (", ".join(f"{number:.2f}" for number in lab) for lab in wanted.targets)
    pairs.append(("targets", "\n".join(lines)))
    return pairs


def _number(form: Form, takes: frozenset[str], name: str) -> int | None:
    text = form.get(name, "").strip()
    if name not in takes or not text:
        return None
    if not text.isdigit() or len(text) > 4:
        raise BadExercise(f"{name.capitalize()}: “{text[:20]}” is not a whole number.")
    return int(text)


def _names(text: str) -> tuple[str, ...]:
    return tuple(name.strip() for name in text[:400].split(",") if name.strip())


def _targets(text: str, paints: PaintSet | None) -> tuple[Lab, ...]:
    """Read a colour a line, three numbers or a mix of the set's tubes; or a whole file of Lab."""
    if len(text) > _MOST_TEXT:
        raise BadExercise(f"A list of colours has at most {_MOST_TEXT} characters: shorten it.")
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if lines and _HEADER.match(lines[0]):
        return tuple(sample.lab for sample in samples_from_text(text))
    return tuple(_target(line, paints) for line in lines)


def _target(line: str, paints: PaintSet | None) -> Lab:
    if line[0].isdigit() or line[0] in "-.":
        return samples_from_text(f"L,a,b\n{line}")[0].lab
    if paints is None:
        raise BadExercise("Choose a set of paints: a mix is made of its tubes.")
    lightness, a, b = lab_of_parts(mix_from_text(line, paints), paints.binder.dry)
    return (lightness, a, b)
