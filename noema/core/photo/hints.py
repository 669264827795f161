"""What to say about a photograph, so that a twelve-year-old can act on it."""

from collections.abc import Sequence

from noema.core.language import N_, gettext
from noema.core.photo.reading import SheetFlag

_HINTS = {
    SheetFlag.WRONG_SHEET: N_("This is another sheet than the one expected."),
    SheetFlag.DARK: N_("The photograph is too dark: take it again near a window."),
    SheetFlag.CROPPED: N_(
        "Part of the sheet is cut off: take it again with all eight black squares in the picture."
    ),
    SheetFlag.BLURRED: N_("The photograph is blurred: hold still and let the camera focus."),
    SheetFlag.NO_SHEET: N_(
        "No sheet was found: lay it flat and take it again with all eight "
        "black squares in the picture."
    ),
    SheetFlag.OVEREXPOSED: N_(
        "Too bright in the photo: step out of the sun or turn the flash off."
    ),
    SheetFlag.UNEVEN_LIGHT: N_(
        "One side is much darker: turn the sheet so that light falls evenly."
    ),
    SheetFlag.NO_REFERENCE: N_(
        "The grey strips can't be seen: keep them clear of paint and hands."
    ),
    SheetFlag.LOW_RESOLUTION: N_("The sheet is too small in the picture: come closer."),
}


def hints(flags: Sequence[SheetFlag]) -> tuple[str, ...]:
    """Give the sentences for a photograph's flags, the most telling first."""
    return tuple(gettext(words) for flag, words in _HINTS.items() if flag in flags)
