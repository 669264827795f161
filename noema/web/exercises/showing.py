"""An exercise shown before anybody paints it: its colours, its plot, what it takes."""

from dataclasses import dataclass

from noema.core.colour.names import HueTable
from noema.core.exercises.asked import Arrangement, Asked, Concern
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.media import Medium, cautions
from noema.core.exercises.naming import cell_names
from noema.core.exercises.piles import say_mixes
from noema.core.language import gettext
from noema.core.pigments.cautions import cautions_of
from noema.core.pigments.shelf import PaintSet
from noema.core.planning.time_needed import time_needed
from noema.core.sheet.paper import Paper
from noema.web.drawings.asked_plot import AskedPlot, make_asked_plot
from noema.web.drawings.asked_sheet import AskedSheet, make_asked_sheet


@dataclass(frozen=True, kw_only=True)
class CellMix:
    """A cell in words."""

    label: str
    parts: str
    note: str
    limit: str


@dataclass(frozen=True, kw_only=True)
class Shown:
    """An exercise on screen."""

    title: str
    says: str  # what the kind teaches
    sheet: AskedSheet
    plot: AskedPlot
    wheel: bool
    concerns: tuple[Concern, ...]
    how_to: tuple[str, ...]
    mixes: tuple[CellMix, ...]
    time: str
    cautions: tuple[str, ...]
    key_url: str  # of the key sheet for the same choices; empty where there is none


def show(
    asked: Asked,
    paints: PaintSet | None,
    medium: Medium,
    paper: Paper,
    table: HueTable,
    key_url: str,
    *,
    to_student: bool = False,
) -> Shown:
    """Lay everything out; refuses what doesn't fit the paper."""
    kind, mixes, names = kind_of(asked.kind), say_mixes(asked), cell_names(asked)
    return Shown(
        title=asked.title,
        says=gettext(kind.says),
        sheet=make_asked_sheet(asked, paper),
        plot=make_asked_plot(asked, kind.plot, table),
        wheel=asked.arrangement is Arrangement.WHEEL,
        concerns=asked.concerns,
        how_to=asked.how_to,
        mixes=tuple(
            CellMix(
                label=names[cell.id],
                parts=mixes[cell.id],
                note=cell.note,
                limit=cell.limit,
            )
            for cell in asked.cells
            if cell.id in mixes
        ),
        time=time_needed(asked, medium).said,
        cautions=cautions_of(paints.tubes, paints.binder, to_student=to_student)
        if paints
        else cautions(medium, to_student=to_student),
        key_url=key_url,
    )
