"""The eye in words: what is asked, what was right, what somebody sees. Nothing about health."""

from collections.abc import Mapping, Sequence
from math import comb, isnan, log

from noema.core.colour.axis import Axis
from noema.core.colour.hvc import HVC
from noema.core.colour.names import HueTable, colour_words
from noema.core.language import N_, gettext, written
from noema.core.seeing.question import Ask, EyeQuestion, shown_hvc
from noema.core.seeing.series import (
    LEAST_SHOWN,
    MOST_SHOWN,
    SCREEN_STEPS,
    Answered,
    Screen,
    SeriesKind,
)
from noema.core.statistics.adaptive import Found

ASKS_WORDS: Mapping[Ask, str] = {
    Ask.LIGHTEST: N_("Which is the lightest?"),
    Ask.OTHER_HUE: N_("Which one is another hue?"),
    Ask.LEANS: N_("Which of these greys leans to a hue?"),
    Ask.STRONGEST: N_("Which is the most intense?"),
    Ask.TOGETHER: N_("Which two neighbours sit closest together?"),
    Ask.UNEVEN: N_("Which step is out of its row?"),
    Ask.ORDER: N_("From dark to light: which comes next?"),
    Ask.PLACE: N_("Where on the wheel is this hue?"),
    Ask.STRENGTH: N_("How intense is it, from 0 (grey) to 8?"),
    Ask.BETWEEN: N_("Which is the mix of the first two?"),
}
SERIES_WORDS: Mapping[SeriesKind, str] = {
    SeriesKind.VALUE: N_("Light and dark"),
    SeriesKind.HUE: N_("Hue beside hue"),
    SeriesKind.CHROMA: N_("Greys that lean, and intensity"),
    SeriesKind.ROWS: N_("Even rows"),
    SeriesKind.PLACES: N_("Order, place, strength and mix"),
}
_SEES = {
    Axis.VALUE: N_("You tell values apart from %(size)s of a step on."),
    Axis.HUE: N_("You tell hues apart from %(size)s steps of the hundred-step circle on."),
    Axis.CHROMA: N_("You tell intensities apart from %(size)s of a chroma step on."),
}
_FEWEST = 12  # answers under which nothing is said of a threshold
_CHANGED = 2.0  # sigmas apart, from which two results are told apart
_NEAR_TOP = 0.95  # of the largest level asked: beyond it nothing was found
_NEAR_FLOOR = 1.5  # times the least a screen shows


def names_of(asked: EyeQuestion, table: HueTable) -> tuple[str, ...]:
    """Name what may be chosen."""
    if asked.ask is Ask.PLACE:
        return tuple(hue.name for hue in table.twelve)
    if asked.ask is Ask.STRENGTH:
        return tuple(str(number) for number in range(asked.answers))
    if asked.ask is Ask.TOGETHER:
        return tuple(
            gettext("%(one)s and %(other)s", one=n, other=n + 1)
            for n in range(1, asked.answers + 1)
        )
    first = 2 if asked.ask is Ask.UNEVEN else 1
    return tuple(str(n + first) for n in range(asked.answers))


def colours_said(asked: EyeQuestion, table: HueTable) -> tuple[str, ...]:
    """Say every colour shown, for who asks for it instead of looking."""
    said = []
    for hue, value, chroma in shown_hvc(asked.fills).tolist():
        hvc = HVC(hue100=None if isnan(hue) else hue, value=value, chroma=chroma)
        said.append(
            gettext(
                "%(words)s (%(numbers)s)",
                words=colour_words(hvc, table),
                numbers=f"{hvc.notation} {value:.2f}/{chroma:.2f}",
            )
        )
    return tuple(said)


def sees_words(quantity: Axis, found: Found, answers: int) -> str:
    """Say the smallest difference somebody sees, with its doubt; empty after few answers."""
    if answers < _FEWEST:
        return ""
    if found.high > _NEAR_TOP * MOST_SHOWN[quantity]:
        return gettext(
            "Too many answers were near chance to say how finely you see %(what)s.",
            what=quantity.words,
        )
    said = gettext(_SEES[quantity], size=_size(found.threshold))
    doubt = gettext(
        "Nineteen times in twenty it lies between %(low)s and %(high)s.",
        low=_size(found.low),
        high=_size(found.high),
    )
    if found.threshold < _NEAR_FLOOR * LEAST_SHOWN[quantity]:
        doubt += " " + gettext("A screen shows hardly less: try it on paper.")
    return f"{said} {doubt}"


def change_words(before: Found, now: Found) -> str:
    """Say whether an eye became finer; empty where chance could have made it."""
    apart = (before.sigma_log**2 + now.sigma_log**2) ** 0.5
    if now.high < before.threshold and log(before.threshold / now.threshold) > _CHANGED * apart:
        return gettext("Finer than before.")
    return ""


def screen_words(screen: Screen) -> str:
    """Say what a screen allowed."""
    said = []
    if screen.light_on_it:
        said.append(gettext("Light lay on the screen: it makes darks look alike."))
    if screen.loses_dark and not screen.light_on_it:
        said.append(
            gettext(
                "This screen showed %(seen)s of %(all)s dark steps: dark colours weren't asked.",
                seen=screen.dark_steps,
                all=SCREEN_STEPS,
            )
        )
    if screen.loses_light:
        said.append(
            gettext(
                "It showed %(seen)s of %(all)s light steps: turn its brightness down a little.",
                seen=screen.light_steps,
                all=SCREEN_STEPS,
            )
        )
    return " ".join(said) or gettext("The screen showed its steps well.")


def places_words(answered: Sequence[Answered]) -> tuple[str, ...]:
    """Say how places, strengths, orders and mixes were seen."""
    said = []
    placed = [one for one in answered if one.ask is Ask.PLACE]
    strong = [one for one in answered if one.ask is Ask.STRENGTH]
    for some, words in (
        (placed, N_("Hues: %(off)s places of twelve beside the right one, on average.")),
        (strong, N_("Intensity: %(off)s steps of eight beside the right one, on average.")),
    ):
        if some:
            off = sum(one.off for one in some) / len(some)
            said.append(gettext(words, off=written(off, ".1f")))
    ordered = [one for one in answered if one.ask is Ask.ORDER]
    if ordered:
        turned = sum(one.off for one in ordered) / len(ordered)
        said.append(
            gettext(
                "Order by value: %(off)s pairs of %(pairs)s turned round, on average.",
                off=written(turned, ".1f"),
                pairs=comb(ordered[0].answers, 2),
            )
        )
    mixes = [one for one in answered if one.ask is Ask.BETWEEN]
    if mixes:
        right = sum(one.is_right for one in mixes)
        said.append(gettext("Mixes: %(right)s of %(count)s right.", right=right, count=len(mixes)))
    return tuple(said)


def _size(number: float) -> str:
    return written(number, ".1f") if number >= 1.0 else written(number, ".2f")
