"""A paint set as a file, format noema-set/1: names of built-in tubes, and tubes of one's own.

An own tube carries its curves, or only its base and its measured swatches, and is then fitted.
"""

import re
from collections.abc import Sequence
from typing import Any

import numpy as np
import orjson

from noema.core.errors import BadFile, BadPaint
from noema.core.language import gettext
from noema.core.pigments.drying import Binder
from noema.core.pigments.fit import Swatch, fit_tube
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import TUBES, PaintSet, builtin_tube
from noema.core.pigments.tube import Role, Tube

FORMAT = "noema-set/1"
_SLUG = re.compile(r"[a-z0-9]+(-[a-z0-9]+)*")


def set_from_json(content: bytes) -> PaintSet:
    """Read a set; refuses what isn't one, by line and column where the JSON itself is broken."""
    try:
        body = orjson.loads(content)
    except orjson.JSONDecodeError as wrong:
        raise BadFile(
            gettext(
                "line %(lineno)s, column %(colno)s: %(msg)s",
                lineno=wrong.lineno,
                colno=wrong.colno,
                msg=wrong.msg,
            )
        ) from wrong
    return set_of_body(body)


def set_of_body(body: object) -> PaintSet:
    """Read a set from plain values."""
    if not isinstance(body, dict) or body.get("format") != FORMAT:
        raise BadFile(
            gettext("This isn't a paint set: its format should say “%(format)s”.", format=FORMAT)
        )
    tubes = body.get("tubes")
    if not isinstance(tubes, list):
        raise BadFile(gettext("The set has no list of tubes: add “tubes” with their names."))
    name = str(body.get("name", "own set"))
    return PaintSet(
        name=name,
        label=str(body.get("label", name)),
        says=str(body.get("says", "")),
        tubes=tuple(_tube(entry, place) for place, entry in enumerate(tubes, start=1)),
        binder=_binder(body.get("medium", Binder.ACRYLIC.value)),
    )


def set_to_json(paints: PaintSet) -> bytes:
    """Write a set; own tubes with their curves."""
    return orjson.dumps(set_to_body(paints), option=orjson.OPT_INDENT_2)


def set_to_body(paints: PaintSet) -> dict[str, object]:
    """Give a set as plain values."""
    return {
        "format": FORMAT,
        "name": paints.name,
        "label": paints.label,
        "says": paints.says,
        "medium": paints.binder.value,
        "tubes": [tube.name if tube.name in TUBES else tube_to_json(tube) for tube in paints.tubes],
    }


def tube_to_json(tube: Tube) -> dict[str, object]:
    """Write a tube's curves: K and S at 400, 410 .. 700 nm, white's S at 560 nm being 1."""
    return {
        "name": tube.name,
        "label": tube.label,
        "pigments": list(tube.pigments),
        "basis": tube.basis,
        "metal": tube.metal,
        "role": tube.role.value,
        "absorption": [float(f"{k:.6g}") for k in tube.absorption],
        "scattering": [float(f"{s:.6g}") for s in tube.scattering],
    }


def tube_from_json(entry: dict[str, Any]) -> Tube:
    """Read a tube with its curves."""
    return Tube(
        name=_slug(entry),
        label=str(entry.get("label", entry["name"]))[:60],
        pigments=tuple(str(code) for code in entry.get("pigments", ())),
        absorption=_curve(entry, "absorption"),
        scattering=_curve(entry, "scattering"),
        basis=str(entry.get("basis", "")),
        role=Role(entry.get("role", Role.COLOUR.value)),
        metal=None if entry.get("metal") is None else str(entry["metal"]),
    )


def _swatches(entries: Sequence[dict[str, Any]]) -> tuple[Swatch, ...]:
    return tuple(
        Swatch(
            label=str(entry.get("label", f"swatch {place}")),
            mixed_with=tuple(
                Part(tube=builtin_tube(name), amount=float(amount))
                for name, amount in entry.get("mixed_with", {}).items()
            ),
            lab=_three(entry.get("lab"), place),
        )
        for place, entry in enumerate(entries, start=1)
    )


def _tube(entry: object, place: int) -> Tube:
    if isinstance(entry, str):
        return builtin_tube(entry)
    if not isinstance(entry, dict) or "name" not in entry:
        raise BadFile(
            gettext(
                "Tube %(place)s of the set has no name: give a built-in name, or its curves.",
                place=place,
            )
        )
    try:
        if "absorption" in entry:
            return tube_from_json(entry)
        fitted = fit_tube(
            builtin_tube(str(entry.get("base", ""))),
            _swatches(entry.get("swatches", ())),
            name=_slug(entry),
            label=str(entry.get("label", entry["name"])),
        )
    except (KeyError, TypeError, ValueError, AttributeError) as wrong:
        raise BadFile(
            gettext("Tube %(place)s of the set can't be read: see docs/formats.md.", place=place)
        ) from wrong
    return fitted.tube


def _slug(entry: dict[str, Any]) -> str:
    name = str(entry["name"])
    if not _SLUG.fullmatch(name) or len(name) > 60:
        raise BadPaint(
            gettext(
                "“%(name)s” can't be a tube's name: use small letters, digits and hyphens.",
                name=name,
            )
        )
    if name in TUBES:
        raise BadPaint(
            gettext("“%(name)s” is a built-in tube: give your own another name.", name=name)
        )
    return name


def _curve(entry: dict[str, Any], key: str) -> np.ndarray:
    return np.array(entry[key], dtype=float)


def _three(lab: object, place: int) -> tuple[float, float, float]:
    if not isinstance(lab, list) or len(lab) != 3:
        raise BadFile(gettext("Swatch %(place)s has no “lab” of three numbers.", place=place))
    return float(lab[0]), float(lab[1]), float(lab[2])


def _binder(name: object) -> Binder:
    try:
        return Binder(name)
    except ValueError as wrong:
        kinds = ", ".join(binder.value for binder in Binder)
        raise BadFile(
            gettext(
                "The medium “%(name)s” isn't known: choose one of %(kinds)s.",
                name=name,
                kinds=kinds,
            )
        ) from wrong
