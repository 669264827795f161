"""A school's paint sets, its own tubes and its words for hues."""

from dataclasses import dataclass
from typing import cast

import numpy as np
from sqlalchemy import delete, select, update
from sqlalchemy.orm import Session

from noema.core.colour.names import USUAL_HUES, HueTable, WarmBlue, hue_table_of
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.pigments.drying import Binder
from noema.core.pigments.fit import FittedTube, Swatch, bent_tube
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import (
    TUBES,
    PaintSet,
    builtin_set,
    builtin_tube,
    is_builtin_set,
)
from noema.core.pigments.tube import Tube
from noema.store.base import Json
from noema.store.paint_tables import OwnTubeRow, PaintSetRow
from noema.store.tables import School


@dataclass(frozen=True, kw_only=True)
class HueWords:
    """How a school names hues."""

    table: HueTable
    warm_blue: WarmBlue


@dataclass(frozen=True, kw_only=True)
class OwnTube:
    """A tube of the school's own and where it came from."""

    fitted: FittedTube
    swatches: tuple[Swatch, ...]


def hue_words(session: Session, school_id: int) -> HueWords:
    """Which hue has which name in this school, and which blue is warm?"""
    names, warm = session.execute(
        select(School.hue_names, School.warm_blue).where(School.id == school_id)
    ).one()
    return HueWords(table=hue_table_from(names), warm_blue=WarmBlue(warm))


def hue_table_from(names: Json | None) -> HueTable:
    """Give the table a school's row holds; nothing is the usual one."""
    return USUAL_HUES if names is None else hue_table_of(cast(dict[str, float], names))


def set_hue_words(session: Session, school_id: int, words: HueWords) -> None:
    """Name hues anew."""
    names = {hue.name: hue.hue100 for hue in words.table.twelve}
    session.execute(
        update(School)
        .where(School.id == school_id)
        .values(
            hue_names=None if words.table == USUAL_HUES else names, warm_blue=words.warm_blue.value
        )
    )


def own_tubes(session: Session, school_id: int) -> dict[str, OwnTube]:
    """Which tubes has the school swatched itself, by name?"""
    rows = session.scalars(
        select(OwnTubeRow).where(OwnTubeRow.school_id == school_id).order_by(OwnTubeRow.label)
    )
    return {row.name: _own_tube(row) for row in rows}


def own_tube(session: Session, school_id: int, name: str) -> OwnTube:
    """Which of the school's own tubes is this?"""
    row = session.scalar(
        select(OwnTubeRow).where(OwnTubeRow.school_id == school_id, OwnTubeRow.name == name)
    )
    if row is None:
        raise NotFound(gettext("There is no such tube in your school."))
    return _own_tube(row)


def add_own_tube(
    session: Session, school_id: int, fitted: FittedTube, swatches: tuple[Swatch, ...]
) -> None:
    """Keep a fitted tube."""
    tube = fitted.tube
    session.add(
        OwnTubeRow(
            school_id=school_id,
            name=tube.name,
            label=tube.label,
            base=fitted.base,
            absorption=tube.absorption.tolist(),
            scattering=tube.scattering.tolist(),
            swatches=[_swatch_to_json(swatch) for swatch in swatches],
            misses=list(fitted.misses),
        )
    )
    session.flush()


def drop_own_tube(session: Session, school_id: int, name: str) -> None:
    """Take an own tube away."""
    session.execute(
        delete(OwnTubeRow).where(OwnTubeRow.school_id == school_id, OwnTubeRow.name == name)
    )


def all_tubes(session: Session, school_id: int) -> dict[str, Tube]:
    """Which tubes can the school's sets hold: every built-in one and its own?"""
    return {
        **TUBES,
        **{name: own.fitted.tube for name, own in own_tubes(session, school_id).items()},
    }


def own_sets(session: Session, school_id: int) -> tuple[PaintSet, ...]:
    """Which sets has the school put together, by name?"""
    rows = session.scalars(
        select(PaintSetRow).where(PaintSetRow.school_id == school_id).order_by(PaintSetRow.name)
    ).all()
    tubes = all_tubes(session, school_id) if rows else {}
    return tuple(_paint_set(row, tubes) for row in rows)


def paint_set(session: Session, school_id: int, ref: str) -> PaintSet:
    """Which set is this: a built-in one by name, or one of the school's by number?"""
    if is_builtin_set(ref):
        return builtin_set(ref)
    row = _set_row(session, school_id, ref)
    return _paint_set(row, all_tubes(session, school_id))


def set_name_taken(session: Session, school_id: int, name: str, but: str | None) -> bool:
    """Has another of the school's sets this name?"""
    found = session.scalar(
        select(PaintSetRow.id).where(PaintSetRow.school_id == school_id, PaintSetRow.name == name)
    )
    return found is not None and str(found) != but


def add_paint_set(
    session: Session, school_id: int, name: str, binder: Binder, tubes: tuple[str, ...]
) -> str:
    """Keep a new set and give its reference."""
    row = PaintSetRow(school_id=school_id, name=name, binder=binder.value, tubes=list(tubes))
    session.add(row)
    session.flush()
    return str(row.id)


def change_paint_set(
    session: Session, school_id: int, ref: str, name: str, binder: Binder, tubes: tuple[str, ...]
) -> None:
    """Change one of the school's sets."""
    row = _set_row(session, school_id, ref)
    row.name, row.binder, row.tubes = name, binder.value, list(tubes)
    session.flush()


def drop_paint_set(session: Session, school_id: int, ref: str) -> None:
    """Take one of the school's sets away."""
    session.delete(_set_row(session, school_id, ref))
    session.flush()


def _set_row(session: Session, school_id: int, ref: str) -> PaintSetRow:
    row = None
    if ref.isdigit() and len(ref) < 10:
        row = session.scalar(
            select(PaintSetRow).where(
                PaintSetRow.school_id == school_id, PaintSetRow.id == int(ref)
            )
        )
    if row is None:
        raise NotFound(gettext("There is no such paint set in your school."))
    return row


def _paint_set(row: PaintSetRow, tubes: dict[str, Tube]) -> PaintSet:
    return PaintSet(
        name=str(row.id),
        label=row.name,
        says="",
        tubes=tuple(tubes[name] for name in row.tubes),
        binder=Binder(row.binder),
    )


def _own_tube(row: OwnTubeRow) -> OwnTube:
    curves = np.array(row.absorption), np.array(row.scattering)
    tube = bent_tube(builtin_tube(row.base), row.name, row.label, *curves, len(row.swatches))
    return OwnTube(
        fitted=FittedTube(tube=tube, base=row.base, misses=tuple(row.misses)),
        swatches=tuple(_swatch(entry) for entry in row.swatches),
    )


def _swatch_to_json(swatch: Swatch) -> Json:
    return {
        "label": swatch.label,
        "mixed_with": {part.tube.name: part.amount for part in swatch.mixed_with},
        "lab": list(swatch.lab),
    }


def _swatch(entry: Json) -> Swatch:
    mixed = cast(dict[str, float], entry["mixed_with"])
    lightness, a, b = cast(list[float], entry["lab"])
    return Swatch(
        label=str(entry["label"]),
        mixed_with=tuple(Part(tube=builtin_tube(n), amount=v) for n, v in mixed.items()),
        lab=(lightness, a, b),
    )
