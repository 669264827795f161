"""What a painter learns."""

from enum import Enum

from noema.core.language import N_


class Skill(Enum):
    """What a painter learns."""

    HUE = N_("hue")  # each colour leans where it should
    VALUE = N_("value")  # as light as asked
    INTENSITY = N_("intensity")  # as intense as asked
    EVENNESS = N_("evenness")  # steps alike to the eye
    NEUTRAL = N_("neutral")  # greys and darks that lean nowhere
    CRAFT = N_("craft")  # paint that covers, evenly, to the line
