"""Amounts and places as a painter says them."""

from collections.abc import Sequence

from noema.core.language import N_, Term, gettext, ngettext

_FRACTIONS = (
    (0.15, N_("a hair")),
    (0.29, N_("about a quarter of a step")),
    (0.41, N_("about a third of a step")),
    (0.58, N_("about half a step")),
    (0.85, N_("about three quarters of a step")),
    (1.2, N_("about a step")),
    (1.75, N_("about a step and a half")),
    (2.3, N_("about two steps")),
    (2.8, N_("about two and a half steps")),
)


_MOST_NAMED = 11  # more cells are counted, not named


def step_words(steps: float) -> str:
    """Say a number of steps, whatever its sign.

    >>> step_words(-0.5), step_words(1.4)
    ('about half a step', 'about a step and a half')
    """
    size = abs(steps)
    words = next((words for limit, words in _FRACTIONS if size < limit), None)
    if words is not None:
        return gettext(words)
    return gettext("about %(size)s steps", size=format(size, ".0f"))


def cell_words(label: str) -> str:
    """Name a cell: a number is a step.

    >>> cell_words("3"), cell_words("red-orange")
    ('step 3', 'red-orange')
    """
    return gettext("step %(label)s", label=label) if label.isdigit() else gettext(label)


def cells_words(labels: Sequence[str]) -> str:
    """Name cells: step 3, steps 3 and 4, orange and green.

    >>> cells_words(["3", "4", "5"]), cells_words(["orange", "green"])
    ('steps 3, 4 and 5', 'orange and green')
    """
    if len(labels) == 1:
        return cell_words(labels[0])
    if len(labels) > _MOST_NAMED:
        return ngettext("%(count)s cell", "%(count)s cells", len(labels))
    named = listed(labels)
    return (
        gettext("steps %(named)s", named=named)
        if all(label.isdigit() for label in labels)
        else named
    )


def listed(names: Sequence[str]) -> str:
    """Name several things one after another.

    >>> listed(["scarlet", "crimson", "white"])
    'scarlet, crimson and white'
    """
    if len(names) < 2:
        return "".join(map(gettext, names))
    others = ", ".join(map(gettext, names[:-1]))
    return gettext("%(others)s and %(last)s", others=others, last=gettext(names[-1]))


def end_words(towards: str) -> str:
    """Say to which end a row crowds: the dark end, or a cell by its name."""
    return {"dark": gettext("the dark end"), "light": gettext("the light end")}.get(
        towards, towards
    )


def opening(sentence: str) -> str:
    """Start a sentence with a capital."""
    said = gettext(sentence) if isinstance(sentence, Term) else sentence
    return said[:1].upper() + said[1:]
