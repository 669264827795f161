"""What the bench shows: the palette, what is asked, what may be done, what was asked for."""

from collections.abc import Mapping
from dataclasses import dataclass

from noema.actions.practise import practice_from
from noema.core.bench.asking import allowed_tubes, furthest, hint, nearer
from noema.core.bench.making import shown_with_white
from noema.core.bench.palette import Palette, Pile
from noema.core.bench.practice import Practice, parts_in
from noema.core.bench.practised import practised
from noema.core.bench.predicting import STAYS, SaidChroma, SaidValue, share_foreseen
from noema.core.bench.says import (
    DOSES_ML,
    TaskWords,
    dose_words,
    ended_words,
    furthest_words,
    hint_words,
    step_words,
    task_words,
)
from noema.core.bench.seen import PileColour, colours_of
from noema.core.bench.task import TaskKind
from noema.core.colour.hvc import HVC, hvc_of
from noema.core.colour.names import HueTable, colour_words
from noema.core.colour.srgb import lab_to_hex
from noema.core.language import N_, gettext, written
from noema.formats.bench_task_json import foreseen_from_json
from noema.store.bench import KeptPractice
from noema.web.bench.acting import AtHand, BenchLook, Do, places
from noema.web.drawings.palette import DrawnPalette, draw_palette, fills_of
from noema.web.frame.page import Frame

_LOOKS = {
    BenchLook.PLAIN: N_("As it is"),
    BenchLook.GREYSCALE: N_("Greyscale"),
    BenchLook.SQUINT: N_("Squint"),
}
_DOSE_KEYS = ("g", "t", "p", "h")


@dataclass(frozen=True, kw_only=True)
class Source:
    """Something paint can be taken from."""

    name: str
    label: str
    fill: str
    key: str
    there: str  # how much, in words


@dataclass(frozen=True, kw_only=True)
class PlaybackStep:
    """One step of a practised hand."""

    words: str
    fill: str  # of the pile afterwards, dry
    pile: str


@dataclass(frozen=True, kw_only=True)
class BenchPage:
    """One go at the bench."""

    frame: Frame | None
    name: str  # of the student; empty for a teacher
    here: str  # address of this page
    back: str  # and of the list it came from
    id: int
    words: TaskWords
    drawn: DrawnPalette
    sources: tuple[Source, ...]
    doses: tuple[tuple[float, str, str], ...]  # ml, words, key
    places: tuple[str, ...]
    at: AtHand
    target_fill: str  # what is asked for; empty where it isn't shown
    pile_fill: str  # beside it, once something is there
    drying: str  # what becomes of a wet pile beside a dry colour
    numbers: tuple[str, ...]  # asked for: a line a pile
    looks: tuple[tuple[BenchLook, str], ...]
    answer: str  # to what was asked, or how it came
    is_free: bool
    acts: int
    is_over: bool
    may_work: bool
    ended: tuple[str, ...]
    playback: tuple[PlaybackStep, ...]
    values: tuple[SaidValue, ...] = tuple(SaidValue)
    chromas: tuple[SaidChroma, ...] = tuple(SaidChroma)
    hues: tuple[str, ...] = ()
    stays: str = STAYS


@dataclass(frozen=True, kw_only=True)
class Around:
    """Whose page it is, and where."""

    frame: Frame | None
    name: str
    here: str
    back: str
    may_work: bool = True  # who looks is who began it
    names_colours: bool = False  # beside them, whether asked for or not


def bench_page(
    kept: KeptPractice, at: AtHand, around: Around, table: HueTable, answer: str = ""
) -> BenchPage:
    """Collect what one go shows."""
    practice = practice_from(kept)
    palette, bench = practice.palette, practice.bench
    colours, fills = colours_of(palette, bench.paints), fills_of(bench)
    goal, colour = practice.task.goal_of(at.pile), colours.get(at.pile)
    shows = practice.task.shows and goal is not None
    is_over = kept.ended_at is not None
    pile = palette.piles.get(at.pile)
    return BenchPage(
        frame=around.frame,
        name=around.name,
        here=around.here,
        back=around.back,
        id=kept.id,
        words=task_words(practice.task),
        drawn=draw_palette(
            palette, bench, _usable(practice, fills), _smears(practice) if at.smear else {}
        ),
        sources=_sources(practice, fills, colours),
        doses=tuple(
            (ml, dose_words(ml), key) for ml, key in zip(DOSES_ML, _DOSE_KEYS, strict=True)
        ),
        places=places(practice),
        at=at,
        target_fill=lab_to_hex([goal.lab])[0] if shows and goal is not None else "",
        pile_fill="" if colour is None else _fill(colour, pile),
        drying=_drying(practice, pile) if shows else "",
        numbers=_numbers(practice, colours, table) if at.numbers or around.names_colours else (),
        looks=tuple((look, gettext(words)) for look, words in _LOOKS.items()),
        answer=answer,
        is_free=practice.task.kind is TaskKind.FREE,
        acts=len(practice.acts),
        is_over=is_over,
        may_work=around.may_work and not is_over,
        ended=_ended(practice, kept) if is_over else (),
        playback=_playback(practice) if is_over else (),
        hues=tuple(hue.name for hue in table.hues(6)),
    )


