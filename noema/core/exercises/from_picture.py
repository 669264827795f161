"""What a picture tells a kind of exercise that can be made from one."""

from dataclasses import dataclass

from noema.core.exercises.options import Lab


@dataclass(frozen=True, kw_only=True)
class PictureFacts:
    """What is known of a picture when an exercise is made from it; what isn't is empty."""

    spots: tuple[Lab, ...] = ()  # places somebody pointed at
    spot: Lab | None = None  # the one that is looked at
    pair: tuple[str, ...] = ()  # two tubes that do for it
    values: tuple[float, ...] = ()  # its own, from dark to light
