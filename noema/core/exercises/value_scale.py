"""The value scale: black to white in equal steps.

Step 1 is the darkest. Expected values are equally spaced in value, which is how the eye counts
them; the two ends are the medium's usual ones or those the student painted.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from noema.core.errors import BadExercise
from noema.core.exercises.levels import Key
from noema.core.exercises.media import REACH, Medium

KIND = "value-scale"
FEWEST_STEPS, MOST_STEPS = 5, 11

_NUMBER_WORDS = ["five", "six", "seven", "eight", "nine", "ten", "eleven"]


@dataclass(frozen=True, kw_only=True)
class ValueScale:
    """A value scale as assigned."""

    steps: int  # 5 to 11 cells, darkest first
    medium: Medium

    def __post_init__(self) -> None:
        if not FEWEST_STEPS <= self.steps <= MOST_STEPS:
            raise BadExercise(
                f"A value scale has {FEWEST_STEPS} to {MOST_STEPS} steps, not {self.steps}: "
                "choose a number between them."
            )

    @property
    def title(self) -> str:
        """What it is called on the sheet and in lists."""
        return f"Value scale, {_NUMBER_WORDS[self.steps - FEWEST_STEPS]} steps"

    @property
    def cell_ids(self) -> tuple[str, ...]:
        """The cells' names, darkest first."""
        return tuple(f"c{step}" for step in range(1, self.steps + 1))


def even_values(darkest: float, lightest: float, steps: int) -> tuple[float, ...]:
    """Give equally spaced values from the darkest to the lightest.

    >>> even_values(2.0, 10.0, 5)
    (2.0, 4.0, 6.0, 8.0, 10.0)
    """
    stride = (lightest - darkest) / (steps - 1)
    return tuple(darkest + stride * step for step in range(steps))


def fixed_values(scale: ValueScale) -> tuple[float, ...]:
    """Give the steps between the ends usual for the medium."""
    reach = REACH[scale.medium]
    return even_values(reach.darkest, reach.lightest, scale.steps)


def expected_values(
    scale: ValueScale, key: Key, painted_values: Sequence[float | None]
) -> tuple[float, ...]:
    """Give each step's expected value under a key, darkest first.

    With the student's own ends an end that couldn't be read falls back to the medium's.

    >>> scale = ValueScale(steps=5, medium=Medium.ACRYLIC)
    >>> expected_values(scale, Key.OWN_ENDS, [3.0, None, None, None, 9.0])
    (3.0, 4.5, 6.0, 7.5, 9.0)
    """
    if key is Key.EVEN:
        return fixed_values(scale)
    reach = REACH[scale.medium]
    first, last = painted_values[0], painted_values[-1]
    darkest = reach.darkest if first is None else first
    lightest = reach.lightest if last is None else last
    if lightest - darkest < 1.0:
        return fixed_values(scale)
    return even_values(darkest, lightest, scale.steps)


def how_to(medium: Medium) -> tuple[str, str]:
    """Give the two lines printed on the sheet, in the order a painter works."""
    if medium.is_dry:
        return (
            "Make both ends first: bare paper at one, your darkest dark at the other. "
            "Then the middle, then the steps between.",
            "Build up each step in thin layers right to the outline. "
            "Squint: every step should jump the same. Photograph it flat, in daylight.",
        )
    return (
        "Mix plenty of both ends first. Start each step from the lighter pile and bring in the "
        "darker by small touches; clean the knife between mixes.",
        "Paint each step thick and even, right to the outline. "
        "Let it dry, squint, then photograph it flat, in daylight.",
    )
