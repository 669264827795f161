"""Amounts and places as a painter says them."""

from collections.abc import Sequence

_FRACTIONS = (
    (0.15, "a hair"),
    (0.29, "about a quarter of a step"),
    (0.41, "about a third of a step"),
    (0.58, "about half a step"),
    (0.85, "about three quarters of a step"),
    (1.2, "about a step"),
    (1.75, "about a step and a half"),
    (2.3, "about two steps"),
    (2.8, "about two and a half steps"),
)


_MOST_NAMED = 11  # more cells are counted, not named


def step_words(steps: float) -> str:
    """Say a number of steps, whatever its sign.

    >>> step_words(-0.5), step_words(1.4)
    ('about half a step', 'about a step and a half')
    """
    size = abs(steps)
    return next((words for limit, words in _FRACTIONS if size < limit), f"about {size:.0f} steps")


def cell_words(label: str) -> str:
    """Name a cell: a number is a step.

    >>> cell_words("3"), cell_words("red-orange")
    ('step 3', 'red-orange')
    """
    return f"step {label}" if label.isdigit() else label


def cells_words(labels: Sequence[str]) -> str:
    """Name cells: step 3, steps 3 and 4, orange and green.

    >>> cells_words(["3", "4", "5"]), cells_words(["orange", "green"])
    ('steps 3, 4 and 5', 'orange and green')
    """
    if len(labels) == 1:
        return cell_words(labels[0])
    if len(labels) > _MOST_NAMED:
        return f"{len(labels)} cells"
    named = f"{', '.join(labels[:-1])} and {labels[-1]}"
    return f"steps {named}" if all(label.isdigit() for label in labels) else named


def is_or_are(count: int) -> str:
    """Give the verb for so many."""
    return "is" if count == 1 else "are"


def opening(sentence: str) -> str:
    """Start a sentence with a capital."""
    return sentence[:1].upper() + sentence[1:]
