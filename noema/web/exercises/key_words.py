"""What a sheet can be held against, in words that follow “held against”."""

from noema.core.exercises.levels import Key
from noema.core.language import N_

KEY_WORDS = {
    Key.PAINTS: N_("what these paints give, in even steps"),
    Key.OWN_ENDS: N_("even steps between each student's own ends"),
    Key.TEACHER: N_("a sheet you paint yourself"),
    Key.NAMED: N_("named hues, or the medium's usual ends of value"),
}
