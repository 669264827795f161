"""The built-in tubes and paint sets."""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from noema.core.errors import BadPaint
from noema.core.language import Term, gettext
from noema.core.pigments.curves import CurveShape, absorption_of, rows_of_three, scattering_of
from noema.core.pigments.drying import Binder
from noema.core.pigments.tube import Role, Tube

_DATA = Path(__file__).parent / "data"
WHITE, BLACK = "titanium-white", "ivory-black"
MOST_TUBES = 24  # that a set may hold
PLUS_BLACK = "+black"


@dataclass(frozen=True, kw_only=True)
class PaintSet:
    """The tubes a class paints with."""

    name: str  # as contracts write it, or the school's own
    label: str
    says: str  # one sentence
    tubes: tuple[Tube, ...]
    binder: Binder = Binder.ACRYLIC

    def __post_init__(self) -> None:
        names = [tube.name for tube in self.tubes]
        if not 1 <= len(names) <= MOST_TUBES and self.name != "all":
            raise BadPaint(
                gettext(
                    "A paint set holds 1 to %(most_tubes)s tubes, not %(count)s.",
                    most_tubes=MOST_TUBES,
                    count=len(names),
                )
            )
        if len(set(names)) != len(names):
            raise BadPaint(
                gettext(
                    "The set %(label)s names a tube twice: take one of them out.", label=self.label
                )
            )

    def tube(self, name: str) -> Tube:
        """Find a tube of the set by its name; `white` and `black` stand for the set's own."""
        for tube in self.tubes:
            if tube.name == name or tube.role.value == name:
                return tube
        raise BadPaint(
            gettext(
                "There is no “%(name)s” in the set %(name2)s: it holds %(name3)s.",
                name=name,
                name2=self.name,
                name3=", ".join(tube.name for tube in self.tubes),
            )
        )

    @property
    def white(self) -> Tube | None:
        """The set's white, if it has one."""
        return next((tube for tube in self.tubes if tube.role is Role.WHITE), None)

    @property
    def colours(self) -> tuple[Tube, ...]:
        """The tubes that are neither white nor black."""
        return tuple(tube for tube in self.tubes if tube.role is Role.COLOUR)


def builtin_tube(name: str) -> Tube:
    """Find a built-in tube by its name."""
    if name not in TUBES:
        raise BadPaint(
            gettext(
                "There is no built-in tube “%(name)s”: see 'noema mix --list' for all.", name=name
            )
        )
    return TUBES[name]


def is_builtin_set(name: str) -> bool:
    """Say whether a name is that of a built-in set."""
    return name == "all" or name.removesuffix(PLUS_BLACK) in SETS


def builtin_set(name: str) -> PaintSet:
    """Find a built-in set: a name, NAME+black, or all.

    >>> [tube.name for tube in builtin_set("three-printers+black").tubes]
    ['lemon-yellow', 'magenta', 'cyan', 'titanium-white', 'ivory-black']
    """
    if name == "all":
        everything = tuple(TUBES.values())
        return PaintSet(
            name=name, label=gettext("All tubes"), says=gettext("Every tube."), tubes=everything
        )
    plain = name.removesuffix(PLUS_BLACK)
    if plain not in SETS:
        raise BadPaint(
            gettext(
                "There is no paint set “%(name)s”: choose %(sets)s or all.",
                name=name,
                sets=", ".join(SETS),
            )
        )
    if plain == name:
        return SETS[plain]
    base = SETS[plain]
    return PaintSet(
        name=name,
        label=gettext("%(label)s and black", label=base.label),
        says=base.says,
        tubes=(*base.tubes, TUBES[BLACK]),
    )


def _role(name: str) -> Role:
    return {WHITE: Role.WHITE, BLACK: Role.BLACK}.get(name, Role.COLOUR)


def _shape(entry: Mapping[str, Any]) -> CurveShape:
    return CurveShape(
        edges=rows_of_three(entry.get("edges", ())),
        bands=rows_of_three(entry.get("bands", ())),
        blocks=tuple((a, b, c, d, e) for a, b, c, d, e in entry.get("blocks", ())),
        haze=float(entry["haze"]),
        scatter=float(entry["scatter"]),
        tilt=float(entry["tilt"]),
    )


def _tube(name: str, entry: Mapping[str, Any], made: Mapping[str, Tube]) -> Tube:
    if "blend" in entry:
        parts = entry["blend"]
        whole = sum(parts.values())
        absorption = sum(made[part].absorption * (share / whole) for part, share in parts.items())
        scattering = sum(made[part].scattering * (share / whole) for part, share in parts.items())
    else:
        absorption, scattering = absorption_of(_shape(entry)), scattering_of(_shape(entry))
    return Tube(
        name=name,
        label=Term(entry["label"]),
        pigments=tuple(entry["pigments"]),
        absorption=absorption,
        scattering=scattering,
        basis=entry["basis"],
        role=_role(name),
        metal=entry.get("metal"),
    )


def _read(file: str) -> dict[str, dict[str, Any]]:
    return tomllib.loads((_DATA / file).read_text(encoding="utf-8"))


def _load_tubes() -> dict[str, Tube]:
    entries = _read("tubes.toml")
    made: dict[str, Tube] = {}
    for name in sorted(entries, key=lambda name: "blend" in entries[name]):
        made[name] = _tube(name, entries[name], made)
    return {name: made[name] for name, entry in entries.items() if not entry.get("part")}


def _load_sets(tubes: Mapping[str, Tube]) -> dict[str, PaintSet]:
    return {
        name: PaintSet(
            name=name,
            label=Term(entry["label"]),
            says=Term(entry["says"]),
            tubes=tuple(tubes[tube] for tube in entry["tubes"]),
        )
        for name, entry in _read("sets.toml").items()
    }


TUBES = _load_tubes()
SETS = _load_sets(TUBES)
