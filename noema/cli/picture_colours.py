"""What commands about pictures have in common: opening one."""

from pathlib import Path

from noema.core.errors import BadFile
from noema.core.pictures.colours import PictureColours, colours_of_picture
from noema.formats.photo_file import open_photo

_LEAST_SIDE_PX = 8  # a picture to paint from may be small: nothing is measured in it


def opened_picture(path: Path) -> PictureColours:
    """Open a picture file; refuses what isn't one, by its name."""
    data = path.read_bytes()
    try:
        return colours_of_picture(open_photo(data, _LEAST_SIDE_PX))
    except BadFile as wrong:
        raise BadFile(f"{path.name}: {wrong}") from wrong
