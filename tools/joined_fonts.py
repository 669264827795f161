"""Join a typeface's subsets into the one file that PDFs embed."""

import tempfile
from collections.abc import Iterable
from pathlib import Path

from fontTools.merge import Merger
from fontTools.ttLib import TTFont

_MARKS = ("GSUB", "GPOS", "GDEF")


def opened(file: Path) -> TTFont:
    """Open a font so that it is saved unpacked and without today's date."""
    font = TTFont(file, recalcTimestamp=False)
    font.flavor = None
    return font


def joined(files: Iterable[Path]) -> TTFont:
    """Join subsets whose letters need no shaping; the first one's dates stay.

    Each is put into a folder of its own first, as the merger reads files.
    """
    fonts = [opened(file) for file in files]
    head = fonts[0]["head"]
    with tempfile.TemporaryDirectory() as scratch:
        parts = []
        for number, font in enumerate(fonts):
            for table in _MARKS:
                if table in font:
                    del font[table]
            parts.append(str(Path(scratch) / f"{number}.ttf"))
            font.save(parts[-1])
        whole = Merger().merge(parts)
    whole["head"].created, whole["head"].modified = head.created, head.modified
    whole.recalcTimestamp = False
    return whole
