"""When another picture of the same sheet is worth asking for: where light lies over its cells."""

from noema.core.language import gettext, ngettext
from noema.core.photo.reading import CellFlag, Reading, SheetFlag


def why_another(reading: Reading) -> str:
    """Say what another picture of the sheet would help with; empty where none is needed."""
    if not reading.found:
        return ""
    shine, shadow = (_counted(reading, flag) for flag in (CellFlag.GLARE, CellFlag.SHADOW))
    unseen = _counted(reading, CellFlag.CLIPPED) + _counted(reading, CellFlag.OUTSIDE)
    if shine and shine >= shadow:
        return ngettext(
            "Light shines on %(count)s cell: turn the sheet a quarter and photograph it "
            "once more. Both pictures are read together.",
            "Light shines on %(count)s cells: turn the sheet a quarter and photograph it "
            "once more. Both pictures are read together.",
            shine,
        )
    if shadow:
        return ngettext(
            "A shadow ends on %(count)s cell: turn the sheet a quarter and photograph it "
            "once more. Both pictures are read together.",
            "A shadow ends on %(count)s cells: turn the sheet a quarter and photograph it "
            "once more. Both pictures are read together.",
            shadow,
        )
    if unseen:
        return ngettext(
            "%(count)s cell can't be seen well: photograph the sheet once more, all of it in the "
            "picture and not too bright. Both pictures are read together.",
            "%(count)s cells can't be seen well: photograph the sheet once more, all of it in the "
            "picture and not too bright. Both pictures are read together.",
            unseen,
        )
    if SheetFlag.BLURRED in reading.flags:
        return gettext(
            "The picture is blurred: hold still and photograph the sheet once more. Both pictures "
            "are read together."
        )
    return ""


def _counted(reading: Reading, flag: CellFlag) -> int:
    return sum(flag in cell.flags for cell in reading.cells)
