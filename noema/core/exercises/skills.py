"""What a painter learns."""

from enum import Enum


class Skill(Enum):
    """What a painter learns."""

    HUE = "hue"  # each colour leans where it should
    VALUE = "value"  # as light as asked
    INTENSITY = "intensity"  # as intense as asked
    EVENNESS = "evenness"  # steps alike to the eye
    NEUTRAL = "neutral"  # greys and darks that lean nowhere
    CRAFT = "craft"  # paint that covers, evenly, to the line
