"""What every page shows round its own matter: the stages of the work and what waits at each."""

from dataclasses import dataclass
from enum import Enum

from noema.core.language import N_, gettext
from noema.store.waiting import MOST_COUNTED, Waiting, waiting_for_teacher
from noema.web.frame.request import db, me
from noema.web.frame.rights import may


class Stage(Enum):
    """A stage of the work; the value is the endpoint of its page."""

    PLAN = "classes.plan"
    PRINT = "printing.overview"
    PHOTOGRAPH = "handing_in.photograph"
    REVIEW = "reviewing.queue"
    RETURN = "returning.overview"
    PROGRESS = "progress.overview"
    NONE = "today.home"

    @property
    def label(self) -> str:
        """Its name for people."""
        return gettext(_LABELS[self])


_LABELS = {
    Stage.PLAN: N_("Plan"),
    Stage.PRINT: N_("Print"),
    Stage.PHOTOGRAPH: N_("Photograph"),
    Stage.REVIEW: N_("Review"),
    Stage.RETURN: N_("Return"),
    Stage.PROGRESS: N_("Progress"),
    Stage.NONE: N_("Today"),
}


@dataclass(frozen=True, kw_only=True)
class StageLink:
    """One step of the navigation."""

    stage: Stage
    current: bool
    waits: str  # what waits there, in words; empty when nothing does


@dataclass(frozen=True, kw_only=True)
class Frame:
    """Round every page of a logged-in teacher."""

    teacher: str
    school: str
    current: Stage
    waiting: Waiting
    stages: tuple[StageLink, ...]


def frame(current: Stage) -> Frame:
    """Make the frame of a page."""
    waiting = waiting_for_teacher(db(), me().school_id)
    said = waits_by_stage(waiting)
    return Frame(
        teacher=me().display_name,
        school=me().school_name,
        current=current,
        waiting=waiting,
        stages=tuple(
            StageLink(stage=stage, current=stage is current, waits=said.get(stage, ""))
            for stage in Stage
            if stage is not Stage.NONE and may(stage.value)
        ),
    )


def counted(count: int) -> str:
    """Say how many wait; beyond what is counted: so many and more."""
    return f"{MOST_COUNTED}+" if count > MOST_COUNTED else str(count)


def waits_by_stage(waiting: Waiting) -> dict[Stage, str]:
    """Say what waits at each stage."""
    tray = waiting.reading + waiting.in_tray
    return {
        Stage.PRINT: gettext("%(to_print)s to print", to_print=counted(waiting.to_print))
        if waiting.to_print
        else "",
        Stage.PHOTOGRAPH: gettext("%(tray)s in hand", tray=counted(tray)) if tray else "",
        Stage.REVIEW: gettext("%(to_review)s to look at", to_review=counted(waiting.to_review))
        if waiting.to_review
        else "",
        Stage.RETURN: gettext("%(to_return)s to hand back", to_return=counted(waiting.to_return))
        if waiting.to_return
        else "",
    }
