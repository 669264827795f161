"""What a sheet can be held against, in words that follow “held against”."""

from noema.core.exercises.levels import Key

KEY_WORDS = {
    Key.PAINTS: "what these paints give, in even steps",
    Key.OWN_ENDS: "even steps between each student's own ends",
    Key.TEACHER: "a sheet you paint yourself",
    Key.NAMED: "named hues, or the medium's usual ends of value",
}
