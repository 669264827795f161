"""The value scale: black to white in equal steps.

Step 1 is the darkest. Expected values are equally spaced in value, which is how the eye counts
them; the two ends are the medium's usual ones.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from noema.core.colour.hvc import hvc_of
from noema.core.colour.value import value_to_lab
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, Even
from noema.core.exercises.media import REACH, Medium

KIND = "value-scale"
FEWEST_STEPS, MOST_STEPS = 5, 11
USUAL_STEPS = 9

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


def plain_scale(scale: ValueScale) -> Asked:
    """Give the exercise: neutral steps between the medium's usual ends, without a set of paints."""
    return Asked(
        kind=KIND,
        title=scale.title,
        arrangement=Arrangement.ROWS,
        bands=(Band(label="", cells=tuple(_plain_cells(scale)), even=Even.VALUE),),
        how_to=how_to(scale.medium),
    )


def _plain_cells(scale: ValueScale) -> Iterator[AskedCell]:
    for n, value in enumerate(fixed_values(scale), start=1):
        lightness, a, b = value_to_lab(value).tolist()
        yield AskedCell(
            id=f"c{n}",
            label=str(n),
            lab=(lightness, a, b),
            hvc=hvc_of((lightness, a, b)),
            parts=(),
            note=f"Value {value:.1f}.",
            is_end=n in (1, scale.steps),
        )


def how_to(medium: Medium) -> tuple[str, str]:
    """Give the two lines printed on the sheet, in the order a painter works."""
    if medium is Medium.WATERCOLOUR:
        return (
            "Make both ends first: bare paper at one, your strongest wash at the other. "
            "Then the middle, then the steps between, with more water for each lighter one.",
            "Let each wash dry before you judge it; another layer makes it darker. "
            "Squint: every step should jump the same. Photograph it flat, in daylight.",
        )
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