def answer_to(asked: Do, practice: Practice, pile: str, table: HueTable) -> str:
    """Answer what was asked of a pile, and no more."""
    goal = practice.task.goal_of(pile)
    if goal is None:
        return gettext("Nothing is asked of this pile: choose one that is.")
    if asked is Do.NEARER:
        return gettext(nearer(practice, goal).value)
    lab = practice.lab_for(goal)
    if lab is None:
        return gettext("There is nothing in this pile yet.")
    if asked is Do.WHICH:
        found = furthest(goal, lab, table)
        return gettext("It is there.") if found is None else furthest_words(found)
    move = hint(practice, goal)
    assert move is not None
    return hint_words(move, practice.palette.pile(pile).ml)


def _said(hvc: HVC, table: HueTable) -> str:
    """Say a colour in words and numbers."""
    return gettext(
        "%(words)s: %(notation)s %(numbers)s",
        words=colour_words(hvc, table),
        notation=hvc.notation,
        numbers=f"{hvc.value:.1f}/{hvc.chroma:.1f}",
    )


def _drying(practice: Practice, pile: Pile | None) -> str:
    """Say why a wet pile doesn't match yet; empty for a dry one, or where nothing is there."""
    if pile is None or pile.is_dry or pile.ml <= 0.0:
        return ""
    return gettext(
        "%(drying)s The colour asked for is dry, and answers go by the dry mix.",
        drying=practice.bench.paints.binder.drying,
    )


def _fill(colour: PileColour, pile: Pile | None) -> str:
    is_dry = pile is not None and pile.is_dry
    return lab_to_hex([colour.lab if is_dry else colour.wet_lab])[0]


def _sources(
    practice: Practice, fills: Mapping[str, str], colours: Mapping[str, PileColour]
) -> tuple[Source, ...]:
    palette = practice.palette
    tubes = [
        Source(
            name=tube.name,
            label=tube.label,
            fill=fills[tube.name],
            key="",
            there=_ml(palette.dabs.get(tube.name, 0.0)),
        )
        for tube in allowed_tubes(practice.bench, practice.task)
    ]
    piles = [
        Source(
            name=name,
            label=gettext("pile %(name)s", name=name),
            fill=_fill(colours[name], pile),
            key="",
            there=_ml(pile.ml),
        )
        for name, pile in palette.piles.items()
        if name in colours and not pile.is_dry
    ]
    keys = "1234567890"
    return tuple(
        Source(name=s.name, label=s.label, fill=s.fill, key=keys[n : n + 1], there=s.there)
        for n, s in enumerate((*tubes, *piles))
    )


def _usable(practice: Practice, fills: Mapping[str, str]) -> dict[str, str]:
    """Give the fills of the tubes a task leaves free."""
    tubes = allowed_tubes(practice.bench, practice.task)
    return {tube.name: fills[tube.name] for tube in tubes}


def _ml(there: float) -> str:
    return gettext("%(ml)s ml", ml=written(there, ".2f")) if there > 0.0 else ""


def _smears(practice: Practice) -> dict[str, str]:
    """Give how piles look with a little white, by name: a dark one shows its hue so."""
    bench = practice.bench
    labs = {
        name: shown_with_white(parts_in(pile, bench), bench.paints)
        for name, pile in practice.palette.piles.items()
        if pile.ml > 0.0
    }
    fills = lab_to_hex(list(labs.values())) if labs else []
    return dict(zip(labs, fills, strict=True))


def _numbers(
    practice: Practice, colours: Mapping[str, PileColour], table: HueTable
) -> tuple[str, ...]:
    asked = [
        gettext("Asked for: %(words)s.", words=_said(hvc_of(goal.lab), table))
        for goal in practice.task.goals
        if practice.task.shows
    ]
    piles = (
        gettext("Pile %(name)s, once dry: %(words)s.", name=name, words=_said(one.hvc, table))
        for name, one in colours.items()
    )
    return (*asked, *piles)


def _ended(practice: Practice, kept: KeptPractice) -> tuple[str, ...]:
    said = ended_words(practice) if practice.task.goals else ()
    right, count = share_foreseen(foreseen_from_json(one) for one in kept.foreseen)
    if not count:
        return said
    return (
        *said,
        gettext("You foresaw %(right)s of %(count)s changes.", right=right, count=count),
    )


def _playback(practice: Practice) -> tuple[PlaybackStep, ...]:
    """Give what a practised hand would have done, with the pile after each step."""
    steps, played = [], Practice(bench=practice.bench, task=practice.task)
    for step in practised(practice.task, practice.bench):
        played = played.doing(*step.acts)
        alone = Palette(piles={step.pile: played.palette.piles[step.pile]})
        lab = colours_of(alone, practice.bench.paints)[step.pile].lab
        fill = lab_to_hex([lab])[0]
        steps.append(PlaybackStep(words=step_words(step), fill=fill, pile=step.pile))
    return tuple(steps)
